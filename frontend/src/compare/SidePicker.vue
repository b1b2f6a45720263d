<script setup lang="ts">
/** Which page, and which of its revisions, is on one side. */
import { computed, ref, watch } from "vue";
import PagePicker from "../components/PagePicker.vue";
import PickOne from "../components/PickOne.vue";
import { api, data, type RevisionView } from "../api/client";

const props = defineProps<{ siteId: string; side: string }>();
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

const revisionChoices = computed(() => [
  { value: "", words: "as it is now" },
  ...revisions.value.map((found) => ({ value: found.revision, words: words(found) })),
]);

function choosePage(to: string): void {
  revision.value = "";
  path.value = to;
}
</script>

<template>
  <span class="picker" role="group" :aria-label="side">
    <PagePicker :model-value="path" :site-id="siteId" :label="`${side}: page`" @update:model-value="choosePage" />
    <PickOne v-model="revision" :choices="revisionChoices" :label="`${side}: revision`" size="default" :width="230" />
  </span>
</template>

<style scoped>
.picker {
  display: inline-flex;
  gap: 6px;
  min-width: 0;
}
</style>
