<script setup lang="ts">
/** All jump links with where they land; choosing one follows it in the rendered page. */
import { computed, nextTick, ref, watch } from "vue";
import type { LandingView } from "../api/client";
import { useVirtualRows } from "../ledger/useVirtualRows";
import { useMeasures } from "../stores/measures";
import { usePage } from "../stores/page";
import { keyOfLanding, useWalk } from "../stores/walk";
import { goalOf } from "./words";
import VerdictMark from "./VerdictMark.vue";

/** About how high a row is until it is drawn and measured, in CSS pixels. */
const ROW_HEIGHT = 31;

const emit = defineEmits<{ follow: [] }>();
const walk = useWalk();
const page = usePage();
const measures = useMeasures();
const table = ref<HTMLElement | null>(null);

const { span, reveal, measure } = useVirtualRows({
  count: () => walk.steps.length,
  estimate: () => ROW_HEIGHT,
  holder: table,
});
const drawn = computed(() => {
  const { from, to } = span.value;
  return walk.steps.slice(from, to).map((landing, step) => ({ landing, index: from + step }));
});

/** What came of really following a jump. */
function ending(landing: LandingView): string {
  const end = walk.tried.get(keyOfLanding(landing));
  if (end === undefined || landing.scroll === null) return "";
  const off = Math.round(end - landing.scroll);
  return Math.abs(off) <= walk.exact ? "as measured" : `${Math.abs(off)} px ${off > 0 ? "lower" : "higher"}`;
}

function follow(landing: LandingView): void {
  emit("follow");
  void nextTick(() => walk.follow(landing));
}

function move(event: KeyboardEvent, landing: LandingView): void {
  const row = event.currentTarget as HTMLElement;
  if (event.target !== row || event.ctrlKey || event.metaKey || event.altKey) return;
  const step = (
    { ArrowDown: 1, ArrowUp: -1, j: 1, k: -1, PageDown: 10, PageUp: -10, Home: -Infinity, End: Infinity } as Record<
      string,
      number
    >
  )[event.key];
  if (event.key === "Enter") follow(landing);
  else if (step !== undefined) {
    const at = Math.min(Math.max(Number(row.dataset.at) + step, 0), walk.steps.length - 1);
    reveal(at);
    void nextTick(() => table.value?.querySelector<HTMLElement>(`[data-at="${at}"]`)?.focus());
  } else return;
  event.preventDefault();
  event.stopPropagation();
}

watch(
  () => walk.chosen,
  () => reveal(walk.at),
);

/** Put the keyboard on the link that was followed last, or on the first. */
function focus(): void {
  reveal(Math.max(walk.at, 0));
  void nextTick(() => table.value?.querySelector<HTMLElement>("tbody tr[tabindex='0']")?.focus());
}

defineExpose({ focus });
</script>

<template>
  <table ref="table" class="sheet">
    <caption class="unseen">
      Jump links and where they land. Arrow keys choose one, Enter follows it.
    </caption>
    <thead>
      <tr>
        <th scope="col" class="link">Link</th>
        <th scope="col" class="goal">Leads to</th>
        <th scope="col" class="landing" :aria-sort="walk.worstFirst ? 'descending' : 'none'">
          <el-button
            text
            size="small"
            class="sort"
            :title="walk.worstFirst ? 'Show in the order of the source' : 'Show bad landings first'"
            @click="walk.worstFirst = !walk.worstFirst"
            >Landing {{ walk.worstFirst ? "▾" : "▿" }}</el-button
          >
        </th>
        <th scope="col" class="more">
          {{ walk.tried.size ? "Followed" : "" }}<span v-if="!walk.tried.size" class="unseen">Settle</span>
        </th>
      </tr>
    </thead>
    <tbody>
      <tr v-if="span.before" class="room" aria-hidden="true">
        <td colspan="4" :style="{ height: `${span.before}px` }" />
      </tr>
      <tr
        v-for="{ landing, index } in drawn"
        :key="keyOfLanding(landing)"
        :ref="measure as never"
        :tabindex="(walk.at < 0 ? index === 0 : index === walk.at) ? 0 : -1"
        :aria-selected="index === walk.at"
        :class="{ chosen: index === walk.at }"
        :data-at="index"
        @click="follow(landing)"
        @keydown="move($event, landing)"
      >
        <th scope="row" class="link" :title="`${landing.page}, line ${landing.line}: ${landing.href}`">
          <span v-if="landing.page !== page.path" class="from">{{ landing.page }}</span> {{ landing.text || "picture"
          }}<span v-if="landing.in_furniture" class="from"> · navigation</span>
        </th>
        <td class="goal" :title="goalOf(landing)">{{ goalOf(landing) }}</td>
        <td class="landing"><VerdictMark :landing="landing" /></td>
        <td class="more">
          <span v-if="ending(landing)" class="small" :class="{ off: ending(landing) !== 'as measured' }">{{
            ending(landing)
          }}</span>
          <el-button
            text
            size="small"
            v-else-if="landing.trouble || landing.settled"
            tabindex="-1"
            :title="landing.settled ? 'Review this landing again' : 'Accept this landing as it is'"
            @click.stop="measures.settle(landing.to_page, landing.fragment, !landing.settled)"
          >
            {{ landing.settled ? "Review again" : "Accept" }}
          </el-button>
        </td>
      </tr>
      <tr v-if="span.after" class="room" aria-hidden="true">
        <td colspan="4" :style="{ height: `${span.after}px` }" />
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
tbody tr {
  cursor: pointer;
}

td,
tbody th {
  height: 30px;
  padding: 2px 8px;
  border-bottom: 1px solid var(--line);
  text-align: left;
  font-weight: 400;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.goal {
  font-family: var(--read);
}

thead .goal {
  font-family: var(--ui);
}

.from {
  color: var(--ink-soft);
  font-size: var(--small);
}

.landing {
  width: 132px;
}

.more {
  width: 92px;
}

.sort {
  height: 18px;
  padding: 0;
  font-size: 12px;
}

.more .el-button {
  min-height: 24px;
  padding: 0 6px;
  visibility: hidden;
}

tr:hover .more .el-button,
tr.chosen .more .el-button,
tr:focus-within .sort {
  height: 18px;
  padding: 0;
  font-size: 12px;
}

.more .el-button {
  visibility: visible;
}

.off {
  color: var(--wrong);
  font-weight: 600;
}
</style>
