<script setup lang="ts">
/** The reading style of the site: its parts, colours and lengths, seen at work before they are written. */
import { computed, onBeforeUnmount, onMounted, reactive, ref, watch } from "vue";
import { detailOf, type StyleView } from "../api/client";
import { useChoices, type StyleSettings } from "../stores/choices";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";
import { useTray } from "../stores/tray";
import AskDialog from "./AskDialog.vue";

const page = usePage();
const tray = useTray();
const choices = useChoices();
const dialogs = useDialogs();

const PARTS: [StyleSettings["parts"][number], string][] = [
  ["contents", "contents and jump row"],
  ["side", "contents at the side, in sight"],
  ["back", "ways back"],
  ["parts", "links between parts"],
  ["buttons", "jump links like buttons"],
  ["room", "room above a landing, for a bar at the top"],
  ["below", "room below the last section"],
  ["mark", "a mark on the section just reached"],
  ["smooth", "smooth scrolling, unless readers ask for less motion"],
  ["samples", "samples scroll in their box"],
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

function takeOut(): void {
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
        <label v-for="[part, words] in PARTS" :key="part" class="part"
          ><input v-model="style.parts" type="checkbox" :value="part" />
          <span>{{ words }}<span v-if="found?.used.includes(part)" class="soft small"> · used</span></span></label
        >
        <div class="lengths">
          <label
            >Colour <input v-model="style.accent" type="color" aria-label="Colour of links, rules and marks"
          /></label>
          <label
            >of the mark <input v-model="style.wash" type="color" aria-label="Colour behind the section just reached"
          /></label>
          <label class="long"
            >The bar is
            <input v-model.number="style.bar" class="field short" type="number" min="0" max="20" step="0.5" /> rem
            high</label
          >
          <label class="long"
            >The side is <input v-model.number="style.side" class="field short" type="number" min="8" max="40" /> rem
            wide,</label
          >
          <label class="long"
            >in windows from
            <input v-model.number="style.narrow" class="field short" type="number" min="20" max="120" /> rem on</label
          >
          <label class="long"
            >The room below is
            <input v-model.number="style.below" class="field short" type="number" min="0" max="100" /> % of the
            window</label
          >
        </div>
      </div>
      <div class="look">
        <p class="row small">
          <span class="soft">{{ page.path }} at {{ wide }} pixels</span
          ><label><input v-model="narrow" type="checkbox" /> narrow window</label>
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
      ><button v-if="found?.written" type="button" class="button quiet" @click="takeOut">Take it out</button
      ><span class="fill"
    /></template>
  </AskDialog>
</template>

<style scoped>
.sides {
  display: grid;
  grid-template-columns: 270px minmax(0, 1fr);
  gap: 18px;
}

.settings {
  display: flex;
  flex-direction: column;
  gap: 6px;
}

.part {
  display: flex;
  gap: 6px;
  align-items: baseline;
}

.lengths {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 6px 10px;
  padding-top: 6px;
  border-top: 1px solid var(--line);
}

.lengths label {
  display: inline-flex;
  gap: 5px;
  align-items: center;
}

.lengths .long {
  grid-column: 1 / -1;
}

input[type="color"] {
  width: 34px;
  height: 26px;
  padding: 1px;
  border: 1px solid var(--line-strong);
  border-radius: var(--radius);
  background: none;
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

.fill {
  flex: 1;
}
</style>
