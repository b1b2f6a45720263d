<script setup lang="ts">
/** The walk's controls: the window, the previous and next link, and the back-to-top link. */
import { usePage } from "../stores/page";
import { useWalk } from "../stores/walk";
import SignIcon from "../components/SignIcon.vue";
import WindowPicker from "./WindowPicker.vue";

const walk = useWalk();
const page = usePage();
</script>

<template>
  <div class="walk-bar" role="group" aria-label="Walk">
    <WindowPicker />
    <el-tag v-if="page.typing" size="small" type="warning" disable-transitions>draft</el-tag>
    <span class="fill" />
    <el-button
      text
      size="small"
      :disabled="!walk.trail.length"
      title="Back to where the jump began (b)"
      @click="walk.back()"
    >
      <SignIcon name="undo" /> Back
    </el-button>
    <span class="steps">
      <el-button
        size="small"
        :disabled="!walk.steps.length"
        aria-label="Previous link"
        title="Previous link (Shift N)"
        @click="walk.go(-1)"
      >
        ‹
      </el-button>
      <span class="count" aria-hidden="true">{{ walk.at < 0 ? "–" : walk.at + 1 }} / {{ walk.steps.length }}</span>
      <el-button size="small" :disabled="!walk.steps.length" title="Follow the next link (n)" @click="walk.go(1)">
        Next link ›
      </el-button>
    </span>
  </div>
</template>

<style scoped>
.walk-bar {
  display: flex;
  align-items: center;
  gap: 6px;
  padding: 3px 8px;
  border-bottom: 1px solid var(--line);
  flex: none;
}

.fill {
  flex: 1;
}

@media (max-width: 1180px) {
  .count {
    display: none;
  }
}

.steps {
  flex: none;
  display: inline-flex;
  align-items: center;
  gap: 4px;
  white-space: nowrap;
}

.count {
  min-width: 48px;
  text-align: center;
  font-variant-numeric: tabular-nums;
  color: var(--ink-soft);
  font-size: var(--small);
}
</style>
