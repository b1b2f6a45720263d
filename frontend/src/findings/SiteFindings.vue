<script setup lang="ts">
/** What is wrong on the pages of a site, by rule; the single findings are fetched when a rule is opened. */
import { watchDebounced } from "@vueuse/core";
import { computed, ref, shallowRef, watch } from "vue";
import { api, data, detailOf, type FindingView, type RuleCount, type SaidCount } from "../api/client";
import type { Scope } from "../stores/checks";
import AdviceFold from "./AdviceFold.vue";
import FindingCauses from "./FindingCauses.vue";
import FindingFilters, { type Filter } from "./FindingFilters.vue";
import FindingGroup from "./FindingGroup.vue";

const props = defineProps<{ siteId: string; turn: number; locked?: boolean }>();
const emit = defineEmits<{
  go: [finding: FindingView];
  fix: [rule: string, finding: FindingView | null, choice: number | null, cause?: string]; // without a finding, all
  aside: [finding: FindingView, scope: Scope, reason: string];
  fixable: [count: number]; // without a question
}>();

/** Up to how many findings all rules are open, and those of a rule are not grouped. */
const FEW = 8;
type By = "each" | "cause" | "block";
interface Rows {
  findings: readonly FindingView[];
  after: number | null; // to go on after; null where these are all
}
interface Opened extends Rows {
  by: By;
  causes: readonly SaidCount[]; // where they are grouped
  within: ReadonlyMap<string, Rows>; // those that are open, by what they have in common
}

const filter = ref<Filter>("all");
const query = ref("");
const groups = shallowRef<readonly RuleCount[] | null>(null);
const opened = ref(new Map<string, Opened>());
const unfolded = ref(false);
const problem = ref("");
let asked = 0;

const total = computed(() => (groups.value ?? []).reduce((sum, one) => sum + one.count, 0));
const counts = computed(() => {
  const found: Record<string, number> = {};
  for (const one of groups.value ?? []) found[one.severity] = (found[one.severity] ?? 0) + one.count;
  return found;
});
const listed = computed(() =>
  (groups.value ?? []).filter((one) => !counts.value[filter.value] || one.severity === filter.value),
);
/** Advice is folded where there is much, and something worse to look at. */
const folds = computed(
  () =>
    total.value > FEW &&
    !query.value &&
    listed.value.some((one) => one.severity !== "advice") &&
    !!counts.value["advice"],
);
const shown = computed(() => listed.value.filter((one) => one.severity !== "advice" || !folds.value));
const advice = computed(() => listed.value.filter((one) => one.severity === "advice" && folds.value));
const sections = computed(() => [shown.value, unfolded.value ? advice.value : []]);

async function load(): Promise<void> {
  const mine = ++asked;
  const params = { path: { site_id: props.siteId }, query: { query: query.value } };
  try {
    const found = await data(api.GET("/api/sites/{site_id}/findings", { params }));
    if (mine !== asked) return;
    const before = opened.value;
    const all = found.groups.reduce((sum, one) => sum + one.count, 0);
    const open = found.groups.filter((one) => !one.only && (all <= FEW || before.has(one.rule)));
    const rows = await Promise.all(open.map((one) => openRule(one, before.get(one.rule)?.by)));
    if (mine !== asked) return;
    groups.value = found.groups;
    opened.value = new Map([
      ...found.groups.flatMap((one): [string, Opened][] =>
        one.only ? [[one.rule, { ...EACH, findings: [one.only], after: null }]] : [],
      ),
      ...open.map((one, index): [string, Opened] => [one.rule, rows[index]!]),
    ]);
    problem.value = "";
    emit("fixable", found.fixable);
  } catch (error) {
    if (mine === asked) problem.value = detailOf(error);
  }
}

const EACH: Opened = { by: "each", findings: [], after: null, causes: [], within: new Map() };

/** Fetch what is shown of a rule: by what its findings have in common where that says it in fewer lines. */
async function openRule(group: RuleCount, by?: By): Promise<Opened> {
  if (by !== "each" && group.count > FEW) {
    const causes = await fetchCauses(group.rule, by ?? "cause");
    if (by || 2 * causes.length <= group.count) return { ...EACH, by: by ?? "cause", causes };
  }
  return { ...EACH, ...(await fetchRows(group.rule, null)) };
}

async function fetchCauses(rule: string, by: "cause" | "block"): Promise<readonly SaidCount[]> {
  const found = await data(
    api.GET("/api/sites/{site_id}/findings/{rule}/causes", {
      params: { path: { site_id: props.siteId, rule }, query: { query: query.value, by } },
    }),
  );
  return found.causes;
}

