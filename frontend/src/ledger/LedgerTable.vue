<script setup lang="ts">
/** The ledger: the page's sections in their order, the columns of the stage of work brought forward. */
import { computed, nextTick, ref, watch } from "vue";
import type { PageView, SectionView } from "../api/client";
import AddressMenu from "../components/AddressMenu.vue";
import SignIcon from "../components/SignIcon.vue";
import { useContents } from "../composables/useContents";
import { useHeadings } from "../composables/useHeadings";
import { useMeasures } from "../stores/measures";
import { usePage, type Stage } from "../stores/page";
import EditField from "./EditField.vue";
import EntryCell from "./EntryCell.vue";
import IdentifierField from "./IdentifierField.vue";
import LengthCells from "./LengthCells.vue";
import LinkRow from "./LinkRow.vue";
import LookalikeRow from "./LookalikeRow.vue";
import MissingRow from "./MissingRow.vue";
import OfferRow from "./OfferRow.vue";
import { keyOf, rowsOf } from "./rows";
import { useDrag } from "./useDrag";

const props = defineProps<{
  page: PageView;
  siteId: string;
  selected: number;
  stage: Stage;
  cuts: ReadonlySet<number>;
  partOf: number[];
  locked: boolean; // whether nothing may be edited now
}>();
const emit = defineEmits<{ select: [index: number]; identify: [section: SectionView, name: string]; cut: [index: number] }>();

type Column = "words" | "identifier" | "entry";
const state = usePage();
const measures = useMeasures();
const headings = useHeadings();
const contents = useContents();
const drag = useDrag((section, target, where) => headings.drop(section, target, where));
const table = ref<HTMLElement | null>(null);
const editing = ref<{ index: number; column: Column } | null>(null);

const rows = computed(() => rowsOf(props.page, props.stage, state.linksShown));
const marks = computed(() => !["headings", "contents", "jumps"].includes(props.stage)); // whether the three narrow columns are there

const rowOf = (index: number) => table.value?.querySelector<HTMLElement>(`[data-row="${index}"]`) ?? null;

watch(
  () => props.selected,
  (index) => nextTick(() => rowOf(index)?.scrollIntoView({ block: "nearest" })),
);

const usualColumn = computed<Column>(() => ({ headings: "words", contents: "entry" } as Record<string, Column>)[props.stage] ?? "identifier");

/** Begin to edit what the stage is about: a heading's words, its entry, or else its identifier. */
function edit(section: SectionView, column: Column = usualColumn.value): void {
  if (column === "entry" && !contents.entries.value.has(section.index)) return;
  if (!props.locked) editing.value = { index: section.index, column };
}

const isEditing = (section: SectionView, column: Column) =>
  editing.value?.index === section.index && editing.value.column === column;

