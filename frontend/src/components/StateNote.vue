<script setup lang="ts">
/** What is where there is nothing to show: it loads, it failed, or it is empty; and what to do about it. */
defineProps<{ kind: "loading" | "failed" | "empty"; title: string; text?: string }>();
</script>

<template>
  <div class="note" :class="kind" :role="kind === 'failed' ? 'alert' : 'status'">
    <el-skeleton v-if="kind === 'loading'" :rows="2" animated class="bones" aria-hidden="true" />
    <p class="title">{{ title }}</p>
    <p v-if="text" class="soft">{{ text }}</p>
    <div class="actions"><slot /></div>
  </div>
</template>

<style scoped>
.note {
  display: flex;
  flex-direction: column;
  align-items: center;
  gap: 8px;
  padding: 48px 24px;
  text-align: center;
  max-width: 56ch;
  margin: 0 auto;
}

.title {
  font: 600 17px/1.4 var(--read);
}

.failed .title {
  color: var(--wrong);
}

.actions {
  display: flex;
  gap: 8px;
  margin-top: 6px;
}

.bones {
  width: 260px;
}
</style>
