<script setup lang="ts">
/** How long the page is, and how that is known. */
import { computed } from "vue";
import type { PageView } from "../api/client";
import { useMeasures } from "../stores/measures";

const props = defineProps<{ page: PageView }>();
const measures = useMeasures();

const length = computed(() => measures.view?.windows ?? props.page.windows);
const origin = computed(() => {
  if (measures.problem) return "could not be measured";
  if (measures.view?.state === "measured") return "measured";
  if (measures.view?.state === "outdated") return "as it was before the change";
  return "an estimate";
});
</script>

<template>
  <span class="soft small facts" :title="measures.problem">
    <template v-if="page.part">part {{ page.part.number }} of {{ page.part.count }} · </template
    >{{ page.words.toLocaleString() }} words · {{ Math.max(Math.round(page.minutes), 1) }} min ·
    {{ length.toFixed(1) }} windows of {{ measures.window.width }} × {{ measures.window.height
    }}<span class="known" :class="{ sure: origin === 'measured' }"
      >, {{ measures.measuring ? "measuring…" : origin }}</span
    >
  </span>
</template>

<style scoped>
.facts {
  margin-left: 6px;
}

.known:not(.sure) {
  color: var(--wait);
}

@media (max-width: 1180px) {
  .facts {
    display: none;
  }
}
</style>
