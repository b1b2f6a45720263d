<script setup lang="ts">
/** Which page, and which of its revisions, is on one side. */
import { ref, watch } from "vue";
import { api, data, type RevisionView } from "../api/client";

const props = defineProps<{ siteId: string; side: string; pages: readonly string[] }>();
const path = defineModel<string>("path", { required: true });
const revision = defineModel<string>("revision", { required: true }); // "" for the page as it is
const revisions = ref<RevisionView[]>([]);

watch(
  () => [props.siteId, path.value],
  async () => {
    try {
      revisions.value = await data(
        api.GET("/api/sites/{site_id}/revisions", {
          params: { path: { site_id: props.siteId }, query: { path: path.value } },
        }),
      );
    } catch {
      revisions.value = []; // the comparison itself says what is wrong
    }
  },
  { immediate: true },
);

const when = (text: string | null) =>
  text ? new Date(text).toLocaleString([], { dateStyle: "short", timeStyle: "short" }) : "";
const words = (found: RevisionView) =>
  `${found.undone ? "undone: " : ""}${found.title}${found.created_at ? `, ${when(found.created_at)}` : ""}${found.current ? " (now)" : ""}`;

function choosePage(to: string): void {
  revision.value = "";
  path.value = to;
}
</script>

<template>
  <span class="picker" role="group" :aria-label="side">
    <select
      class="field"
      :aria-label="`${side}: page`"
      :value="path"
      @change="choosePage(($event.target as HTMLSelectElement).value)"
    >
      <option v-for="name in pages" :key="name" :value="name">{{ name }}</option>
    </select>
    <select v-model="revision" class="field revisions" :aria-label="`${side}: revision`">
      <option value="">as it is now</option>
      <option v-for="(found, index) in revisions" :key="index" :value="found.revision">{{ words(found) }}</option>
    </select>
  </span>
</template>

<style scoped>
.picker {
  display: inline-flex;
  gap: 4px;
  min-width: 0;
}

select {
  min-width: 0;
  max-width: 190px;
}

.revisions {
  flex: 1;
}
</style>
