<script setup lang="ts">
/** The frame of a dialog that asks something: its fields, what is wrong with them, and one button to go on. */
import { ref, watch } from "vue";
import { useDialogs } from "../stores/dialogs";
import { useTray } from "../stores/tray";
import { counted } from "../text/count";

withDefaults(defineProps<{ title: string; does: string; able?: boolean; width?: number; problem?: string }>(), {
  able: true,
  width: 520,
  problem: "",
});
const emit = defineEmits<{ go: [] }>();
const dialogs = useDialogs();
const tray = useTray();
const body = ref<HTMLElement | null>(null);

/** Whether the dialog is still stepping aside for a click on the page; shown again before, it would never be whole. */
const leaving = ref(false);
watch(
  () => dialogs.placing,
  (placing) => {
    if (placing) leaving.value = true;
  },
);

/** Put the keyboard where the author types first, unless the author has begun somewhere already. */
function focus(): void {
  if (!body.value?.contains(document.activeElement)) body.value?.querySelector<HTMLElement>("[autofocus]")?.focus();
}
</script>

<template>
  <el-dialog
    :model-value="dialogs.placing === null && !leaving"
    :title="title"
    :width="width"
    align-center
    append-to-body
    @open-auto-focus="focus"
    @opened="focus"
    @close="dialogs.placing === null && !leaving && dialogs.close()"
    @closed="leaving = false"
  >
    <el-form label-position="top" class="ask" novalidate @submit.prevent="emit('go')">
      <div ref="body" class="ask-body">
        <slot />
        <div v-if="tray.progress" class="told" role="status">
          <span>{{ tray.progress.what }}, {{ counted(tray.progress.total, "page") }}</span>
          <el-progress :percentage="Math.floor((100 * tray.progress.done) / Math.max(tray.progress.total, 1))" />
          <el-button size="small" @click="tray.stop()">Stop</el-button>
        </div>
        <el-alert v-if="problem" :title="problem" type="error" :closable="false" role="alert" show-icon />
      </div>
      <footer>
        <slot name="more" />
        <span class="fill" />
        <el-button @click="dialogs.close()">Cancel</el-button>
        <el-button native-type="submit" type="primary" :disabled="!able">{{ does }}</el-button>
      </footer>
    </el-form>
  </el-dialog>
</template>

<style>
.told {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr) auto;
  gap: 12px;
  align-items: center;
}

.ask-body {
  display: flex;
  flex-direction: column;
  gap: 12px;
}

.ask .el-form-item {
  margin-bottom: 0;
}

.ask .row {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 16px;
  align-items: flex-end;
}

.ask footer {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  padding-top: 16px;
}

.ask footer .el-button + .el-button {
  margin-left: 0;
}

.ask .fill {
  flex: 1;
}
</style>