async function fetchRows(rule: string, from: Rows | null, by?: By, of?: string): Promise<Rows> {
  const last = from?.findings.at(-1);
  const behind = last && from?.after !== null ? { after_page: last.page, after: from!.after! } : {};
  const among = by && by !== "each" ? { by, of: of ?? "" } : {};
  const found = await data(
    api.GET("/api/sites/{site_id}/findings/{rule}", {
      params: { path: { site_id: props.siteId, rule }, query: { query: query.value, ...behind, ...among } },
    }),
  );
  return { findings: [...(from?.findings ?? []), ...found.findings], after: found.after };
}

/** Do what asks the server for findings; what fails is told. */
async function asking(act: () => Promise<void>): Promise<void> {
  try {
    await act();
    problem.value = "";
  } catch (error) {
    problem.value = detailOf(error);
  }
}

const put = (rule: string, rows: Opened) => (opened.value = new Map(opened.value).set(rule, rows));

const toggle = (group: RuleCount, by?: By) =>
  asking(async () => {
    const next = new Map(opened.value);
    if (by || !next.delete(group.rule)) put(group.rule, await openRule(group, by));
    else opened.value = next;
  });

const more = (rule: string) =>
  asking(async () => {
    const before = opened.value.get(rule)!;
    put(rule, { ...before, ...(await fetchRows(rule, before)) });
  });

/** Open or close what has something in common, or show more of it. */
const within = (rule: string, said: string, goes: "turn" | "more") =>
  asking(async () => {
    const before = opened.value.get(rule)!;
    const next = new Map(before.within);
    if (goes === "more" || !next.delete(said))
      next.set(said, await fetchRows(rule, before.within.get(said) ?? null, before.by, said));
    put(rule, { ...before, within: next });
  });

watch(() => [props.siteId, props.turn], load, { immediate: true });
watchDebounced(query, load, { debounce: 200 });
</script>

<template>
  <div class="finding-list">
    <el-alert v-if="problem" :title="problem" type="error" :closable="false" />
    <FindingFilters v-if="total > 4 || query" v-model:filter="filter" v-model:query="query" :counts="counts" />
    <template v-for="(section, index) in sections" :key="index">
      <AdviceFold
        v-if="index && advice.length"
        :count="counts['advice'] ?? 0"
        :open="unfolded"
        @turn="unfolded = !unfolded"
      />
      <FindingGroup
        v-for="group in section"
        :key="group.rule"
        :title="group.title"
        :severity="group.severity"
        :count="group.count"
        :pressed="group.pressed"
        :chosen="group.chosen"
        :open="opened.has(group.rule)"
        :findings="opened.get(group.rule)?.findings ?? []"
        :more="(opened.get(group.rule)?.after ?? null) !== null"
        :instead="(opened.get(group.rule)?.by ?? 'each') !== 'each'"
        with-page
        :locked="locked"
        @turn="toggle(group)"
        @more="more(group.rule)"
        @go="emit('go', $event)"
        @fix="(finding, choice) => emit('fix', group.rule, finding, choice)"
        @aside="(finding, scope, reason) => emit('aside', finding, scope, reason)"
      >
        <template v-if="group.count > FEW" #by>
          <div class="by">
            <el-radio-group
              :model-value="opened.get(group.rule)?.by"
              size="small"
              :aria-label="`${group.title}: grouped by`"
              @update:model-value="toggle(group, $event as By)"
            >
              <el-radio-button value="cause">By cause</el-radio-button>
              <el-radio-button value="block">By block</el-radio-button>
              <el-radio-button value="each">Each</el-radio-button>
            </el-radio-group>
          </div>
        </template>
        <FindingCauses
          :causes="opened.get(group.rule)?.causes ?? []"
          :none="opened.get(group.rule)?.by === 'block' ? 'In no block of navigation, header or footer' : 'Others'"
          :opened="opened.get(group.rule)?.within ?? new Map()"
          :fixes="opened.get(group.rule)?.by === 'cause'"
          :locked="locked"
          @turn="within(group.rule, $event, 'turn')"
          @more="within(group.rule, $event, 'more')"
          @all="(cause, choice) => emit('fix', group.rule, null, choice, cause)"
          @go="emit('go', $event)"
          @fix="(finding, choice) => emit('fix', group.rule, finding, choice)"
          @aside="(finding, scope, reason) => emit('aside', finding, scope, reason)"
        />
      </FindingGroup>
    </template>
    <el-empty
      v-if="groups && !listed.length"
      :image-size="56"
      :description="query ? 'No finding matches the filter.' : 'No findings'"
    />
  </div>
</template>

<style scoped>
.by {
  padding: 6px 12px;
  border-bottom: 1px solid var(--line);
}
</style>
