<script setup lang="ts">
/** Which findings are shown: by how grave they are, by whether they are new, by words. */
import { computed } from "vue";

export type Filter = "all" | "error" | "warning" | "advice" | "new";

const props = defineProps<{
  counts: Readonly<Record<string, number>>; // by severity
  fresh?: number; // that came with the last change
}>();
const filter = defineModel<Filter>("filter", { required: true });
const query = defineModel<string>("query", { required: true });

const WORDS: readonly [Filter, string, string][] = [
  ["error", "error", "errors"],
  ["warning", "warning", "warnings"],
  ["advice", "advice", "advice"],
];
const shown = (count: number) => count.toLocaleString("en");
const options = computed(() => {
  const total = Object.values(props.counts).reduce((sum, count) => sum + count, 0);
  const found: { value: Filter; label: string }[] = [{ value: "all", label: `All ${shown(total)}` }];
  for (const [value, one, many] of WORDS) {
    const count = props.counts[value] ?? 0;
    if (count) found.push({ value, label: `${shown(count)} ${count === 1 ? one : many}` });
  }
  if (props.fresh) found.push({ value: "new", label: `${shown(props.fresh)} new` });
  return found;
});
/** The filter, as long as there is something that it shows. */
const held = computed<Filter>({
  get: () => (options.value.some((one) => one.value === filter.value) ? filter.value : "all"),
  set: (value) => (filter.value = value),
});
</script>

<template>
  <div class="filters">
    <el-segmented v-model="held" :options="options" size="small" aria-label="Which findings" />
    <el-input v-model="query" size="small" clearable placeholder="Filter" aria-label="Filter the findings" />
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
