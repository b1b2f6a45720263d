<script setup lang="ts">
/** The ledger: the page's sections in their order, the columns of the stage of work brought forward. */
import { computed, nextTick, ref, watch } from "vue";
import type { PageView, SectionView } from "../api/client";
import { useContents } from "../composables/useContents";
import { useHeadings } from "../composables/useHeadings";
import { usePage } from "../stores/page";
import LinkRow from "./LinkRow.vue";
import LookalikeRow from "./LookalikeRow.vue";
import MissingRow from "./MissingRow.vue";
import OfferRow from "./OfferRow.vue";
import SectionRow from "./SectionRow.vue";
import { aboutOf, keyOf, rowsOf, type Column, type Row } from "./rows";
import { stepOf } from "./rowSteps";
import { useDrag } from "./useDrag";
import { useVirtualRows } from "./useVirtualRows";

const props = defineProps<{
  page: PageView;
  locked: boolean; // whether nothing may be edited now
}>();
const emit = defineEmits<{
  select: [index: number];
  identify: [section: SectionView, name: string];
}>();

/** About how high rows are until they are drawn and measured, in CSS pixels. */
const HEIGHTS: Record<Row["kind"], number> = { section: 31, link: 33, offer: 33, lookalike: 58, missing: 33 };

const state = usePage();
const stage = computed(() => state.stage);
const headings = useHeadings();
const contents = useContents();
const drag = useDrag((section, target, where) => headings.drop(section, target, where));
const table = ref<HTMLElement | null>(null);
const editing = ref<{ index: number; column: Column } | null>(null);

const rows = computed(() => rowsOf(props.page, state.stage, state.linksShown));
const { span, reveal, measure } = useVirtualRows({
  count: () => rows.value.length,
  estimate: (at) => HEIGHTS[rows.value[at]?.kind ?? "section"],
  holder: table,
});
const drawn = computed(() => {
  const { from, to } = span.value;
  return rows.value.slice(from, to).map((row, step) => ({ row, at: from + step }));
});
/** The narrow column that a stage has at the right; "" for none. */
const mark = computed(() => (state.stage === "back-to-top" ? "Back" : ""));

const rowOf = (index: number) => table.value?.querySelector<HTMLElement>(`[data-row="${index}"]`) ?? null;
const placeOf = (index: number) =>
  rows.value.findIndex((row) => row.kind === "section" && row.section.index === index);

watch(
  () => state.selected,
  (index) =>
    nextTick(() => {
      const row = rowOf(index);
      if (row) row.scrollIntoView({ block: "nearest" });
      else reveal(placeOf(index));
    }),
);

watch(
  () => state.pointed,
  (place) =>
    nextTick(() =>
      reveal(rows.value.findIndex((row) => row.kind !== "section" && aboutOf(row).start === place?.start)),
    ),
);

const usualColumn = computed<Column>(
  () => (({ headings: "words", contents: "entry" }) as Record<string, Column>)[state.stage] ?? "identifier",
);

/** Begin to edit what the stage is about: a heading's words, its entry, or else its identifier. */
function edit(section: SectionView, column: Column = usualColumn.value): void {
  if (column === "entry" && !contents.entries.value.has(section.index)) return;
  if (!props.locked) editing.value = { index: section.index, column };
}

const isEditing = (section: SectionView, column: Column) =>
  editing.value?.index === section.index && editing.value.column === column;

function finish(section: SectionView, column: Column, value: string): void {
  if (column === "better") return emit("identify", section, value);
  if (!isEditing(section, column)) return;
  leave(section);
  if (column === "entry") contents.setWords(section.index, value);
  else if (column === "words") headings.setWords(section, value);
  else if (value !== (section.identifier ?? "")) emit("identify", section, value);
}

function leave(section: SectionView): void {
  editing.value = null;
  void nextTick(() => rowOf(section.index)?.focus());
}

/** Go to another row of the table as it is, the rows between sections too. */
function go(from: HTMLElement, step: number): void {
  const at = Math.min(Math.max(Number(from.dataset.at) + step, 0), rows.value.length - 1);
  const row = rows.value[at];
  reveal(at);
  if (row?.kind === "section") emit("select", row.section.index);
  void nextTick(() => table.value?.querySelector<HTMLElement>(`[data-at="${at}"]`)?.focus());
}

function move(event: KeyboardEvent): void {
  const step = stepOf(event);
  if (step === undefined) return;
  go(event.currentTarget as HTMLElement, step);
  event.preventDefault();
  event.stopPropagation();
}

function press(event: KeyboardEvent, section: SectionView): void {
  if (event.target !== event.currentTarget || event.ctrlKey || event.metaKey || event.altKey) return;
  if (event.key === "Enter") edit(section);
  else if (event.key === " " && state.stage === "contents") {
    if (!props.locked) contents.toggle(section.index);
  } else if (event.key === " " && state.stage === "headings") state.toggleMark(section.index);
  else return;
  event.preventDefault();
  event.stopPropagation();
}

function pick(event: MouseEvent, index: number): void {
  if (state.stage === "headings" && event.shiftKey) state.markTo(index);
  else if (state.stage === "headings" && (event.ctrlKey || event.metaKey)) state.toggleMark(index);
  else if (state.stage === "headings" && state.marked.size && !state.marked.has(index)) state.unmark();
  emit("select", index);
}

