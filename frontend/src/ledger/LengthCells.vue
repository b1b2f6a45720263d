<script setup lang="ts">
/** A section's length: minutes, windows, share of the page. */
import type { StretchView } from "../api/client";

defineProps<{ stretch: StretchView | undefined }>();
</script>

<template>
  <td class="number">
    {{ stretch ? (stretch.minutes < 0.95 ? stretch.minutes.toFixed(1) : Math.round(stretch.minutes)) : "" }}
  </td>
  <td class="number windows" :class="stretch?.beyond">
    <template v-if="stretch"
      >{{ stretch.windows.toFixed(1)
      }}<span v-if="stretch.beyond" class="beyond"
        >{{ stretch.beyond === "long" ? " ▲" : " ▼"
        }}<span class="unseen">{{
          stretch.beyond === "long" ? "longer than your limit" : "shorter than your limit"
        }}</span></span
      ></template
    >
  </td>
  <td class="number share">
    {{ stretch ? `${stretch.share < 9.95 ? stretch.share.toFixed(1) : Math.round(stretch.share)} %` : "" }}
  </td>
</template>

<style scoped>
td {
  height: 30px;
  padding: 2px 4px;
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
