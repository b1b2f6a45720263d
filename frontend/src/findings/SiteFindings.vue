<script setup lang="ts">
/** What is wrong on the pages of a site, by rule; the single findings are fetched when a rule is opened. */
import { watchDebounced } from "@vueuse/core";
import { computed, ref, shallowRef, watch } from "vue";
import { api, data, detailOf, type FindingView, type RuleCount } from "../api/client";
import type { Scope } from "../stores/checks";
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
type Filter = "all" | "error" | "warning" | "advice";
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
const filters = computed(() => {
  const counts: Record<string, number> = {};
  for (const one of groups.value ?? []) counts[one.severity] = (counts[one.severity] ?? 0) + one.count;
  const found: { value: Filter; label: string }[] = [
    { value: "all", label: `All ${total.value.toLocaleString("en")}` },
  ];
  const words: [Filter, string, string][] = [
    ["error", "error", "errors"],
    ["warning", "warning", "warnings"],
    ["advice", "advice", "advice"],
  ];
  for (const [value, one, many] of words) {
    const count = counts[value] ?? 0;
    if (count) found.push({ value, label: `${count.toLocaleString("en")} ${count === 1 ? one : many}` });
  }
  return found;
});
const shown = computed(() => {
  const by = filters.value.some((one) => one.value === filter.value) ? filter.value : "all";
  return (groups.value ?? []).filter((one) => by === "all" || one.severity === by);
});

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
    <div v-if="total > 4 || query" class="filters">
      <el-segmented v-model="filter" :options="filters" size="small" aria-label="Which findings" />
      <el-input v-model="query" size="small" clearable placeholder="Filter" aria-label="Filter the findings" />
    </div>
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

<style scoped>
.filters {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 8px;
  padding: 8px 12px;
  border-bottom: 1px solid var(--line);
}

.filters .el-input {
  flex: 1 1 120px;
}
</style>
