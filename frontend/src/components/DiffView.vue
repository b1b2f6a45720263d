<script setup lang="ts">
/** A plan's diff, file by file, for reading. */
import type { PlannedChange } from "../api/client";
import { counted } from "../text/count";
import DiffLines from "./DiffLines.vue";

defineProps<{ plan: PlannedChange }>();
</script>

<template>
  <section v-for="file in plan.files" :key="file.path" class="file" :aria-label="`Edits in ${file.path}`">
    <h3>
      <span>{{ file.moved_from ? `${file.moved_from} → ${file.path}` : file.path }}</span>
      <span class="soft small">{{ file.is_new ? "new page" : counted(file.edits, "edit") }}</span>
    </h3>
    <DiffLines :diff="file.diff" note="; they are applied all the same" />
  </section>
</template>

<style scoped>
.file {
  border: 1px solid var(--line);
  border-radius: var(--radius);
  margin-bottom: 10px;
  background: var(--sheet);
}

h3 {
  display: flex;
  justify-content: space-between;
  padding: 5px 10px;
  font: 600 13px/1.5 var(--ui);
  background: var(--sheet-sunk);
  border-bottom: 1px solid var(--line);
  position: sticky;
  top: 0;
}
</style>
