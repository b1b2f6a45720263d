<script setup lang="ts">
/** What is wrong, each with its place and its reason: filtered, sorted, a page of them at a time. */
import { computed, ref } from "vue";
import type { FindingView } from "../api/client";
import SignIcon from "./SignIcon.vue";

const props = defineProps<{
  findings: readonly FindingView[];
  withPage?: boolean;
  canFix?: boolean;
  locked?: boolean;
}>();
const emit = defineEmits<{
  go: [finding: FindingView];
  relink: [finding: FindingView, name: string];
  fix: [rule: string, start: number | null]; // one finding; without a start all of the rule
}>();

const AT_ONCE = 100;
const SEVERITIES = [
  { value: "all", label: "All" },
  { value: "error", label: "Errors" },
  { value: "warning", label: "Warnings" },
  { value: "advice", label: "Advice" },
];
const severity = ref("all");
const query = ref("");
const at = ref(1);

const found = computed(() => {
  const words = query.value.trim().toLowerCase();
  return props.findings.filter(
    (one) =>
      (severity.value === "all" || one.severity === severity.value) &&
      (!words || `${one.title} ${one.message} ${one.page}`.toLowerCase().includes(words)),
  );
});
/** How many findings of each rule one press can fix. */
const fixable = computed(() => {
  const counts = new Map<string, number>();
  for (const one of props.findings) if (one.fixable) counts.set(one.rule, (counts.get(one.rule) ?? 0) + 1);
  return counts;
});
/** The rules of which several findings are fixed at once, with their titles. */
const together = computed(() =>
  [...fixable.value]
    .filter(([, count]) => count > 1)
    .map(([rule, count]) => ({ rule, count, title: props.findings.find((one) => one.rule === rule)?.title ?? "" })),
);
const shown = computed(() => {
  const page = Math.min(at.value, Math.max(Math.ceil(found.value.length / AT_ONCE), 1));
  return found.value.slice((page - 1) * AT_ONCE, page * AT_ONCE);
});
</script>

<template>
  <div class="finding-list">
    <div v-if="findings.length > 4" class="filters">
      <el-segmented v-model="severity" :options="SEVERITIES" size="small" aria-label="Severity" />
      <el-input v-model="query" size="small" clearable placeholder="Filter" aria-label="Filter the findings" />
    </div>
    <ul v-if="canFix && together.length" class="together" aria-label="Fixed together">
      <li v-for="one in together" :key="one.rule">
        <span>{{ one.title }}</span>
        <el-button size="small" :disabled="locked" @click="emit('fix', one.rule, null)"
          >Fix {{ one.count }}</el-button
        >
      </li>
    </ul>
    <ol class="findings">
      <li v-for="finding in shown" :key="`${finding.page} ${finding.start} ${finding.rule} ${finding.message}`">
        <button type="button" class="finding" :class="finding.severity" @click="emit('go', finding)">
          <SignIcon name="wrong" />
          <span class="what">
            <strong>{{ finding.title }}</strong>
            <span>{{ finding.message }}</span>
          </span>
          <span class="where soft small"
            >{{ withPage ? `${finding.page}, ` : "" }}line {{ finding.line }}<br />{{ finding.severity }}</span
          >
        </button>
        <p v-if="finding.fixable && canFix" class="near small">
          <el-button size="small" :disabled="locked" @click="emit('fix', finding.rule, finding.start)">Fix</el-button>
        </p>
        <p v-if="finding.suggestions.length && canFix" class="near small">
          Link to
          <el-button
            v-for="name in finding.suggestions"
            :key="name"
            size="small"
            :disabled="locked"
            @click="emit('relink', finding, name)"
            ><span class="plate">{{ name }}</span></el-button
          >
        </p>
      </li>
    </ol>
    <el-empty
      v-if="!shown.length"
      :image-size="56"
      :description="findings.length ? 'No finding matches the filter.' : 'No findings'"
    />
    <el-pagination
      v-if="found.length > AT_ONCE"
      v-model:current-page="at"
      layout="prev, pager, next"
      :page-size="AT_ONCE"
      :total="found.length"
      size="small"
    />
  </div>
</template>

<style scoped>
.filters {
  display: flex;
  gap: 8px;
  padding: 8px 12px;
  border-bottom: 1px solid var(--line);
}

.findings {
  list-style: none;
  margin: 0;
  padding: 0;
}

.together {
  margin: 0;
  padding: 6px 12px;
  border-bottom: 1px solid var(--line);
  background: var(--sheet-sunk);
  list-style: none;
}

.together li {
  display: flex;
  align-items: center;
  justify-content: space-between;
  padding: 2px 0;
  border: 0;
}

/* a row that is pressed as a whole, with three pieces of text of its own */
.finding {
  display: flex;
  gap: 10px;
  width: 100%;
  padding: 8px 12px;
  border: 0;
  background: none;
  text-align: left;
  cursor: pointer;
}

.finding:hover {
  background: var(--sheet-sunk);
}

.finding:focus-visible {
  outline-offset: -2px;
}

li {
  border-bottom: 1px solid var(--line);
}

.near {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 6px;
  padding: 0 12px 8px 38px;
}

.error .sign-icon {
  color: var(--wrong);
}

.warning .sign-icon {
  color: var(--wait);
}

.what {
  flex: 1;
  display: flex;
  flex-direction: column;
  overflow-wrap: anywhere;
}

.where {
  text-align: right;
  white-space: nowrap;
}
</style>
