<script setup lang="ts">
/** An identifier edited in place, judged while it is typed. */
import { ref, toRef } from "vue";
import { useJudgement } from "../composables/useJudgement";
import EditField from "./EditField.vue";
import JudgementNote from "./JudgementNote.vue";

const props = defineProps<{ value: string; own: string; words: string }>();
const emit = defineEmits<{ done: [name: string]; leave: [] }>();

const typed = ref(props.value);
const field = ref<InstanceType<typeof EditField> | null>(null);
const { judgement, settle } = useJudgement(
  toRef(() => typed.value),
  () => ({ own: props.own, words: props.words }),
);

/** What cannot be an identifier stays to be fixed; nothing at all is as if it had not been touched. */
const mayBe = async (value: string) => value === "" || (await settle())?.verdict !== "refused";
</script>

<template>
  <div class="identifier-field">
    <EditField
      ref="field"
      v-model:typed="typed"
      :value="value"
      :label="`Identifier of ${words}`"
      :check="mayBe"
      code
      @done="emit('done', $event)"
      @leave="emit('leave')"
    />
    <JudgementNote v-if="judgement" :judgement="judgement" class="below" @take="field?.take($event)" />
  </div>
</template>

<style scoped>
.identifier-field {
  position: relative;
}

.below {
  position: absolute;
  z-index: 5;
  top: calc(100% + 3px);
  right: 0;
  width: max-content;
  max-width: 320px;
  padding: 6px 9px;
  border: 1px solid var(--line-strong);
  border-radius: var(--radius);
  background: var(--sheet);
  box-shadow: var(--shadow);
}
</style>
