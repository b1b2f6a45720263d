<script setup lang="ts">
/** What is wrong on the pages of a site, by rule; the single findings are fetched when a rule is opened. */
import { watchDebounced } from "@vueuse/core";
import { computed, ref, shallowRef, watch } from "vue";
import { api, data, detailOf, type FindingView, type RuleCount } from "../api/client";
import type { Scope } from "../stores/checks";
import FindingFilters, { type Filter } from "./FindingFilters.vue";
import FindingGroup from "./FindingGroup.vue";

const props = defineProps<{ siteId: string; turn: number; locked?: boolean }>();
const emit = defineEmits<{
  go: [finding: FindingView];
  fix: [rule: string, finding: FindingView | null, choice: number | null]; // without a finding, all of the rule
  aside: [finding: FindingView, scope: Scope, reason: string];
  fixable: [count: number]; // without a question
}>();

/** Up to how many findings all rules are open. */
const FEW = 8;
interface Opened {
  findings: readonly FindingView[];
  after: number | null; // to go on after; null where these are all
}

const filter = ref<Filter>("all");
const query = ref("");
const groups = shallowRef<readonly RuleCount[] | null>(null);
const opened = ref(new Map<string, Opened>());
const problem = ref("");
let asked = 0;

const total = computed(() => (groups.value ?? []).reduce((sum, one) => sum + one.count, 0));
const counts = computed(() => {
  const found: Record<string, number> = {};
  for (const one of groups.value ?? []) found[one.severity] = (found[one.severity] ?? 0) + one.count;
  return found;
});
const shown = computed(() =>
  (groups.value ?? []).filter((one) => !counts.value[filter.value] || one.severity === filter.value),
);

async function load(): Promise<void> {
  const mine = ++asked;
  const params = { path: { site_id: props.siteId }, query: { query: query.value } };
  try {
    const found = await data(api.GET("/api/sites/{site_id}/findings", { params }));
    if (mine !== asked) return;
    const before = [...opened.value.keys()];
    const all = found.groups.reduce((sum, one) => sum + one.count, 0);
    const open = found.groups.filter((one) => !one.only && (all <= FEW || before.includes(one.rule)));
    const rows = await Promise.all(open.map((one) => fetchRows(one.rule, null)));
    if (mine !== asked) return;
    groups.value = found.groups;
    opened.value = new Map([
      ...found.groups.flatMap((one): [string, Opened][] =>
        one.only ? [[one.rule, { findings: [one.only], after: null }]] : [],
      ),
      ...open.map((one, index): [string, Opened] => [one.rule, rows[index]!]),
    ]);
    problem.value = "";
    emit("fixable", found.fixable);
  } catch (error) {
    if (mine === asked) problem.value = detailOf(error);
  }
}

async function fetchRows(rule: string, from: Opened | null): Promise<Opened> {
  const last = from?.findings.at(-1);
  const behind = last && from?.after !== null ? { after_page: last.page, after: from!.after! } : {};
  const found = await data(
    api.GET("/api/sites/{site_id}/findings/{rule}", {
      params: { path: { site_id: props.siteId, rule }, query: { query: query.value, ...behind } },
    }),
  );
  return { findings: [...(from?.findings ?? []), ...found.findings], after: found.after };
}

async function toggle(rule: string): Promise<void> {
  const next = new Map(opened.value);
  if (!next.delete(rule)) next.set(rule, await fetchRows(rule, null));
  opened.value = next;
}

async function more(rule: string): Promise<void> {
  const rows = await fetchRows(rule, opened.value.get(rule) ?? null);
  opened.value = new Map(opened.value).set(rule, rows);
}

watch(() => [props.siteId, props.turn], load, { immediate: true });
watchDebounced(query, load, { debounce: 200 });
</script>

<template>
  <div class="finding-list">
    <el-alert v-if="problem" :title="problem" type="error" :closable="false" />
    <FindingFilters v-if="total > 4 || query" v-model:filter="filter" v-model:query="query" :counts="counts" />
    <FindingGroup
      v-for="group in shown"
      :key="group.rule"
      :title="group.title"
      :severity="group.severity"
      :count="group.count"
      :pressed="group.pressed"
      :chosen="group.chosen"
      :open="opened.has(group.rule)"
      :findings="opened.get(group.rule)?.findings ?? []"
      :more="(opened.get(group.rule)?.after ?? null) !== null"
      with-page
      :locked="locked"
      @turn="toggle(group.rule)"
      @more="more(group.rule)"
      @go="emit('go', $event)"
      @fix="(finding, choice) => emit('fix', group.rule, finding, choice)"
      @aside="(finding, scope, reason) => emit('aside', finding, scope, reason)"
    />
    <el-empty
      v-if="groups && !shown.length"
      :image-size="56"
      :description="query ? 'No finding matches the filter.' : 'No findings'"
    />
  </div>
</template>
