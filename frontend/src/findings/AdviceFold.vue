<script setup lang="ts">
/** The line under which advice is folded, so that it never hides what is wrong. */
import SignIcon from "../components/SignIcon.vue";

defineProps<{ count: number; open: boolean }>();
const emit = defineEmits<{ turn: [] }>();
</script>

<template>
  <el-button text class="fold" :aria-expanded="open" @click="emit('turn')">
    <SignIcon :name="open ? 'down' : 'right'" />
    <span class="title">Advice</span>
    <span class="soft">{{ count.toLocaleString("en") }}, where nobody is led wrong</span>
  </el-button>
</template>

<style scoped>
.fold {
  justify-content: flex-start;
  width: 100%;
  padding: 0 12px;
  border-bottom: 1px solid var(--line);
  border-radius: 0;
}

.fold :deep(> span) {
  gap: 9px;
}

.title {
  font-weight: 600;
}
</style>
