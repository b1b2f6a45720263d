<script setup lang="ts">
/** The stages of the work across the desk, each with its state in a few words; and the next useful step. */
import { usePage } from "../stores/page";
import { STAGES, useStages } from "../stores/stages";
import { counted } from "../text/count";

const page = usePage();
const stages = useStages();
</script>

<template>
  <nav class="strip" aria-label="Stages of the work">
    <el-tabs v-model="page.stage" class="stages">
      <el-tab-pane v-for="[stage, words] in STAGES" :key="stage" :name="stage">
        <template #label>
          <span class="stage" :class="stages.states.get(stage)?.progress">
            <span class="name">{{ words }}</span>
            <span class="state">{{ stages.states.get(stage)?.words ?? "…" }}</span>
          </span>
        </template>
      </el-tab-pane>
    </el-tabs>
    <template v-if="stages.next">
      <el-button
        v-if="stages.shown && stages.later < stages.left.length"
        text
        class="later"
        title="Leave this for later, and go on (Alt M)"
        @click="stages.passNext()"
        >Not now</el-button
      >
      <el-button
        type="primary"
        class="next"
        :title="`Show the next thing to do or decide; ${counted(stages.left.length, 'step')} left (Alt N)`"
        @click="stages.goNext()"
        >{{ stages.later === stages.left.length ? "Again" : "Next" }}: {{ stages.next[1].toLowerCase() }}</el-button
      >
    </template>
    <span v-else-if="page.view && !page.view.is_arriving" class="soft small next done" role="status"
      >Everything is done: {{ page.view.account }}.</span
    >
  </nav>
</template>

<style scoped>
.strip {
  flex: none;
  display: flex;
  align-items: stretch;
  background: var(--sheet-sunk);
  border-bottom: 1px solid var(--line);
}

.stages {
  flex: 1;
  min-width: 0;
}

.stages :deep(.el-tabs__header) {
  margin: 0;
}

.stages :deep(.el-tabs__content) {
  display: none;
}

.stages :deep(.el-tabs__nav) {
  width: 100%;
}

.stages :deep(.el-tabs__nav-wrap::after) {
  display: none;
}

.stages :deep(.el-tabs__item) {
  flex: 1;
  justify-content: flex-start;
  height: 46px;
  padding: 0 6px 0 14px;
  min-width: 0;
}

.stages :deep(.el-tabs__item:last-child) {
  padding-right: 6px;
}

.stages :deep(.el-tabs__item:nth-child(2)) {
  padding-left: 14px;
}

.stages :deep(.el-tabs__item.is-active) {
  background: var(--sheet);
}

.stage {
  display: flex;
  flex-direction: column;
  min-width: 0;
  line-height: 1.3;
  white-space: nowrap;
}

.name {
  font-weight: 650;
  color: var(--ink);
}

.state {
  overflow: hidden;
  text-overflow: ellipsis;
  font-size: 12px;
  font-weight: 500;
  color: var(--ink-soft);
}

.todo .state {
  color: var(--wait);
}

.wrong .state {
  color: var(--wrong);
}

.todo .state::before {
  content: "○ ";
}

.wrong .state::before {
  content: "! ";
  font-weight: 800;
}

.done .state::before {
  content: "✓ ";
}

.later {
  align-self: center;
  flex: none;
  margin-right: -4px;
}

.next {
  align-self: center;
  flex: none;
  margin: 0 12px;
}
</style>
