<script setup lang="ts">
/** A section's row in the ledger. It is drawn anew only when something of its own changes, since there may be a thousand. */
import { computed } from "vue";
import type { SectionView } from "../api/client";
import AddressMenu from "../components/AddressMenu.vue";
import SignIcon from "../components/SignIcon.vue";
import { useHeadings } from "../composables/useHeadings";
import { useMeasures } from "../stores/measures";
import { usePage, type Stage } from "../stores/page";
import EditField from "./EditField.vue";
import EntryCell from "./EntryCell.vue";
import IdentifierField from "./IdentifierField.vue";
import LengthCells from "./LengthCells.vue";
import type { Column } from "./rows";
import type { Drag } from "./useDrag";

const props = defineProps<{
  section: SectionView;
  pagePath: string;
  siteId: string;
  stage: Stage;
  locked: boolean;
  chosen: boolean;
  tabbable: boolean;
  begins: boolean; // a part
  part: number | undefined; // that it would be in
  editing: Column | null;
  idle: boolean; // whether nothing in the ledger is being edited
  drag: Drag;
}>();
const emit = defineEmits<{
  select: [];
  pick: [event: MouseEvent];
  edit: [column: Column];
  finish: [column: Column, value: string];
  leave: [];
  press: [event: KeyboardEvent];
  cut: [];
}>();

const state = usePage();
const measures = useMeasures();
const headings = useHeadings();
const marks = computed(() => !["headings", "contents", "jumps"].includes(props.stage)); // whether the narrow columns are there
const marked = computed(() => state.marked.has(props.section.index));
const dropping = computed(() =>
  props.drag.over.value?.index === props.section.index ? props.drag.over.value.where : undefined,
);
</script>

<template>
  <tr
    :data-row="section.index"
    :draggable="stage === 'headings' && !locked && idle"
    :tabindex="tabbable ? 0 : -1"
    :aria-selected="chosen"
    :class="{
      chosen,
      begins,
      marked: stage === 'headings' && marked,
      [`drop-${dropping}`]: dropping,
    }"
    @click="emit('pick', $event)"
    @focus="emit('select')"
    @keydown="emit('press', $event)"
    @dragstart="drag.begin($event, section.index)"
    @dragover="drag.pass($event, section.index)"
    @drop="drag.land($event, section.index)"
    @dragend="drag.end()"
  >
    <td class="level">
      <select
        v-if="stage === 'headings'"
        class="chip field"
        tabindex="-1"
        :value="section.level"
        :disabled="locked"
        :aria-label="`Level of ${section.text}`"
        @click.stop
        @change="headings.setLevel(Number(($event.target as HTMLSelectElement).value), [section.index])"
      >
        <option v-for="number in 6" :key="number" :value="number">h{{ number }}</option>
      </select>
      <span v-else class="chip">h{{ section.level }}</span>
    </td>
    <th
      scope="row"
      class="words-of"
      :style="{ paddingLeft: `${(section.level - 1) * 10 + 4}px` }"
      :title="section.text"
      @dblclick="emit('edit', 'words')"
    >
      <EditField
        v-if="editing === 'words'"
        :value="section.text"
        :label="`Words of ${section.text}`"
        @done="emit('finish', 'words', $event)"
        @leave="emit('leave')"
      />
      <template v-else
        ><span v-if="marked && stage === 'headings'" class="unseen">marked: </span
        >{{ section.text || "(no words)" }}</template
      >
    </th>
    <EntryCell
      v-if="stage === 'contents'"
      :section="section"
      :editing="editing === 'entry'"
      :locked="locked"
      @edit="
        emit('select');
        emit('edit', 'entry');
      "
      @done="emit('finish', 'entry', $event)"
      @leave="emit('leave')"
    />
    <td
      v-else-if="stage !== 'parts'"
      class="identifier"
      :class="{ editing: editing === 'identifier', weak: stage === 'identifiers' && section.better }"
    >
      <IdentifierField
        v-if="editing === 'identifier'"
        :value="section.identifier ?? section.proposed ?? ''"
        :own="section.identifier ?? ''"
        :words="section.text"
        @done="emit('finish', 'identifier', $event)"
        @leave="emit('leave')"
      />
      <button
        v-else
        type="button"
        tabindex="-1"
        class="name"
        :disabled="locked"
        :title="section.identifier ? 'Rename' : 'Give this identifier'"
        @click.stop="
          emit('select');
          emit('edit', 'identifier');
        "
      >
        <span v-if="section.identifier" class="plate">{{ section.identifier }}</span>
        <span v-else class="would">{{ section.proposed }}</span>
      </button>
      <button
        v-if="stage === 'identifiers' && section.better && editing !== 'identifier'"
        type="button"
        tabindex="-1"
        class="better"
        :disabled="locked"
        :title="`${section.weakness} Rename it to “${section.better}”; all links follow.`"
        :aria-label="`${section.identifier}: ${section.weakness} Rename it to ${section.better}`"
        @click.stop="
          emit('select');
          emit('finish', 'better', section.better);
        "
      >
        <SignIcon name="wrong" /> {{ section.better }}
      </button>
    </td>
    <td v-if="stage === 'jumps'" class="number" :class="{ none: !section.links_in }">
      {{ section.links_in || "none" }}
    </td>
    <td v-else-if="stage !== 'contents'" class="number">{{ section.words }}</td>
    <LengthCells v-if="stage === 'parts'" :stretch="measures.stretches.get(section.index)" />
    <td v-if="marks && stage !== 'parts'" class="mark contents">
      <SignIcon v-if="section.listed" name="done" /><span class="unseen">{{
        section.listed ? "listed" : "not listed"
      }}</span>
    </td>
    <td v-if="marks && stage !== 'parts'" class="mark returns">
      <SignIcon v-if="section.back_link" name="up" /><span class="unseen">{{
        section.back_link ? "has a way back" : "no way back"
      }}</span>
    </td>
    <td v-if="marks" class="mark parts">
      <label v-if="stage === 'parts' && section.can_cut" :title="`Begin a part with “${section.text}”`">
        <input
          type="checkbox"
          tabindex="-1"
          :checked="begins"
          :disabled="locked"
          :aria-label="`Begin a part with ${section.text}`"
          @change="emit('cut')"
          @click.stop
        />
        <span>{{ part }}</span>
      </label>
      <span v-else>{{ part }}</span>
    </td>
    <td class="more"><AddressMenu :site-id="siteId" :path="pagePath" :section="section" /></td>
  </tr>
</template>

<style scoped>
tbody tr {
  cursor: default;
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

.identifier.weak {
  white-space: nowrap;
}

td.weak > .name,
td.weak > .better {
  display: inline-block;
  vertical-align: middle;
  max-width: 49%;
}

.better {
  max-width: 50%;
  padding: 0 0 0 4px;
  overflow: hidden;
  border: 0;
  background: none;
  color: var(--wait);
  font: 11.5px/1.3 var(--code);
  text-overflow: ellipsis;
  white-space: nowrap;
  cursor: pointer;
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
</style>
