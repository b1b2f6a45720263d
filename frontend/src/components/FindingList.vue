<script setup lang="ts">
/** What is wrong, each with its place and its reason. */
import type { FindingView } from "../api/client";
import SignIcon from "./SignIcon.vue";

defineProps<{ findings: readonly FindingView[]; withPage?: boolean; canMend?: boolean; locked?: boolean }>();
const emit = defineEmits<{ go: [finding: FindingView]; relink: [finding: FindingView, name: string] }>();
</script>

<template>
  <ol class="findings">
    <li v-for="(finding, row) in findings" :key="row">
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
      <p v-if="finding.suggestions.length && canMend" class="near small">
        Lead it to
        <el-button
          v-for="name in finding.suggestions"
          :key="name"
          :disabled="locked"
          @click="emit('relink', finding, name)"
        >
          <span class="plate">{{ name }}</span>
        </el-button>
      </p>
    </li>
  </ol>
</template>

<style scoped>
.findings {
  list-style: none;
  margin: 0;
  padding: 0;
}

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

.near .button {
  min-height: 24px;
  padding: 0 5px;
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
