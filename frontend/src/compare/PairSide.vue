<script setup lang="ts">
/** A section on one side of a comparison. */
import type { PairView } from "../api/client";

defineProps<{ side: NonNullable<PairView["left"]> }>();
</script>

<template>
  <div class="side" :style="{ paddingLeft: `${(side.level - 1) * 12 + 8}px` }">
    <span class="chip">h{{ side.level }}</span>
    <span class="words" :title="side.text">{{ side.text || "(no words)" }}</span>
    <span v-if="side.identifier" class="plate">{{ side.identifier }}</span>
    <span class="soft small count">{{ side.words }} {{ side.words === 1 ? "word" : "words" }}</span>
  </div>
</template>

<style scoped>
.side {
  display: flex;
  gap: 8px;
  align-items: baseline;
  min-width: 0;
}

.words {
  font-family: var(--read);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.chip {
  font-size: 12px;
  color: var(--ink-soft);
}

.plate {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  max-width: 40%;
}

.count {
  margin-left: auto;
  padding-right: 8px;
  white-space: nowrap;
}
</style>
