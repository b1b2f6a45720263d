<script setup lang="ts">
/** The ledger: the page's sections in their order, the columns of the stage of work brought forward. */
import { nextTick, ref, watch } from "vue";
import type { PageView, SectionView } from "../api/client";
import type { Stage } from "../stores/page";
import AddressMenu from "./AddressMenu.vue";
import SignIcon from "./SignIcon.vue";

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

const table = ref<HTMLElement | null>(null);
const editing = ref(-1);
const typed = ref("");

const row = (index: number) => table.value?.querySelector<HTMLElement>(`[data-row="${index}"]`) ?? null;

watch(
  () => props.selected,
  (index) => nextTick(() => row(index)?.scrollIntoView({ block: "nearest" })),
);

/** Begin to edit a section's identifier, with what it has or would get. */
function edit(section: SectionView): void {
  if (props.locked) return;
  editing.value = section.index;
  typed.value = section.identifier ?? section.proposed ?? "";
  void nextTick(() => {
    const field = row(section.index)?.querySelector("input");
    field?.focus();
    field?.select();
  });
}

function finish(section: SectionView): void {
  if (editing.value !== section.index) return;
  leave(section);
  const name = typed.value.trim();
  if (name !== (section.identifier ?? "")) emit("identify", section, name);
}

function leave(section: SectionView): void {
  editing.value = -1;
  void nextTick(() => row(section.index)?.focus());
}

function move(event: KeyboardEvent, index: number): void {
  if (event.target !== event.currentTarget || event.ctrlKey || event.metaKey || event.altKey) return;
  const last = props.page.sections.length - 1;
  const to: Record<string, number> = {
    ArrowDown: index + 1, j: index + 1, ArrowUp: index - 1, k: index - 1, Home: 0, End: last,
    PageDown: index + 10, PageUp: index - 10,
  };
  const section = props.page.sections[index];
  if (event.key in to) {
    const next = Math.min(Math.max(to[event.key] ?? 0, 0), last);
    emit("select", next);
    void nextTick(() => row(next)?.focus());
  } else if (event.key === "Enter" && section) edit(section);
  else if (event.key === " " && props.stage === "parts" && section?.can_cut) emit("cut", index);
  else return;
  event.preventDefault();
  event.stopPropagation();
}

/** Put the keyboard on the selected row. */
function focus(): void {
  const index = Math.max(props.selected, 0);
  emit("select", index);
  void nextTick(() => row(index)?.focus());
}

function editSelected(): void {
  const section = props.page.sections[props.selected];
  if (section) edit(section);
}

defineExpose({ focus, editSelected });
</script>

<template>
  <table ref="table" :class="`stage-${stage}`">
    <caption class="unseen">Sections of {{ page.path }}. Arrow keys choose one, Enter edits its identifier.</caption>
    <thead>
      <tr>
        <th scope="col" class="level">Level</th>
        <th scope="col" class="words-of">Heading</th>
        <th scope="col" class="identifier">Identifier</th>
        <th scope="col" class="number">Words</th>
        <th scope="col" class="mark contents" title="Listed in the contents"><abbr title="Listed in the contents">List</abbr></th>
        <th scope="col" class="mark returns" title="Has a way back to the top"><abbr title="Has a way back to the top">Back</abbr></th>
        <th scope="col" class="mark parts">Part</th>
        <th scope="col" class="more"><span class="unseen">Address</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="section in page.sections" :key="section.index" :data-row="section.index"
        :tabindex="section.index === Math.max(selected, 0) ? 0 : -1"
        :aria-selected="section.index === selected" :class="{ chosen: section.index === selected, begins: cuts.has(section.index) }"
        @click="emit('select', section.index)" @focus="emit('select', section.index)" @keydown="move($event, section.index)">
        <td class="level"><span class="chip">h{{ section.level }}</span></td>
        <th scope="row" class="words-of" :style="{ paddingLeft: `${(section.level - 1) * 10 + 4}px` }" :title="section.text">
          {{ section.text || "(no words)" }}
        </th>
        <td class="identifier">
          <form v-if="editing === section.index" @submit.prevent="finish(section)">
            <input v-model="typed" class="field code" :aria-label="`Identifier of ${section.text}`" spellcheck="false"
              autocapitalize="off" @keydown.esc.prevent.stop="leave(section)" @blur="finish(section)">
          </form>
          <button v-else type="button" tabindex="-1" class="name" :disabled="locked" :title="section.identifier ? 'Rename' : 'Give this identifier'" @click.stop="emit('select', section.index); edit(section)">
            <span v-if="section.identifier" class="plate">{{ section.identifier }}</span>
            <span v-else class="would">{{ section.proposed }}</span>
          </button>
        </td>
        <td class="number">{{ section.words }}</td>
        <td class="mark contents"><SignIcon v-if="section.listed" name="done" /><span class="unseen">{{ section.listed ? "listed" : "not listed" }}</span></td>
        <td class="mark returns"><SignIcon v-if="section.way_back" name="up" /><span class="unseen">{{ section.way_back ? "has a way back" : "no way back" }}</span></td>
        <td class="mark parts">
          <label v-if="stage === 'parts' && section.can_cut" :title="`Begin a part with “${section.text}”`">
            <input type="checkbox" tabindex="-1" :checked="cuts.has(section.index)" :disabled="locked" :aria-label="`Begin a part with ${section.text}`" @change="emit('cut', section.index)" @click.stop>
            <span>{{ partOf[section.index] }}</span>
          </label>
          <span v-else>{{ cuts.size ? partOf[section.index] : "" }}</span>
        </td>
        <td class="more"><AddressMenu :site-id="siteId" :path="page.path" :section="section" /></td>
      </tr>
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
  width: 40px;
  padding-left: 8px;
}

.chip {
  font-size: 12px;
  color: var(--ink-soft);
  font-variant-numeric: tabular-nums;
}

.identifier {
  width: 27%;
}

.number {
  width: 46px;
  text-align: right;
  font-variant-numeric: tabular-nums;
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

.identifier .field {
  width: 100%;
  min-height: 26px;
  padding: 0 4px;
}

.stage-identifiers thead .identifier,
.stage-contents thead .contents,
.stage-returns thead .returns,
.stage-parts thead .parts,
.stage-headings thead .words-of {
  color: var(--post);
  box-shadow: inset 0 -2px 0 var(--post);
}
</style>
