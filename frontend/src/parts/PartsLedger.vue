<script setup lang="ts">
/** The parts of a page, one after another, with the sections of each; every section can begin a part. */
import { computed, nextTick, ref, watch } from "vue";
import type { CutPlaceView, WholeSectionView } from "../api/client";
import { stepOf } from "../ledger/rowSteps";
import { useVirtualRows } from "../ledger/useVirtualRows";
import { useParts } from "../stores/parts";
import LengthCells from "./LengthCells.vue";
import PartRow from "./PartRow.vue";
import { rowsOfParts } from "./rows";

defineProps<{ locked: boolean }>();
const emit = defineEmits<{ select: [index: number] }>();

/** About how high rows are until they are measured, in CSS pixels. */
const HEIGHTS = { part: 54, section: 31, block: 29 };

const parts = useParts();
const table = ref<HTMLElement | null>(null);
const rows = computed(() => (parts.view ? rowsOfParts(parts.view, parts.opened, parts.alone) : []));
const { span, reveal, measure } = useVirtualRows({
  count: () => rows.value.length,
  estimate: (at) => HEIGHTS[rows.value[at]?.kind ?? "section"],
  holder: table,
});
const drawn = computed(() => {
  const { from, to } = span.value;
  return rows.value.slice(from, to).map((row, step) => ({ row, at: from + step }));
});
const cuts = computed(() => new Set(parts.cuts.map((cut) => cut.at)));
const tabbed = computed(() => Math.max(placeOf(parts.selected), 0));
const placeOf = (index: number) =>
  rows.value.findIndex((row) => row.kind === "section" && row.section.index === index);

function go(from: number, step: number): void {
  const at = Math.min(Math.max(from + step, 0), rows.value.length - 1);
  const row = rows.value[at];
  reveal(at);
  if (row?.kind === "section" && row.section.page === parts.view?.home && !parts.inParts)
    emit("select", row.section.index);
  void nextTick(() => table.value?.querySelector<HTMLElement>(`[data-at="${at}"]`)?.focus());
}

function press(event: KeyboardEvent, at: number): void {
  if (event.target !== event.currentTarget || event.ctrlKey || event.metaKey || event.altKey) return;
  const row = rows.value[at];
  const step = stepOf(event);
  if (step !== undefined) go(at, step);
  else if (event.key === "Enter" && row?.kind === "section") emit("select", row.section.index);
  else if (event.key === " " && row?.kind === "section" && row.section.at !== null) parts.toggle(row.section.at);
  else if (event.key === " " && row?.kind === "block") parts.toggle(row.place.at);
  else if (event.key === "ArrowRight" && row?.kind === "section" && row.blocks) parts.open(row.section.index);
  else return;
  event.preventDefault();
  event.stopPropagation();
}

const isFirst = (at: number | null) => at === null || at === parts.there[0]?.at;
const about = (section: WholeSectionView) => section.text || "(no words)";
const wordsOf = (place: CutPlaceView) => place.text || "(a block without words)";

function step(by: number): void {
  const focused = Number(document.activeElement?.closest<HTMLElement>("[data-at]")?.dataset.at ?? tabbed.value);
  go(focused, by);
}

let awaited = false; // whether the keyboard comes here once there is a row

watch(rows, () => awaited && rows.value.length && focus());

function focus(): void {
  awaited = !rows.value.length;
  reveal(tabbed.value);
  void nextTick(() => table.value?.querySelector<HTMLElement>(`[data-at="${tabbed.value}"]`)?.focus());
}

defineExpose({ focus, step, editSelected: () => undefined });
</script>