function finish(section: SectionView, column: Column, value: string): void {
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

/** Go to another row of the table as it stands, the rows between sections too. */
function go(from: HTMLElement, step: number): void {
  const all = [...(table.value?.querySelectorAll<HTMLElement>("tbody tr") ?? [])];
  const next = all[Math.min(Math.max(all.indexOf(from) + step, 0), all.length - 1)];
  if (next?.dataset.row) emit("select", Number(next.dataset.row));
  void nextTick(() => next?.focus());
}

function move(event: KeyboardEvent): void {
  const row = event.currentTarget as HTMLElement;
  const steps: Record<string, number> = {
    ArrowDown: 1, j: 1, ArrowUp: -1, k: -1, Home: -Infinity, End: Infinity, PageDown: 10, PageUp: -10,
  };
  const step = steps[event.key];
  if (event.target !== row || step === undefined || event.ctrlKey || event.metaKey || event.altKey || event.shiftKey) return;
  go(row, step);
  event.preventDefault();
  event.stopPropagation();
}

function press(event: KeyboardEvent, section: SectionView): void {
  if (event.target !== event.currentTarget || event.ctrlKey || event.metaKey || event.altKey) return;
  if (event.key === "Enter") edit(section);
  else if (event.key === " " && props.stage === "parts") {
    if (section.can_cut) emit("cut", section.index);
  } else if (event.key === " " && props.stage === "contents") {
    if (!props.locked) contents.toggle(section.index);
  } else if (event.key === " " && props.stage === "headings") state.toggleMark(section.index);
  else return;
  event.preventDefault();
  event.stopPropagation();
}

function pick(event: MouseEvent, index: number): void {
  if (props.stage === "headings" && event.shiftKey) state.markTo(index);
  else if (props.stage === "headings" && (event.ctrlKey || event.metaKey)) state.toggleMark(index);
  else if (props.stage === "headings" && state.marked.size && !state.marked.has(index)) state.unmark();
  emit("select", index);
}

/** Put the keyboard on the selected row. */
function focus(): void {
  const index = Math.max(props.selected, 0);
  emit("select", index);
  void nextTick(() => rowOf(index)?.focus());
}

function editSelected(): void {
  const section = props.page.sections[props.selected];
  if (section) edit(section);
}

defineExpose({ focus, editSelected });
</script>

<template>
  <table ref="table" :class="`stage-${stage}`">
    <caption class="unseen">Sections of {{ page.path }}. Arrow keys choose one, Enter edits it.</caption>
    <thead>
      <tr>
        <th scope="col" class="level">Level</th>
        <th scope="col" class="words-of">Heading</th>
        <th v-if="stage === 'contents'" scope="col" class="entry">Entry</th>
        <th v-else-if="stage !== 'parts'" scope="col" class="identifier">Identifier</th>
        <th v-if="stage === 'jumps'" scope="col" class="number" title="Links that lead here, from all pages">Links in</th>
        <th v-else-if="stage !== 'contents'" scope="col" class="number">Words</th>
        <template v-if="stage === 'parts'">
          <th scope="col" class="number">Min.</th>
          <th scope="col" class="number windows">Windows</th>
          <th scope="col" class="number share">Share</th>
        </template>
        <th v-if="marks && stage !== 'parts'" scope="col" class="mark contents" title="Listed in the contents"><abbr title="Listed in the contents">List</abbr></th>
        <th v-if="marks && stage !== 'parts'" scope="col" class="mark returns" title="Has a way back to the top"><abbr title="Has a way back to the top">Back</abbr></th>
        <th v-if="marks" scope="col" class="mark parts">Part</th>
        <th scope="col" class="more"><span class="unseen">Address</span></th>
      </tr>
    </thead>
    <tbody>
      <template v-for="row in rows" :key="keyOf(row)">
        <LookalikeRow v-if="row.kind === 'lookalike'" :found="row.found" :locked="locked" @keydown="move" />
        <MissingRow v-else-if="row.kind === 'missing'" :found="row.found" :locked="locked" @keydown="move" />
        <LinkRow v-else-if="row.kind === 'link'" :link="row.link" :locked="locked" @keydown="move" />
        <OfferRow v-else-if="row.kind === 'offer'" :offer="row.offer" :locked="locked" @keydown="move" />
        <tr v-else :data-row="row.section.index" :draggable="stage === 'headings' && !locked && !editing"
          :tabindex="row.section.index === Math.max(selected, 0) ? 0 : -1" :aria-selected="row.section.index === selected"
          :class="{
            chosen: row.section.index === selected, begins: cuts.has(row.section.index),
            marked: stage === 'headings' && state.marked.has(row.section.index),
            [`drop-${drag.over.value?.where}`]: drag.over.value?.index === row.section.index,
          }"
          @click="pick($event, row.section.index)" @focus="emit('select', row.section.index)" @keydown="press($event, row.section); move($event)"
          @dragstart="drag.begin($event, row.section.index)" @dragover="drag.pass($event, row.section.index)"
          @drop="drag.land($event, row.section.index)" @dragend="drag.end()">
          <td class="level">
            <select v-if="stage === 'headings'" class="chip field" tabindex="-1" :value="row.section.level" :disabled="locked"
              :aria-label="`Level of ${row.section.text}`" @click.stop @change="headings.setLevel(Number(($event.target as HTMLSelectElement).value), [row.section.index])">
              <option v-for="number in 6" :key="number" :value="number">h{{ number }}</option>
            </select>
            <span v-else class="chip">h{{ row.section.level }}</span>
          </td>
          <th scope="row" class="words-of" :style="{ paddingLeft: `${(row.section.level - 1) * 10 + 4}px` }" :title="row.section.text" @dblclick="edit(row.section, 'words')">
            <EditField v-if="isEditing(row.section, 'words')" :value="row.section.text" :label="`Words of ${row.section.text}`" @done="finish(row.section, 'words', $event)" @leave="leave(row.section)" />
            <template v-else><span v-if="state.marked.has(row.section.index) && stage === 'headings'" class="unseen">marked: </span>{{ row.section.text || "(no words)" }}</template>
          </th>
          <EntryCell v-if="stage === 'contents'" :section="row.section" :editing="isEditing(row.section, 'entry')" :locked="locked"
            @edit="emit('select', row.section.index); edit(row.section, 'entry')" @done="finish(row.section, 'entry', $event)" @leave="leave(row.section)" />
          <td v-else-if="stage !== 'parts'" class="identifier" :class="{ editing: isEditing(row.section, 'identifier') }">
            <IdentifierField v-if="isEditing(row.section, 'identifier')" :value="row.section.identifier ?? row.section.proposed ?? ''" :own="row.section.identifier ?? ''" :words="row.section.text"
              @done="finish(row.section, 'identifier', $event)" @leave="leave(row.section)" />
            <button v-else type="button" tabindex="-1" class="name" :disabled="locked" :title="row.section.identifier ? 'Rename' : 'Give this identifier'" @click.stop="emit('select', row.section.index); edit(row.section, 'identifier')">
              <span v-if="row.section.identifier" class="plate">{{ row.section.identifier }}</span>
              <span v-else class="would">{{ row.section.proposed }}</span>
            </button>
          </td>
          <td v-if="stage === 'jumps'" class="number" :class="{ none: !row.section.links_in }">{{ row.section.links_in || "none" }}</td>
          <td v-else-if="stage !== 'contents'" class="number">{{ row.section.words }}</td>
          <LengthCells v-if="stage === 'parts'" :stretch="measures.stretches.get(row.section.index)" />
          <td v-if="marks && stage !== 'parts'" class="mark contents"><SignIcon v-if="row.section.listed" name="done" /><span class="unseen">{{ row.section.listed ? "listed" : "not listed" }}</span></td>
          <td v-if="marks && stage !== 'parts'" class="mark returns"><SignIcon v-if="row.section.way_back" name="up" /><span class="unseen">{{ row.section.way_back ? "has a way back" : "no way back" }}</span></td>
          <td v-if="marks" class="mark parts">
            <label v-if="stage === 'parts' && row.section.can_cut" :title="`Begin a part with “${row.section.text}”`">
              <input type="checkbox" tabindex="-1" :checked="cuts.has(row.section.index)" :disabled="locked" :aria-label="`Begin a part with ${row.section.text}`" @change="emit('cut', row.section.index)" @click.stop>
              <span>{{ partOf[row.section.index] }}</span>
            </label>
            <span v-else>{{ cuts.size ? partOf[row.section.index] : "" }}</span>
          </td>
          <td class="more"><AddressMenu :site-id="siteId" :path="page.path" :section="row.section" /></td>
        </tr>
      </template>
    </tbody>
  </table>
