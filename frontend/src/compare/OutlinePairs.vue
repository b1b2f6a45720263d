<script setup lang="ts">
/** Outline against outline: each section beside its counterpart. */
import { computed } from "vue";
import type { PairView } from "../api/client";
import PairSide from "./PairSide.vue";

const props = defineProps<{ pairs: readonly PairView[]; all: boolean }>();
const emit = defineEmits<{ choose: [pair: PairView] }>();

const shown = computed(() =>
  props.pairs.filter((pair) => props.all || !pair.left || !pair.right || pair.differences.length > 0),
);
const WORDS: Record<string, string> = { words: "words", level: "level", identifier: "identifier", length: "length" };
function verdict(pair: PairView): string {
  if (!pair.left) return "only on the right";
  if (!pair.right) return "only on the left";
  return pair.differences.map((found) => WORDS[found]).join(", ") || "same";
}
const tone = (pair: PairView) =>
  !pair.left ? "added" : !pair.right ? "taken" : pair.differences.length ? "changed" : "";
</script>

<template>
  <table class="sheet">
    <thead>
      <tr>
        <th scope="col">Left</th>
        <th scope="col" class="mark">Differs in</th>
        <th scope="col">Right</th>
      </tr>
    </thead>
    <tbody>
      <tr
        v-for="(pair, row) in shown"
        :key="row"
        :class="tone(pair)"
        tabindex="0"
        title="Show both on the rendered pages"
        @click="emit('choose', pair)"
        @keydown.enter="emit('choose', pair)"
      >
        <td class="left"><PairSide v-if="pair.left" :side="pair.left" /></td>
        <td class="mark small">{{ verdict(pair) }}</td>
        <td class="right"><PairSide v-if="pair.right" :side="pair.right" /></td>
      </tr>
    </tbody>
  </table>
  <p v-if="!shown.length" class="soft none">The outlines are the same.</p>
</template>

<style scoped>
tbody tr {
  cursor: pointer;
}

td {
  border-bottom: 1px solid var(--line);
  height: 30px;
  padding: 2px 4px;
}

.mark {
  width: 130px;
  text-align: center;
  color: var(--ink-soft);
}

.added .right {
  background: var(--post-wash);
}

.taken .left {
  background: var(--wrong-wash);
}

.changed td:not(.mark) {
  background: var(--wait-wash);
}

.added .mark,
.taken .mark,
.changed .mark {
  color: var(--ink);
  font-weight: 600;
}

tr:hover td {
  box-shadow: inset 0 -1px 0 var(--line-strong);
}

.none {
  padding: 20px;
}
</style>