<template>
  <table ref="table" class="sheet" :aria-rowcount="rows.length + 1">
    <caption class="unseen">
      The parts of the page and their sections. Arrow keys choose one, Space begins a part there or takes its cut
      away.
    </caption>
    <thead>
      <tr>
        <th scope="col" class="cut"><span class="unseen">Begins a part</span></th>
        <th scope="col" :colspan="parts.alone ? 5 : 1" class="head">
          {{ parts.alone ? "Part" : "Part, section" }}
          <el-button text size="small" :aria-pressed="parts.alone" @click="parts.alone = !parts.alone">{{
            parts.alone ? "Show sections" : "Parts only"
          }}</el-button>
        </th>
        <template v-if="!parts.alone">
          <th scope="col" class="number">Words</th>
          <th scope="col" class="number minutes">Min.</th>
          <th scope="col" class="number windows">Windows</th>
          <th scope="col" class="number">Share</th>
        </template>
        <th scope="col" class="more"><span class="unseen">More</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-if="span.before" aria-hidden="true">
        <td colspan="7" :style="{ height: `${span.before}px` }" />
      </tr>
      <template v-for="{ row, at } in drawn" :key="row.key">
        <PartRow
          v-if="row.kind === 'part'"
          :ref="measure as never"
          :data-at="at"
          :data-key="row.key"
          :part="row.part"
          :locked="locked"
          :tabindex="at === tabbed ? 0 : -1"
          @keydown="press($event, at)"
        />
        <tr
          v-else-if="row.kind === 'section'"
          :ref="measure as never"
          :data-at="at"
          :data-key="row.key"
          :data-row="row.section.index"
          :tabindex="at === tabbed ? 0 : -1"
          :aria-selected="row.section.index === parts.selected"
          :class="{ chosen: row.section.index === parts.selected }"
          @click="emit('select', row.section.index)"
          @keydown="press($event, at)"
        >
          <td class="cut">
            <el-checkbox
              v-if="!isFirst(row.section.at)"
              size="small"
              tabindex="-1"
              :model-value="cuts.has(row.section.at ?? -1)"
              :disabled="locked"
              :aria-label="`Begin a part with ${about(row.section)}`"
              @change="parts.toggle(row.section.at ?? -1)"
              @click.stop
            />
          </td>
          <th scope="row" :title="row.section.text" :style="{ paddingLeft: `${(row.section.level - 1) * 10 + 4}px` }">
            {{ about(row.section) }}
          </th>
          <td class="number">{{ row.section.words.toLocaleString("en") }}</td>
          <LengthCells :section="row.section" />
          <td class="more">
            <el-button
              v-if="row.blocks"
              text
              size="small"
              tabindex="-1"
              :aria-expanded="parts.opened.has(row.section.index)"
              :aria-label="`Places for cuts within ${about(row.section)}`"
              :title="`Cut within this section: ${row.blocks} places`"
              @click.stop="parts.open(row.section.index)"
              >{{ parts.opened.has(row.section.index) ? "−" : "+" }}</el-button
            >
          </td>
        </tr>
        <tr
          v-else
          :ref="measure as never"
          class="block"
          :data-at="at"
          :data-key="row.key"
          :tabindex="at === tabbed ? 0 : -1"
          @keydown="press($event, at)"
        >
          <td class="cut">
            <el-checkbox
              size="small"
              tabindex="-1"
              :model-value="cuts.has(row.place.at)"
              :disabled="locked"
              :aria-label="`Begin a part before the block ${wordsOf(row.place)}`"
              @change="parts.toggle(row.place.at)"
            />
          </td>
          <th scope="row" colspan="6" class="soft">{{ wordsOf(row.place) }}</th>
        </tr>
      </template>
      <tr v-if="span.after" aria-hidden="true">
        <td colspan="7" :style="{ height: `${span.after}px` }" />
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
thead th {
  padding: 5px 4px;
}

td,
tbody th {
  height: 30px;
  padding: 2px 4px;
  border-bottom: 1px solid var(--line);
  text-align: left;
  font-weight: 400;
}

tbody th {
  font: 13.5px/1.4 var(--read);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

tr.block th {
  padding-left: 44px;
  font: 12.5px/1.4 var(--read);
}

.cut {
  width: 34px;
  padding-left: 10px;
}

.cut .el-checkbox {
  height: 24px;
}

.head {
  white-space: nowrap;
}

.number {
  width: 56px;
  text-align: right;
  font-size: 13px;
  font-variant-numeric: tabular-nums;
}

.number.minutes {
  width: 40px;
}

.number.windows {
  width: 66px;
}

thead .number {
  text-align: right;
}

.more {
  width: 36px;
  padding: 0;
  text-align: center;
}
</style>
