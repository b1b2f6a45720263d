<script setup lang="ts">
/** What is shown below the rendered page: of the link under the pointer, else of the landing that was reached last. */
import { computed } from "vue";
import type { LinkView } from "../api/client";
import { keyOfLanding, useWalk } from "../stores/walk";
import { aboutLink, goalOf, sentenceOf, toneOf } from "../walk/words";

const props = defineProps<{ about: LinkView | null; notice: string }>();
const walk = useWalk();

/** By how many pixels the jump ended elsewhere than predicted; null where nothing is known of that. */
const off = computed(() => {
  const { step, landed } = walk;
  if (!step || !landed || landed.key !== keyOfLanding(step) || step.scroll === null) return null;
  const difference = Math.round(landed.top - step.scroll);
  return Math.abs(difference) > walk.exact ? difference : null;
});
const tone = computed(() => (!props.about && !props.notice && walk.step ? toneOf(walk.step) : "good"));
</script>

<template>
  <p class="line small" :class="tone" role="status">
    <template v-if="about">{{ aboutLink(about) }}</template>
    <template v-else-if="notice">{{ notice }}</template>
    <template v-else-if="walk.step">
      <strong>“{{ walk.step.text || "picture" }}” → {{ goalOf(walk.step) }}.</strong> {{ sentenceOf(walk.step) }}
      <template v-if="off !== null"
        >It ended {{ Math.abs(off) }} px {{ off > 0 ? "lower" : "higher" }} than measured.</template
      >
    </template>
    <template v-else-if="walk.steps.length"
      >{{ walk.steps.length }} jump {{ walk.steps.length === 1 ? "link" : "links" }} to try. <kbd>n</kbd> follows the
      next one, <kbd>b</kbd> goes back.</template
    >
    <template v-else>No jump links on this page yet.</template>
  </p>
</template>

<style scoped>
.line {
  position: absolute;
  right: 0;
  bottom: 0;
  left: 0;
  min-height: 28px;
  padding: 4px 10px;
  border-top: 1px solid var(--line);
  background: var(--sheet-sunk);
  overflow-wrap: anywhere;
  flex: none;
}

.line.wait {
  background: var(--wait-wash);
}

.line.wrong {
  background: var(--wrong-wash);
}
</style>
