<script setup lang="ts">
/** The source, edited by hand as freely as in an editor of one's own. */
import { nextTick, onBeforeUnmount, onMounted, ref, watch } from "vue";
import { useRoute } from "vue-router";
import { api, data, detailOf, type PageIndex } from "../api/client";
import { useFindings } from "../findings/useFindings";
import { useBench } from "../stores/bench";
import { useMeasures } from "../stores/measures";
import { usePage } from "../stores/page";
import { useTray } from "../stores/tray";
import { useWalk } from "../stores/walk";
import { createEditor, type SourceEditor } from "./editor";
import { anchorsOf, topOfLine } from "./sync";

const props = defineProps<{ inSight: boolean }>();
const emit = defineEmits<{ save: [] }>();
const page = usePage();
const route = useRoute();
const bench = useBench();
const measures = useMeasures();
const tray = useTray();
const { fix } = useFindings(
  () => page.siteId,
  () => "",
);
const walk = useWalk();
const holder = ref<HTMLElement | null>(null);
const problem = ref("");
let editor: SourceEditor | null = null;
let shown = ""; // the revision in the editor
let fromEditor = -2;
let came = page.came; // how often lines came in from elsewhere, as far as they are marked
let behind = false; // whether another section was selected while the source was out of sight

const margin = () =>
  (page.view?.sections ?? []).map((section) => ({
    index: section.index,
    level: section.level,
    text: section.text,
    line: section.line,
    endLine: section.end_line,
  }));

/** Show a text; what of it came from elsewhere is marked. */
function show(text: string): void {
  const fromElsewhere = page.came !== came;
  came = page.came;
  const marked = editor?.setText(text, fromElsewhere) ?? null;
  if (marked !== null) page.cameLines = marked;
}

async function findAddresses(typed: string): Promise<readonly PageIndex[]> {
  const query = { path: page.path, typed };
  try {
    return await data(
      api.GET("/api/sites/{site_id}/completions", { params: { path: { site_id: page.siteId }, query } }),
    );
  } catch {
    return []; // nothing is offered then, and typing goes on
  }
}

async function load(): Promise<void> {
  const revision = page.saved?.revision;
  if (!editor || !revision || page.typing || revision === shown) return;
  const params = { path: { site_id: page.siteId }, query: { path: page.path } };
  try {
    const source = await data(api.GET("/api/sites/{site_id}/source", { params }));
    if (page.typing) return;
    const first = shown === "";
    shown = source.revision;
    show(source.text);
    editor.setLocked(Boolean(page.saved?.locked));
    if (page.saved) editor.setHand(page.saved.hand);
    editor.setSections(margin(), page.selected);
    showFindings();
    const asked = Number(route.query.line);
    if (first && asked) editor.goTo(asked, 1, true);
    else if (first && page.section) editor.goTo(page.section.line);
    problem.value = "";
  } catch (error) {
    problem.value = detailOf(error);
  }
}

/** Underline the page's findings, with their fixes. */
function showFindings(): void {
  const found = page.view?.findings ?? [];
  const fixable = !page.saved?.locked && !tray.busy;
  const shown = fixable ? found : found.map((one) => ({ ...one, fixable: false, choices: [] }));
  editor?.setFindings(shown, (finding, choice) => fix(finding.rule, finding, choice));
}

/** Show the selected section in the source. */
function follow(): void {
  editor?.setSections(margin(), page.selected);
  if (page.selected !== fromEditor && !bench.isLed("source")) editor?.goTo(page.section?.line ?? 1);
  fromEditor = -2;
  behind = false;
}

/** Let the page follow what was scrolled to here; the section at the top is selected once the cursor is out of sight. */
function lead(line: number, cursorSeen: boolean): void {
  const { view } = measures;
  if (!page.view || !view || view.path !== page.path || !bench.leads("source")) return;
  walk.wish = topOfLine(anchorsOf(page.view, view), line);
  if (!cursorSeen)
    page.select((fromEditor = page.view.sections.findLast((one) => one.line <= line + 1)?.index ?? -1));
}

onMounted(() => {
  if (!holder.value) return;
  editor = createEditor(holder.value, {
    findAddresses,
    path: () => page.path,
    onType: (text) => page.type(text),
    onSave: () => emit("save"),
    onSection: (section) => page.select((fromEditor = section)),
    onCursor: (line) => (page.cursorLine = line),
    onScroll: lead,
  });
  if (page.draft !== null) editor.setText(page.draft);
  void load();
});
onBeforeUnmount(() => editor?.destroy());

watch(() => [page.saved?.revision, page.typing], load);
watch(
  () => page.draft,
  (draft, before) => {
    if (draft === null && before !== null) shown = ""; // what was typed is saved or discarded: read again
    if (draft !== null && editor && editor.text() !== draft) show(draft); // taken back, or brought together with others'
    void load();
  },
);
watch(
  () => page.view,
  () => editor?.setSections(margin(), page.selected),
);
watch([() => page.view?.findings, () => tray.busy], showFindings);
watch(
  () => page.selected,
  () => {
    if (props.inSight) follow();
    else behind = true;
  },
);
watch(
  () => page.cameLines,
  (lines) => {
    if (!lines) editor?.forgetCame();
  },
);
watch(
  () => bench.line,
  (line) => {
    if (line) editor?.scrollTo(line);
  },
);
watch(
  () => page.pointed,
  (place) => {
    if (place) editor?.goTo(place.line);
  },
);
watch(
  () => props.inSight,
  (now) => {
    if (now && behind) void nextTick(follow);
  },
);

defineExpose({
  focus: () => editor?.focus(),
  place: () => editor?.place() ?? null,
  selection: () => editor?.selection() ?? null,
  selected: () => editor?.selected() ?? "",
  insert: (template: string) => editor?.insert(template),
  goTo: (line: number, column: number) => editor?.goTo(line, column, true),
});
</script>

<template>
  <div class="source-bench">
    <el-alert v-if="problem" :title="problem" type="error" :closable="false" />
    <div ref="holder" class="holder" :style="{ '--source-type': `${bench.typeSize}px` }" />
  </div>
</template>

<style scoped>
.source-bench {
  display: flex;
  flex-direction: column;
  height: 100%;
  min-height: 0;
}

.holder {
  flex: 1;
  min-height: 0;
}
</style>
