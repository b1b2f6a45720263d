<script setup lang="ts">
/** The findings of one rule: what is wrong and how often, what fixes them together, and each of them. */
import type { FindingView } from "../api/client";
import SignIcon from "../components/SignIcon.vue";
import type { Scope } from "../stores/checks";
import { counted } from "../text/count";
import FindingRow from "./FindingRow.vue";

defineProps<{
  title: string;
  severity: string;
  count: number;
  pressed: number; // of them that one press fixes
  chosen: number; // of them that are fixed by a choice
  open: boolean;
  findings: readonly FindingView[]; // that are shown while it is open
  more: boolean; // whether there are others
  withPage?: boolean;
  instead?: boolean; // whether the slot stands in the place of the single findings
  locked?: boolean;
}>();
const emit = defineEmits<{
  turn: [];
  more: [];
  go: [finding: FindingView];
  fix: [finding: FindingView | null, choice: number | null]; // without a finding, all of them
  aside: [finding: FindingView, scope: Scope, reason: string];
}>();
</script>

<template>
  <section :aria-label="title">
    <div v-if="count > 1" class="group" :class="severity">
      <el-button text class="toggle" :aria-expanded="open" @click="emit('turn')">
        <SignIcon name="wrong" />
        <span class="title">{{ title }}</span>
        <span class="soft">{{ count.toLocaleString("en") }}</span>
        <span class="unseen">{{ severity }}</span>
      </el-button>
      <el-button v-if="pressed > 1" size="small" :disabled="locked" @click="emit('fix', null, null)"
        >Fix {{ pressed.toLocaleString("en") }}</el-button
      >
      <el-button
        v-else-if="chosen > 1"
        size="small"
        title="Each by its first, likeliest choice; the diff shows them all"
        :disabled="locked"
        @click="emit('fix', null, 0)"
        >Fix {{ chosen.toLocaleString("en") }} by first choice</el-button
      >
    </div>
    <slot v-if="open" name="by" />
    <slot v-if="open && instead" />
    <ol v-else-if="open" class="findings">
      <FindingRow
        v-for="finding in findings"
        :key="`${finding.page} ${finding.start} ${finding.message}`"
        :finding="finding"
        :with-page="withPage"
        :locked="locked"
        :alone="count === 1"
        @go="emit('go', finding)"
        @fix="emit('fix', finding, $event)"
        @aside="(scope, reason) => emit('aside', finding, scope, reason)"
      />
    </ol>
    <el-button v-if="open && more && !instead" text size="small" class="more" @click="emit('more')"
      >Show more of {{ counted(count, "finding") }}</el-button
    >
  </section>
</template>

<style scoped>
.group {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 3px 12px 3px 0;
  border-bottom: 1px solid var(--line);
  background: var(--sheet-sunk);
}

.toggle {
  flex: 1;
  justify-content: flex-start;
  min-width: 0;
  padding: 0 12px;
}

.toggle :deep(> span) {
  gap: 9px;
  min-width: 0;
}

.title {
  overflow: hidden;
  font-weight: 600;
  text-overflow: ellipsis;
}

.error .sign-icon {
  color: var(--wrong);
}

.warning .sign-icon {
  color: var(--wait);
}

.findings {
  margin: 0;
  padding: 0;
  list-style: none;
}

.more {
  margin: 2px 8px 6px;
}
</style>
