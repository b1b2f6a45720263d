<script setup lang="ts">
/** A value of a row that is edited in place: Enter or leaving keeps it, Escape leaves it as it was. */
import { nextTick, onMounted, ref } from "vue";

const props = defineProps<{
  value: string;
  label: string;
  code?: boolean;
  check?: (value: string) => Promise<boolean>;
}>();
const emit = defineEmits<{ done: [value: string]; leave: [] }>();

const typed = defineModel<string>("typed", { default: "" });
const field = ref<HTMLInputElement | null>(null);
let finished = false;

onMounted(() => {
  typed.value = props.value;
  void nextTick(() => {
    field.value?.focus();
    field.value?.select();
  });
});

async function finish(): Promise<void> {
  if (finished) return;
  finished = true;
  const value = typed.value.trim();
  if (!props.check || (await props.check(value))) emit("done", value);
  else finished = false; // it stays, to be fixed
}

function leave(): void {
  finished = true;
  emit("leave");
}

function take(value: string): void {
  typed.value = value;
  field.value?.focus();
}

defineExpose({ take });
</script>

<template>
  <form @submit.prevent="finish">
    <input
      ref="field"
      v-model="typed"
      class="field"
      :class="{ code }"
      :aria-label="label"
      :spellcheck="!code"
      autocapitalize="off"
      @keydown.esc.prevent.stop="leave"
      @keydown.stop
      @blur="finish"
    />
  </form>
</template>

<style scoped>
.field {
  width: 100%;
  min-height: 26px;
  padding: 0 4px;
}
</style>
