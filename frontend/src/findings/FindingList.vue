<script setup lang="ts">
/** What is wrong, by its cause: filtered, each with its place, its reason and its fix. */
import { computed, ref } from "vue";
import type { FindingView } from "../api/client";
import type { Scope } from "../stores/checks";
import AdviceFold from "./AdviceFold.vue";
import FindingFilters, { type Filter } from "./FindingFilters.vue";
import FindingGroup from "./FindingGroup.vue";
import { groupFindings, type RuleFindings } from "./groups";

const props = defineProps<{
  findings: readonly FindingView[];
  fresh?: ReadonlySet<FindingView>; // those that came with the last change
  locked?: boolean;
}>();
const emit = defineEmits<{
  go: [finding: FindingView];
  fix: [rule: string, finding: FindingView | null, choice: number | null]; // without a finding, all of the rule
  aside: [finding: FindingView, scope: Scope, reason: string];
}>();

/** Of a group, how many are shown at once; and up to how many findings all groups are open. */
const AT_ONCE = 20;
const FEW = 8;
const filter = ref<Filter>("all");
const query = ref("");
const turned = ref<Set<string>>(new Set()); // groups that were opened or closed by hand
const shown = ref<Map<string, number>>(new Map()); // of each group, by its key

const counts = computed(() => {
  const found: Record<string, number> = {};
  for (const one of props.findings) found[one.severity] = (found[one.severity] ?? 0) + 1;
  return found;
});
/** The filter, as long as there is something that it shows. */
const by = computed<Filter>(() => {
  const count = filter.value === "new" ? (props.fresh?.size ?? 0) : (counts.value[filter.value] ?? 0);
  return count ? filter.value : "all";
});
const found = computed(() => {
  const words = query.value.trim().toLowerCase();
  return props.findings.filter(
    (one) =>
      (by.value === "all" || (by.value === "new" ? props.fresh?.has(one) : one.severity === by.value)) &&
      (!words || `${one.title} ${one.message} ${one.page} ${one.rule}`.toLowerCase().includes(words)),
  );
});
const groups = computed(() => groupFindings(found.value));
/** Advice is folded where there is much, and something worse to look at. */
const folds = computed(
  () =>
    found.value.length > FEW &&
    by.value === "all" &&
    !query.value.trim() &&
    groups.value.some((one) => one.severity !== "advice"),
);
const unfolded = ref(false);
const advice = computed(() => groups.value.filter((one) => one.severity === "advice" && folds.value));
const sections = computed(() => [
  groups.value.filter((one) => !advice.value.includes(one)),
  unfolded.value ? advice.value : [],
]);

const keyOf = (group: RuleFindings) => `${group.rule} ${group.severity}`;
const isOpen = (group: RuleFindings) =>
  turned.value.has(keyOf(group)) !== (found.value.length <= FEW || group.findings.length === 1);
const rowsOf = (group: RuleFindings) => group.findings.slice(0, shown.value.get(keyOf(group)) ?? AT_ONCE);

function turn(group: RuleFindings): void {
  const next = new Set(turned.value);
  if (!next.delete(keyOf(group))) next.add(keyOf(group));
  turned.value = next;
}

function showMore(group: RuleFindings): void {
  shown.value = new Map(shown.value).set(keyOf(group), rowsOf(group).length + 5 * AT_ONCE);
}
</script>

<template>
  <div class="finding-list">
    <FindingFilters
      v-if="findings.length > 4"
      v-model:filter="filter"
      v-model:query="query"
      :counts="counts"
      :fresh="fresh?.size ?? 0"
    />
    <template v-for="(section, index) in sections" :key="index">
      <AdviceFold
        v-if="index && advice.length"
        :count="counts['advice'] ?? 0"
        :open="unfolded"
        @turn="unfolded = !unfolded"
      />
      <FindingGroup
        v-for="group in section"
        :key="keyOf(group)"
        :title="group.title"
        :severity="group.severity"
        :count="group.findings.length"
        :pressed="group.pressed"
        :chosen="group.chosen"
        :open="isOpen(group)"
        :findings="rowsOf(group)"
        :more="group.findings.length > rowsOf(group).length"
        :locked="locked"
        @turn="turn(group)"
        @more="showMore(group)"
        @go="emit('go', $event)"
        @fix="(finding, choice) => emit('fix', group.rule, finding, choice)"
        @aside="(finding, scope, reason) => emit('aside', finding, scope, reason)"
      />
    </template>
    <el-empty
      v-if="!groups.length"
      :image-size="56"
      :description="findings.length ? 'No finding matches the filter.' : 'No findings'"
    />
  </div>
</template>
