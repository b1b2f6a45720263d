<script setup lang="ts">
/** Which page, and which of its revisions, is on one side. */
import { computed, ref, watch } from "vue";
import PickOne from "../components/PickOne.vue";
import { api, data, type RevisionView } from "../api/client";

const props = defineProps<{ siteId: string; side: string }>();
const path = defineModel<string>("path", { required: true });
const revision = defineModel<string>("revision", { required: true }); // "" for the page as it is
const pages = ref<string[]>([]);
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

/** Pages whose path or title contains what is typed. */
async function find(words: string): Promise<void> {
  const params = { path: { site_id: props.siteId }, query: { query: words, limit: 50 } };
  try {
    const found = (await data(api.GET("/api/sites/{site_id}/pages", { params }))).pages;
    const readable = found.filter((one) => !one.unreadable).map((one) => one.path);
    pages.value = words ? readable : [...new Set([path.value, ...readable])];
  } catch {
    pages.value = [];
  }
}
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
    <el-select
      :model-value="path"
      filterable
      remote
      remote-show-suffix
      :remote-method="find"
      :aria-label="`${side}: page`"
      style="width: 200px"
      @focus="find('')"
      @update:model-value="choosePage"
    >
      <el-option v-for="one in pages" :key="one" :value="one" :label="one" />
    </el-select>
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
