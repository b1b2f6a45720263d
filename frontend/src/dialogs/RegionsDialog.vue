<script setup lang="ts">
/** What of a page is its own content, corrected by its author and remembered. */
import { computed, onMounted, ref } from "vue";
import { detailOf, type Region } from "../api/client";
import { useChoices } from "../stores/choices";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";
import { useTray } from "../stores/tray";
import PickOne, { type Choice } from "../components/PickOne.vue";
import AskDialog from "./AskDialog.vue";

type Part = "content" | "own" | "furniture";

const PARTS: Choice<Part>[] = [
  { value: "content", words: "holds the content" },
  { value: "own", words: "part of the content" },
  { value: "furniture", words: "not content" },
];
const page = usePage();
const tray = useTray();
const choices = useChoices();
const dialogs = useDialogs();
const regions = ref<Region[]>([]);
const parts = ref<Record<string, Part>>({});
const found = ref<Record<string, Part>>({});
const everywhere = ref(false);
const problem = ref("");
const changed = computed(() =>
  Object.keys(parts.value).some((selector) => parts.value[selector] !== found.value[selector]),
);

onMounted(async () => {
  try {
    const view = await choices.regions();
    regions.value = view.regions;
    const read = (region: Region): Part => (region.content ? "content" : region.furniture ? "furniture" : "own");
    found.value = Object.fromEntries(view.regions.map((region) => [region.selector, read(region)]));
    parts.value = { ...found.value };
  } catch (error) {
    problem.value = detailOf(error);
  }
});

/** Only one element contains the content; the one that did is an ordinary part then. */
function choose(selector: string, part: Part): void {
  if (part === "content")
    for (const other of Object.keys(parts.value)) if (parts.value[other] === "content") parts.value[other] = "own";
  parts.value[selector] = part;
}

async function keep(forget = false): Promise<void> {
  const chosen = (part: Part) =>
    forget ? [] : Object.keys(parts.value).filter((at) => parts.value[at] === part && found.value[at] !== part);
  const [content = null] = forget ? [] : Object.keys(parts.value).filter((at) => parts.value[at] === "content");
  try {
    await choices.sayRegions({
      path: everywhere.value ? "" : page.path,
      content,
      furniture: chosen("furniture"),
      own: chosen("own"),
    });
    tray.notice = forget ? "Your corrections were removed." : "Your corrections are remembered.";
    dialogs.close();
  } catch (error) {
    problem.value = detailOf(error);
  }
}
</script>

<template>
  <AskDialog title="What counts as content" does="Save" :able="changed" :width="700" :problem="problem" @go="keep()">
    <p class="soft small">
      Headings in navigation, header and footer are not part of the outline. Correct what was misidentified.
    </p>
    <div class="list scroller" tabindex="0" aria-label="Parts of the page">
      <div
        v-for="region in regions"
        :key="region.selector"
        class="region"
        :style="{ paddingLeft: `${region.depth * 16 + 6}px` }"
      >
        <p class="clipped">
          <code>{{ region.tag }}</code> {{ region.text }} <span class="soft small">{{ region.words }} words</span>
        </p>
        <PickOne
          :model-value="parts[region.selector]!"
          :choices="PARTS"
          :label="`${region.tag}: ${region.text}`"
          :width="150"
          @update:model-value="choose(region.selector, $event)"
        />
      </div>
    </div>
    <el-checkbox v-model="everywhere">On all pages of the site</el-checkbox>
    <template #more><el-button text @click="keep(true)">Remove my corrections</el-button></template>
  </AskDialog>
</template>

<style scoped>
.list {
  max-height: 46vh;
}

.region {
  display: flex;
  gap: 10px;
  align-items: center;
  padding: 4px 6px;
  border-bottom: 1px solid var(--line);
}

.region p {
  flex: 1;
  min-width: 0;
}
</style>
