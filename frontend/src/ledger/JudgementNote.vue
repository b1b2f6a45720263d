<script setup lang="ts">
/** What there is to say of an identifier, and a better one. */
import type { Judgement } from "../api/client";
import SignIcon from "../components/SignIcon.vue";

defineProps<{ judgement: Judgement }>();
const emit = defineEmits<{ take: [name: string] }>();
</script>

<template>
  <div
    class="judgement small"
    :class="judgement.verdict"
    :role="judgement.verdict === 'refused' ? 'alert' : 'status'"
  >
    <p>
      <SignIcon :name="judgement.verdict === 'good' ? 'done' : 'wrong'" />{{
        judgement.verdict === "good" ? "Available." : judgement.message
      }}
    </p>
    <el-button
      text
      size="small"
      v-if="judgement.suggestion"
      @mousedown.prevent="emit('take', judgement.suggestion)"
      @click="emit('take', judgement.suggestion)"
    >
      Use <span class="plate">{{ judgement.suggestion }}</span>
    </el-button>
  </div>
</template>

<style scoped>
p {
  display: flex;
  gap: 6px;
  white-space: normal;
}

.sign-icon {
  flex: none;
  margin-top: 2px;
}

.good {
  color: var(--post);
}

.advice .sign-icon {
  color: var(--wait);
}

.refused {
  color: var(--wrong);
}

.el-button {
  min-height: 26px;
  padding: 1px 4px;
  color: var(--ink);
}
</style>
