<script setup lang="ts">
/** The files of a site that are not pages, a stretch at a time. */
import { ref, watch } from "vue";
import { api, data, type FileView } from "../api/client";
import FileMenu from "./FileMenu.vue";

const props = defineProps<{ siteId: string; count: number; turn: number }>();
const emit = defineEmits<{ changed: [] }>();
const files = ref<FileView[]>([]);
const left = ref(false);
const open = ref(false);

async function more(): Promise<void> {
  const found = await data(
    api.GET("/api/sites/{site_id}/files", {
      params: { path: { site_id: props.siteId }, query: { after: files.value.at(-1)?.path ?? "" } },
    }),
  );
  files.value = [...files.value, ...found.files];
  left.value = found.more;
}

watch(
  () => [open.value, props.siteId, props.turn],
  () => {
    files.value = [];
    left.value = false;
    if (open.value) void more();
  },
);
</script>

<template>
  <details class="between" @toggle="open = ($event.target as HTMLDetailsElement).open">
    <summary>Other files ({{ count.toLocaleString("en") }})</summary>
    <ul>
      <li v-for="file in files" :key="file.path">
        <code>{{ file.path }}</code>
        <FileMenu :site-id="siteId" :path="file.path" @changed="emit('changed')" />
      </li>
    </ul>
    <el-button v-if="open && left" text size="small" @click="more">Show more</el-button>
  </details>
</template>