/** Go to the row after or before the one that is selected, from wherever the keyboard is. */
function step(by: number): void {
  const selected = placeOf(state.selected);
  const focused = Number(document.activeElement?.closest<HTMLElement>("[data-at]")?.dataset.at ?? -1);
  const from = focused >= 0 ? focused : selected;
  const at = Math.min(Math.max(from + by, 0), rows.value.length - 1);
  const row = rows.value[at];
  if (!row) return;
  reveal(at);
  if (row.kind === "section") emit("select", row.section.index);
  else void nextTick(() => table.value?.querySelector<HTMLElement>(`[data-at="${at}"]`)?.focus());
}

/** Put the keyboard on the selected row. */
function focus(): void {
  if (!props.page.sections.length) {
    table.value?.querySelector<HTMLElement>("[data-at='0']")?.focus();
    return;
  }
  const index = Math.max(state.selected, 0);
  emit("select", index);
  const at = Math.max(placeOf(index), 0); // the first row where the section itself is not listed
  reveal(at);
  void nextTick(() => table.value?.querySelector<HTMLElement>(`[data-at="${at}"]`)?.focus());
}

function editSelected(): void {
  const section = props.page.sections[state.selected];
  if (section) edit(section);
}

defineExpose({ focus, step, editSelected });
</script>

<template>
  <table ref="table" class="sheet" :class="`stage-${stage}`" :aria-rowcount="rows.length + 1">
    <caption class="unseen">
      Sections of
      {{
        page.path
      }}. Arrow keys choose one, Enter edits it.
    </caption>
    <thead>
      <tr>
        <th scope="col" class="level">Level</th>
        <th scope="col" class="words-of">Heading</th>
        <th v-if="stage === 'contents'" scope="col" class="entry">Entry</th>
        <th v-else scope="col" class="identifier">Identifier</th>
        <th v-if="stage === 'jumps'" scope="col" class="number" title="Links that lead here, from all pages">
          Links in
        </th>
        <th v-else-if="stage !== 'contents'" scope="col" class="number">Words</th>
        <th v-if="mark" scope="col" class="mark">{{ mark }}</th>
        <th scope="col" class="more"><span class="unseen">Address</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-if="span.before" class="room" aria-hidden="true">
        <td colspan="4" :style="{ height: `${span.before}px` }" />
      </tr>
      <template v-for="{ row, at } in drawn" :key="keyOf(row)">
        <LookalikeRow
          v-if="row.kind === 'lookalike'"
          :ref="measure as never"
          :data-at="at"
          :found="row.found"
          :locked="locked"
          @focus="state.point(row.found)"
          @click="state.point(row.found)"
          @keydown="move"
        />
        <MissingRow
          v-else-if="row.kind === 'missing'"
          :ref="measure as never"
          :data-at="at"
          :found="row.found"
          :locked="locked"
          @focus="state.point(row.found)"
          @click="state.point(row.found)"
          @keydown="move"
        />
        <LinkRow
          v-else-if="row.kind === 'link'"
          :ref="measure as never"
          :data-at="at"
          :link="row.link"
          :locked="locked"
          @focus="state.point(row.link)"
          @click="state.point(row.link)"
          @keydown="move"
        />
        <OfferRow
          v-else-if="row.kind === 'offer'"
          :ref="measure as never"
          :data-at="at"
          :offer="row.offer"
          :locked="locked"
          @focus="state.point(row.offer)"
          @click="state.point(row.offer)"
          @keydown="move"
        />
        <SectionRow
          v-else
          :ref="measure as never"
          :data-at="at"
          :section="row.section"
          :locked="locked"
          :editing="editing?.index === row.section.index ? editing.column : null"
          :idle="!editing"
          :drag="drag"
          @select="emit('select', row.section.index)"
          @pick="pick($event, row.section.index)"
          @edit="edit(row.section, $event)"
          @finish="(column, value) => finish(row.section, column, value)"
          @leave="leave(row.section)"
          @press="
            press($event, row.section);
            move($event);
          "
        />
      </template>
      <tr v-if="span.after" class="room" aria-hidden="true">
        <td colspan="4" :style="{ height: `${span.after}px` }" />
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
thead th {
  padding: 5px 4px;
}

thead abbr {
  text-decoration: none;
}

.level {
  width: 46px;
  padding-left: 6px;
}

.identifier {
  width: 27%;
}

.stage-identifiers .identifier {
  width: 38%;
}

.stage-headings .identifier {
  width: 30%;
}

th.entry {
  width: 46%;
}

.stage-jumps .number {
  width: 64px;
}

.number {
  width: 46px;
  text-align: right;
  font-variant-numeric: tabular-nums;
}

.mark {
  width: 46px;
  text-align: center;
}

thead .mark {
  text-align: center;
}

thead .number {
  text-align: right;
}

.more {
  width: 30px;
  padding: 0;
}

.stage-identifiers thead .identifier,
.stage-contents thead .entry,
.stage-jumps thead .number,
.stage-back-to-top thead .mark,
.stage-headings thead .words-of {
  color: var(--post);
  box-shadow: inset 0 -2px 0 var(--post);
}
</style>