</template>

<style scoped>
table {
  width: 100%;
  border-collapse: separate;
  border-spacing: 0;
  table-layout: fixed;
}

thead th {
  position: sticky;
  top: 0;
  z-index: 2;
  background: var(--sheet-sunk);
  border-bottom: 1px solid var(--line);
  font-size: 12px;
  font-weight: 600;
  color: var(--ink-soft);
  text-align: left;
  padding: 5px 4px;
}

thead abbr {
  text-decoration: none;
}

tbody tr {
  cursor: default;
}

tbody tr:not(:has(form)) {
  content-visibility: auto;
  contain-intrinsic-size: auto 30px;
}

tbody tr:focus-visible {
  outline-offset: -2px;
}

td,
tbody th {
  height: 30px;
  padding: 2px 4px;
  border-bottom: 1px solid var(--line);
  text-align: left;
  font-weight: 400;
}

tbody th.words-of {
  font: 13.5px/1.4 var(--read);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

tr:hover > * {
  background: var(--sheet-sunk);
}

tr.chosen > * {
  background: var(--post-wash);
}

tr.chosen > :first-child {
  box-shadow: inset 3px 0 0 var(--post);
}

tr.begins > * {
  border-top: 2px dashed var(--wait);
}

.level {
  width: 46px;
  padding-left: 6px;
}

.chip {
  font-size: 12px;
  color: var(--ink-soft);
  font-variant-numeric: tabular-nums;
}

.identifier {
  width: 27%;
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

.number.none {
  color: var(--ink-soft);
}

.number {
  width: 46px;
  text-align: right;
  font-variant-numeric: tabular-nums;
}

.number.windows {
  width: 68px;
}

.number.share {
  width: 52px;
}

.mark {
  width: 38px;
  text-align: center;
}

td.mark {
  color: var(--post);
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

td.parts {
  color: var(--ink);
  font-variant-numeric: tabular-nums;
}

td.parts label {
  display: inline-flex;
  align-items: center;
  gap: 3px;
}

.name {
  display: block;
  max-width: 100%;
  border: 1px solid transparent;
  border-radius: 4px;
  background: none;
  padding: 1px 2px;
  text-align: left;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  cursor: text;
}

.name:hover:not(:disabled) {
  border-color: var(--line-strong);
}

.would {
  font-family: var(--code);
  font-size: 12px;
  color: var(--ink-soft);
  border-bottom: 1px dashed var(--line-strong);
  font-variant-ligatures: none;
}

td.identifier.editing {
  overflow: visible;
}

tr.marked > * {
  background: var(--plate-wash);
}

tr.marked > :first-child {
  box-shadow: inset 3px 0 0 var(--plate);
}

tr.drop-before > * {
  box-shadow: inset 0 2px 0 var(--post);
}

tr.drop-after > * {
  box-shadow: inset 0 -2px 0 var(--post);
}

tr.drop-into > .words-of {
  outline: 2px solid var(--post);
  outline-offset: -2px;
}

select.chip {
  min-height: 22px;
  padding: 0;
  border-color: transparent;
  background: none;
}

tr:hover select.chip,
tr.chosen select.chip {
  border-color: var(--line-strong);
}

.stage-identifiers thead .identifier,
.stage-contents thead .entry,
.stage-jumps thead .number,
.stage-returns thead .returns,
.stage-parts thead .parts,
.stage-headings thead .words-of {
  color: var(--post);
  box-shadow: inset 0 -2px 0 var(--post);
}
</style>
