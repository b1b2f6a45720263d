<script setup lang="ts">
/** A section's row in the ledger. It is drawn anew only when something of its own changes, since there may be a thousand. */
import { computed, ref } from "vue";
import type { SectionView } from "../api/client";
import AddressMenu from "../components/AddressMenu.vue";
import { useJumps } from "../composables/useJumps";
import { useHeadings } from "../composables/useHeadings";
import { usePage } from "../stores/page";
import EditField from "./EditField.vue";
import EntryCell from "./EntryCell.vue";
import { carrySection, droppedLink, isLink } from "./carry";
import IdentifierCell from "./IdentifierCell.vue";
import MarkCells from "./MarkCells.vue";
import type { Column } from "./rows";
import type { Drag } from "./useDrag";

const props = defineProps<{
  section: SectionView;
  locked: boolean;
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
}>();

const state = usePage();
const headings = useHeadings();
const jumps = useJumps();
const stage = computed(() => state.stage);
const chosen = computed(() => state.selected === props.section.index);
const tabbable = computed(() => Math.max(state.selected, 0) === props.section.index);
const marked = computed(() => state.marked.has(props.section.index));
const taking = ref(false); // whether a link is held over the row
const dropping = computed(() => {
  if (taking.value) return "into";
  return props.drag.over.value?.index === props.section.index ? props.drag.over.value.where : undefined;
});

function pass(event: DragEvent): void {
  if (!isLink(event) || props.locked) return props.drag.pass(event, props.section.index);
  event.preventDefault();
  taking.value = true;
}

function land(event: DragEvent): void {
  const start = droppedLink(event);
  taking.value = false;
  if (start === null) return props.drag.land(event, props.section.index);
  event.preventDefault();
  void jumps.leadLink(start, { path: state.path, section: props.section.index });
}
</script>

<template>
  <tr
    :data-row="section.index"
    :draggable="!locked && idle && (stage === 'headings' || (stage === 'jumps' && Boolean(section.identifier)))"
    :tabindex="tabbable ? 0 : -1"
    :aria-selected="chosen"
    :class="{
      chosen,
      marked: stage === 'headings' && marked,
      [`drop-${dropping}`]: dropping,
    }"
    @click="emit('pick', $event)"
    @focus="emit('select')"
    @keydown="emit('press', $event)"
    @dragstart="stage === 'jumps' ? carrySection($event, section) : drag.begin($event, section.index)"
    @dragover="pass"
    @dragleave="taking = false"
    @drop="land"
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
    <IdentifierCell
      v-else
      :section="section"
      :editing="editing === 'identifier'"
      :locked="locked"
      @edit="
        emit('select');
        emit('edit', 'identifier');
      "
      @done="emit('finish', 'identifier', $event)"
      @better="
        emit('select');
        emit('finish', 'better', $event);
      "
      @leave="emit('leave')"
    />
    <td v-if="stage === 'jumps'" class="number" :class="{ none: !section.links_in }">
      {{ section.links_in || "none" }}
    </td>
    <td v-else-if="stage !== 'contents'" class="number">{{ section.words.toLocaleString("en") }}</td>
    <MarkCells v-if="stage === 'back-to-top'" :section="section" />
    <td class="more"><AddressMenu :site-id="state.siteId" :path="state.path" :section="section" /></td>
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

.level {
  width: 46px;
  padding-left: 6px;
}

.chip {
  font-size: 12px;
  color: var(--ink-soft);
  font-variant-numeric: tabular-nums;
}

.number.none {
  color: var(--ink-soft);
}

.number {
  width: 46px;
  font-size: 13px;
  font-size: 13px;
  text-align: right;
  font-variant-numeric: tabular-nums;
}

.more {
  width: 30px;
  padding: 0;
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
