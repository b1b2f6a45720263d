<script setup lang="ts">
/** What does not hold, each with its place and its reason. */
import type { FindingView } from "../api/client";
import SignIcon from "./SignIcon.vue";

defineProps<{ findings: readonly FindingView[]; withPage?: boolean }>();
const emit = defineEmits<{ go: [finding: FindingView] }>();
</script>

<template>
  <ol class="findings">
    <li v-for="(finding, row) in findings" :key="row">
      <button type="button" :class="finding.severity" @click="emit('go', finding)">
        <SignIcon name="wrong" />
        <span class="what">
          <strong>{{ finding.title }}</strong>
          <span>{{ finding.message }}</span>
        </span>
        <span class="where soft small">{{ withPage ? `${finding.page}, ` : "" }}line {{ finding.line }}<br>{{ finding.severity }}</span>
      </button>
    </li>
  </ol>
</template>

<style scoped>
.findings {
  list-style: none;
  margin: 0;
  padding: 0;
}

button {
  display: flex;
  gap: 10px;
  width: 100%;
  padding: 8px 12px;
  border: 0;
  border-bottom: 1px solid var(--line);
  background: none;
  text-align: left;
  cursor: pointer;
}

button:hover {
  background: var(--sheet-sunk);
}

button:focus-visible {
  outline-offset: -2px;
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
