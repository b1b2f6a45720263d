<script setup lang="ts">
/** A landing in a few words and a sign, never by colour alone. */
import { computed } from "vue";
import type { LandingView } from "../api/client";
import { sentenceOf, toneOf, verdictOf } from "./words";

const props = defineProps<{ landing: LandingView }>();
const tone = computed(() => toneOf(props.landing));
const sign = computed(() => ({ good: "✓", wait: "▽", wrong: "✕" })[tone.value]);
</script>

<template>
  <span class="verdict" :class="[tone, { settled: landing.settled }]" :title="sentenceOf(landing)"
    ><span aria-hidden="true">{{ landing.verdict === "unmeasured" ? "·" : sign }}</span> {{ verdictOf(landing)
    }}<template v-if="landing.settled">, accepted</template></span
  >
</template>

<style scoped>
.verdict {
  white-space: nowrap;
  font-size: var(--small);
  color: var(--ink-soft);
  font-variant-numeric: tabular-nums;
}

.verdict.wait:not(.settled) {
  color: var(--wait);
  font-weight: 600;
}

.verdict.wrong {
  color: var(--wrong);
  font-weight: 600;
}
</style>
