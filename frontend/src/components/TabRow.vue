<script setup lang="ts" generic="T extends string">
/** A row of tabs: one is in the tab order, arrow keys go to the next and the previous one. */
import { nextTick, ref } from "vue";

const props = defineProps<{
  tabs: readonly (readonly [T, string])[];
  label: string;
  panel: string;
  counts?: Partial<Record<T, number>>;
}>();
const chosen = defineModel<T>({ required: true });
const row = ref<HTMLElement | null>(null);

function turn(step: number): void {
  const at = props.tabs.findIndex(([tab]) => tab === chosen.value);
  const next = props.tabs[(at + step + props.tabs.length) % props.tabs.length];
  if (!next) return;
  chosen.value = next[0];
  void nextTick(() => row.value?.querySelector<HTMLElement>("[aria-selected='true']")?.focus());
}
</script>

<template>
  <div ref="row" role="tablist" :aria-label="label" class="tabs">
    <button
      v-for="[tab, words] in tabs"
      :id="`${panel}-${tab}`"
      :key="tab"
      role="tab"
      type="button"
      :aria-selected="chosen === tab"
      :tabindex="chosen === tab ? 0 : -1"
      :aria-controls="panel"
      @click="chosen = tab"
      @keydown.right.prevent="turn(1)"
      @keydown.left.prevent="turn(-1)"
    >
      {{ words }}<span v-if="counts?.[tab]" class="count">{{ counts[tab] }}</span>
    </button>
  </div>
</template>

<style scoped>
.tabs {
  display: flex;
  align-self: stretch;
  flex: 1;
  min-width: 0;
  overflow: auto hidden;
  scrollbar-width: none;
}

button {
  align-self: stretch;
  border: 0;
  border-bottom: 2px solid transparent;
  background: none;
  padding: 0 9px;
  cursor: pointer;
  color: var(--ink-soft);
  font-weight: 550;
  white-space: nowrap;
}

@media (max-width: 1180px) {
  button {
    padding: 0 4px;
    font-size: 13px;
  }
}

button:hover {
  color: var(--ink);
}

button[aria-selected="true"] {
  color: var(--ink);
  border-bottom-color: var(--post);
}

button:focus-visible {
  outline-offset: -3px;
}

.count {
  margin-left: 5px;
  font-size: 11.5px;
  color: var(--wrong);
  font-weight: 700;
}
</style>
