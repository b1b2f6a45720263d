<script setup lang="ts">
/** The frame of a dialog that asks something: its fields, what is wrong with them, and one button to go on. */
import { ref } from "vue";
import { useDialogs } from "../stores/dialogs";

withDefaults(defineProps<{ title: string; does: string; able?: boolean; width?: number; problem?: string }>(), {
  able: true,
  width: 520,
  problem: "",
});
const emit = defineEmits<{ go: [] }>();
const dialogs = useDialogs();
const form = ref<HTMLFormElement | null>(null);

/** Put the keyboard where the author types first. */
function focus(): void {
  form.value?.querySelector<HTMLElement>("[autofocus]")?.focus();
}
</script>

<template>
  <el-dialog
    :model-value="true"
    :title="title"
    :width="width"
    align-center
    append-to-body
    @open-auto-focus="focus"
    @opened="focus"
    @close="dialogs.close()"
  >
    <form ref="form" class="ask" @submit.prevent="emit('go')">
      <slot />
      <p v-if="problem" role="alert" class="wrong small">{{ problem }}</p>
      <footer>
        <slot name="more" />
        <button type="button" class="button" @click="dialogs.close()">Cancel</button>
        <button class="button main" :disabled="!able">{{ does }}</button>
      </footer>
    </form>
  </el-dialog>
</template>

<style>
.ask {
  display: flex;
  flex-direction: column;
  gap: 12px;
}

.ask > label,
.ask .stacked {
  display: flex;
  flex-direction: column;
  gap: 3px;
}

.ask label > span {
  font-weight: 600;
  font-size: var(--small);
}

.ask .row {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: center;
}

.ask .row label {
  display: inline-flex;
  align-items: center;
  gap: 6px;
}

.ask textarea {
  min-height: 150px;
  resize: vertical;
  line-height: 1.5;
}

.ask footer {
  display: flex;
  justify-content: flex-end;
  gap: 8px;
  padding-top: 4px;
}

.ask .wrong {
  color: var(--wrong);
}
</style>
