<script setup lang="ts">
/** The findings of a rule by what they have in common, a line each; under one that is open, its single findings. */
import type { FindingView, SaidCount } from "../api/client";
import type { Scope } from "../stores/checks";
import { counted } from "../text/count";
import FindingRow from "./FindingRow.vue";

defineProps<{
  causes: readonly SaidCount[];
  none: string; // what the line says whose findings have nothing in common
  opened: ReadonlyMap<string, { findings: readonly FindingView[]; after: number | null }>;
  fixes?: boolean; // whether all of a line can be fixed together
  locked?: boolean;
}>();
const emit = defineEmits<{
  turn: [cause: string];
  more: [cause: string];
  all: [cause: string, choice: number | null]; // all of them fixed
  go: [finding: FindingView];
  fix: [finding: FindingView, choice: number | null];
  aside: [finding: FindingView, scope: Scope, reason: string];
}>();
</script>

<template>
  <ul class="causes">
    <li v-for="one in causes" :key="one.said">
      <div class="line">
        <el-button text class="toggle" :aria-expanded="opened.has(one.said)" @click="emit('turn', one.said)">
          <span class="said">{{ one.said || none }}</span>
          <span class="soft"
            >{{ one.count.toLocaleString("en")
            }}<template v-if="one.pages > 1"> on {{ counted(one.pages, "page") }}</template></span
          >
        </el-button>
        <el-button
          v-if="fixes && one.pressed > 1"
          size="small"
          :disabled="locked"
          @click="emit('all', one.said, null)"
          >Fix {{ one.pressed.toLocaleString("en") }}</el-button
        >
        <el-button
          v-else-if="fixes && one.chosen > 1"
          size="small"
          title="Each by its first, likeliest choice; the diff shows them all"
          :disabled="locked"
          @click="emit('all', one.said, 0)"
          >Fix {{ one.chosen.toLocaleString("en") }} by first choice</el-button
        >
      </div>
      <ol v-if="opened.has(one.said)" class="findings">
        <FindingRow
          v-for="finding in opened.get(one.said)!.findings"
          :key="`${finding.page} ${finding.start} ${finding.message}`"
          :finding="finding"
          with-page
          :locked="locked"
          @go="emit('go', finding)"
          @fix="emit('fix', finding, $event)"
          @aside="(scope, reason) => emit('aside', finding, scope, reason)"
        />
      </ol>
      <el-button
        v-if="opened.get(one.said)?.after !== null && opened.has(one.said)"
        text
        size="small"
        class="more"
        @click="emit('more', one.said)"
        >Show more of {{ counted(one.count, "finding") }}</el-button
      >
    </li>
  </ul>
</template>

<style scoped>
.causes,
.findings {
  margin: 0;
  padding: 0;
  list-style: none;
}

.line {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 1px 12px 1px 0;
  border-bottom: 1px solid var(--line);
}

.toggle {
  flex: 1;
  justify-content: flex-start;
  min-width: 0;
  height: auto;
  min-height: 32px;
  padding: 5px 12px 5px 36px;
  text-align: left;
  white-space: normal;
}

.toggle :deep(> span) {
  flex-wrap: wrap;
  gap: 2px 9px;
  min-width: 0;
  line-height: 1.35;
}

.said {
  overflow-wrap: anywhere;
}

.more {
  margin: 2px 8px 6px;
}
</style>
