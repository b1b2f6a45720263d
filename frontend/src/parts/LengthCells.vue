<script setup lang="ts">
/** A section's length: minutes, windows, share of the page. */
import type { WholeSectionView } from "../api/client";

defineProps<{ section: WholeSectionView }>();
</script>

<template>
  <td class="number">
    {{ section.minutes < 0.95 ? section.minutes.toFixed(1) : Math.round(section.minutes) }}
  </td>
  <td class="number windows" :class="section.beyond">
    {{ section.windows.toFixed(1)
    }}<span v-if="section.beyond" class="beyond"
      >{{ section.beyond === "long" ? " ▲" : " ▼"
      }}<span class="unseen">{{
        section.beyond === "long" ? "longer than your limit" : "shorter than your limit"
      }}</span></span
    >
  </td>
  <td class="number share">
    {{ `${section.share < 9.95 ? section.share.toFixed(1) : Math.round(section.share)} %` }}
  </td>
</template>

<style scoped>
td {
  height: 30px;
  padding: 2px 4px;
  font-size: 13px;
  border-bottom: 1px solid var(--line);
  text-align: right;
  font-variant-numeric: tabular-nums;
}

.long,
.short {
  color: var(--wait);
  font-weight: 600;
}
</style>
