<script setup lang="ts">
/** What of a page is its own content, corrected by its author and remembered. */
import { computed, onMounted, ref } from "vue";
import { detailOf, type Region } from "../api/client";
import { useChoices } from "../stores/choices";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";
import { useTray } from "../stores/tray";
import AskDialog from "./AskDialog.vue";

type Part = "content" | "own" | "furniture";

const page = usePage();
const tray = useTray();
const choices = useChoices();
const dialogs = useDialogs();
const regions = ref<Region[]>([]);
const parts = ref<Record<string, Part>>({});
const found = ref<Record<string, Part>>({});
const everywhere = ref(false);
const problem = ref("");
const said = computed(() =>
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
    tray.said = forget ? "What counts as content is found out anew." : "What counts as content is remembered.";
    dialogs.close();
  } catch (error) {
    problem.value = detailOf(error);
  }
}
</script>

<template>
  <AskDialog
    title="What is this page's own content?"
    does="Remember"
    :able="said"
    :width="700"
    :problem="problem"
    @go="keep()"
  >
    <p class="soft small">
      Headings in navigation, header and footer do not enter the outline. Say what was told wrong.
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
        <select
          class="field"
          :value="parts[region.selector]"
          :aria-label="`${region.tag}: ${region.text}`"
          @change="choose(region.selector, ($event.target as HTMLSelectElement).value as Part)"
        >
          <option value="content">holds the content</option>
          <option value="own">part of the content</option>
          <option value="furniture">furniture</option>
        </select>
      </div>
    </div>
    <div class="row">
      <label><input v-model="everywhere" type="checkbox" /> on all pages of the site</label>
    </div>
    <template #more
      ><button type="button" class="button quiet" @click="keep(true)">Forget what I said</button></template
    >
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
