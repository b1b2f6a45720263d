<script setup lang="ts">
/** The narrow cell of a section's row: whether it has a link back, or the part that it would be in. */
import { computed } from "vue";
import type { SectionView } from "../api/client";
import SignIcon from "../components/SignIcon.vue";
import { usePage } from "../stores/page";

const props = defineProps<{ section: SectionView; locked: boolean }>();

const state = usePage();
const begins = computed(() => state.cuts.has(props.section.index)); // a part
const part = computed(() =>
  state.cuts.size || state.stage === "parts" ? state.partOf[props.section.index] : undefined,
);
</script>

<template>
  <td v-if="state.stage === 'back-to-top'" class="mark">
    <SignIcon v-if="section.back_link" name="up" /><span class="unseen">{{
      section.back_link ? "has a link back" : "no link back"
    }}</span>
  </td>
  <td v-else class="mark parts">
    <label v-if="state.stage === 'parts' && section.can_cut" :title="`Begin a part with “${section.text}”`">
      <input
        type="checkbox"
        tabindex="-1"
        :checked="begins"
        :disabled="locked"
        :aria-label="`Begin a part with ${section.text}`"
        @change="state.toggleCut(section.index)"
        @click.stop
      />
      <span>{{ part }}</span>
    </label>
    <span v-else>{{ part }}</span>
  </td>
</template>

<style scoped>
.mark {
  width: 46px;
  text-align: center;
}

td.mark {
  color: var(--post);
}

td.parts {
  color: var(--ink);
  font-variant-numeric: tabular-nums;
}

td.parts label {
  display: inline-flex;
  align-items: center;
  gap: 3px;
}

td {
  height: 30px;
  padding: 2px 4px;
  border-bottom: 1px solid var(--line);
}
</style>
