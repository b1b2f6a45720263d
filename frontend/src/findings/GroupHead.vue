<script setup lang="ts">
/** The head of a group of findings: what is wrong, how often, and what fixes them together. */
import SignIcon from "../components/SignIcon.vue";

defineProps<{
  title: string;
  severity: string;
  count: number;
  pressed: number; // of them that one press fixes
  chosen: number; // of them that are fixed by a choice
  open: boolean;
  locked?: boolean;
}>();
const emit = defineEmits<{ turn: []; fix: [choice: number | null] }>();
</script>

<template>
  <div class="group" :class="severity">
    <el-button text class="toggle" :aria-expanded="open" @click="emit('turn')">
      <SignIcon name="wrong" />
      <span class="title">{{ title }}</span>
      <span class="soft">{{ count.toLocaleString("en") }}</span>
      <span class="unseen">{{ severity }}</span>
    </el-button>
    <el-button v-if="pressed > 1" size="small" :disabled="locked" @click="emit('fix', null)"
      >Fix {{ pressed.toLocaleString("en") }}</el-button
    >
    <el-button
      v-else-if="chosen > 1"
      size="small"
      title="Each by its first, likeliest choice; the diff shows them all"
      :disabled="locked"
      @click="emit('fix', 0)"
      >Fix {{ chosen.toLocaleString("en") }} by first choice</el-button
    >
  </div>
</template>

<style scoped>
.group {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 3px 12px 3px 0;
  border-bottom: 1px solid var(--line);
  background: var(--sheet-sunk);
}

.toggle {
  flex: 1;
  justify-content: flex-start;
  min-width: 0;
  padding: 0 12px;
}

.toggle :deep(> span) {
  gap: 9px;
  min-width: 0;
}

.title {
  overflow: hidden;
  font-weight: 600;
  text-overflow: ellipsis;
}

.error .sign-icon {
  color: var(--wrong);
}

.warning .sign-icon {
  color: var(--wait);
}
</style>
