<script setup lang="ts">
/** The reading style of the site: its parts, colours and lengths, seen at work before they are written. */
import { computed, onBeforeUnmount, onMounted, reactive, ref, watch } from "vue";
import { detailOf, type StyleView } from "../api/client";
import { useChoices, type StyleSettings } from "../stores/choices";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";
import { useTray } from "../stores/tray";
import PickOne from "../components/PickOne.vue";
import AskDialog from "./AskDialog.vue";

const page = usePage();
const tray = useTray();
const choices = useChoices();
const dialogs = useDialogs();

const PARTS: [StyleSettings["parts"][number], string][] = [
  ["contents", "contents and jump row"],
  ["side", "contents at the side, in sight"],
  ["back", "back-to-top links"],
  ["parts", "links between parts"],
  ["buttons", "jump links like buttons"],
  ["room", "room above landings, for a bar"],
  ["below", "room below the last section"],
  ["mark", "a mark on the section just reached"],
  ["smooth", "smooth scrolling, if readers allow it"],
  ["samples", "samples scroll in their box"],
];
const LOOKS = [
  { value: "line" as const, words: "under a line" },
  { value: "boxes" as const, words: "in boxes" },
  { value: "band" as const, words: "on a band" },
];
const LENGTHS = [
  { name: "bar" as const, words: "Bar at the top, rem", least: 0, most: 20, step: 0.5 },
  { name: "side" as const, words: "Contents at the side, rem", least: 8, most: 40, step: 1 },
  { name: "narrow" as const, words: "At the side from, rem", least: 20, most: 120, step: 1 },
  { name: "below" as const, words: "Room below, % of window", least: 0, most: 100, step: 5 },
];
const found = ref<StyleView | null>(null);
const style = reactive<StyleSettings>({
  parts: [],
  accent: "#1d5c4a",
  wash: "#fff3c4",
  bar: 4,
  side: 16,
  narrow: 60,
  below: 50,
  look: "line",
});
const narrow = ref(false);
const problem = ref("");
const frame = ref<HTMLIFrameElement | null>(null);
const address = computed(
  () =>
    `/preview/${page.siteId}/${page.path.split("/").map(encodeURIComponent).join("/")}?r=${page.saved?.revision.slice(0, 12) ?? ""}`,
);
const wide = computed(() => (narrow.value ? 480 : 1280));
const scale = computed(() => (narrow.value ? 0.9 : 0.505));
let timer = 0;

async function show(): Promise<void> {
  try {
    const css = await choices.styleText({ ...style, parts: [...style.parts] });
    frame.value?.contentWindow?.postMessage({ to: "signpost-walk", kind: "style", css }, "*");
    problem.value = "";
  } catch (error) {
    problem.value = detailOf(error);
  }
}

function hear(event: MessageEvent): void {
  if (
    event.source === frame.value?.contentWindow &&
    event.data?.from === "signpost-walk" &&
    event.data.kind === "ready"
  )
    void show();
}

onMounted(async () => {
  window.addEventListener("message", hear);
  try {
    found.value = await choices.style();
    Object.assign(style, found.value.style, { parts: [...found.value.style.parts] });
  } catch (error) {
    problem.value = detailOf(error);
  }
});
onBeforeUnmount(() => window.removeEventListener("message", hear));
watch(style, () => {
  window.clearTimeout(timer);
  timer = window.setTimeout(show, 120);
});

function go(): void {
  void tray.propose({ operation: "style", page: page.path, ...style, parts: [...style.parts] });
  dialogs.close();
}

function remove(): void {
  void tray.propose({ operation: "no-style", page: page.path });
  dialogs.close();
}
</script>

<template>
  <AskDialog
    title="Reading style"
    does="Show the edits"
    :able="found !== null && style.parts.length > 0"
    :width="980"
    :problem="problem"
    @go="go"
  >
    <div class="sides">
      <div class="settings">
        <p class="soft small">
          A few rules in <strong>{{ found?.sheet ?? "a new style sheet, reading.css" }}</strong>, between two marks.
          Your own rules stay as they are.
        </p>
        <el-checkbox-group v-model="style.parts" class="parts">
          <el-checkbox v-for="[part, words] in PARTS" :key="part" :value="part"
            >{{ words }}<span v-if="found?.used.includes(part)" class="soft small"> · in use</span></el-checkbox
          >
        </el-checkbox-group>
        <div class="lengths">
          <span>Links and marks</span
          ><el-color-picker v-model="style.accent" size="small" aria-label="Colour of links, rules and marks" />
          <span>Section just reached</span
          ><el-color-picker v-model="style.wash" size="small" aria-label="Colour behind the section just reached" />
          <template v-if="style.parts.includes('parts')">
            <span>Links between parts</span>
            <PickOne v-model="style.look" :choices="LOOKS" label="Look of the links between parts" :width="120" />
          </template>
          <template v-for="length in LENGTHS" :key="length.name">
            <span>{{ length.words }}</span>
            <el-input-number
              v-model="style[length.name]"
              size="small"
              controls-position="right"
              :min="length.least"
              :max="length.most"
              :step="length.step"
              :aria-label="length.words"
            />
          </template>
        </div>
      </div>
      <div class="look">
        <p class="row small">
          <span class="soft">{{ page.path }} at {{ wide }} pixels</span
          ><el-checkbox v-model="narrow">Narrow window</el-checkbox>
        </p>
        <div class="window" :class="{ narrow }">
          <iframe
            ref="frame"
            :key="wide"
            :src="address"
            sandbox="allow-scripts"
            referrerpolicy="no-referrer"
            title="The page in this style"
            :style="{ width: `${wide}px`, height: `${420 / scale}px`, transform: `scale(${scale})` }"
          />
        </div>
      </div>
    </div>
    <template #more
      ><el-button text v-if="found?.written" @click="remove">Remove from the style sheet</el-button></template
    >
  </AskDialog>
</template>

<style scoped>
.sides {
  display: grid;
  grid-template-columns: 290px minmax(0, 1fr);
  gap: 18px;
}

.settings {
  display: flex;
  flex-direction: column;
  gap: 6px;
}

.parts {
  display: flex;
  flex-direction: column;
}

.parts .el-checkbox {
  height: 26px;
  margin: 0;
}

.lengths {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 4px 10px;
  align-items: center;
  padding-top: 8px;
  border-top: 1px solid var(--line);
}

.look {
  min-width: 0;
}

.look .row {
  justify-content: space-between;
}

.window {
  height: 420px;
  overflow: hidden;
  border: 1px solid var(--line-strong);
  border-radius: var(--radius);
  background: #fff;
}

.window.narrow {
  width: 434px;
  margin: 0 auto;
}

iframe {
  border: 0;
  transform-origin: 0 0;
}
</style>
