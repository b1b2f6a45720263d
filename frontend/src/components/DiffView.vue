<script setup lang="ts">
/** A plan's diff, file by file, for reading. */
import type { PlannedChange } from "../api/client";
import { counted } from "../text/count";
import { useTray } from "../stores/tray";
import DiffLines from "./DiffLines.vue";

defineProps<{ plan: PlannedChange }>();
const tray = useTray();
</script>

<template>
  <section v-for="file in plan.files" :key="file.path" class="file" :aria-label="`Edits in ${file.path}`">
    <h3>
      <el-checkbox
        v-if="tray.without && !file.is_new && (plan.files.length > 1 || tray.without.length)"
        size="small"
        :model-value="true"
        :disabled="tray.busy"
        :aria-label="`${file.path}: untick to leave it as it is`"
        @change="tray.leave(file.path, true)"
        >{{ file.path }}</el-checkbox
      >
      <span v-else>{{ file.moved_from ? `${file.moved_from} → ${file.path}` : file.path }}</span>
      <span class="soft small">{{ file.is_new ? "new page" : counted(file.edits, "edit") }}</span>
    </h3>
    <DiffLines :diff="file.diff" note="; they are applied all the same" />
  </section>
  <section v-for="path in tray.without ?? []" :key="path" class="file" :aria-label="`No edits in ${path}`">
    <h3 class="left-out">
      <el-checkbox
        size="small"
        :model-value="false"
        :disabled="tray.busy"
        :aria-label="`${path}: tick to edit it too`"
        @change="tray.leave(path, false)"
        >{{ path }}</el-checkbox
      >
      <span class="soft small">stays as it is</span>
    </h3>
  </section>
</template>

<style scoped>
.file {
  border: 1px solid var(--line);
  border-radius: var(--radius);
  margin-bottom: 10px;
  background: var(--sheet);
}

.left-out {
  border-bottom: 0;
}

h3 :deep(.el-checkbox) {
  height: 20px;
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
