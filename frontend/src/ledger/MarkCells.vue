<script setup lang="ts">
/** The narrow cell of a section's row: whether it has a link back to the top. */
import type { SectionView } from "../api/client";
import SignIcon from "../components/SignIcon.vue";

defineProps<{ section: SectionView }>();
</script>

<template>
  <td class="mark">
    <SignIcon v-if="section.back_link" name="up" /><span class="unseen">{{
      section.back_link ? "has a link back" : "no link back"
    }}</span>
  </td>
</template>

<style scoped>
td.mark {
  width: 46px;
  height: 30px;
  padding: 2px 4px;
  border-bottom: 1px solid var(--line);
  text-align: center;
  color: var(--post);
}
</style>
