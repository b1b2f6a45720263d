<script setup lang="ts">
/** One of a site's pages, found by the server as its path or title is typed. */
import { ref } from "vue";
import { api, data } from "../api/client";

const props = withDefaults(defineProps<{ siteId: string; label: string; width?: string; without?: string }>(), {
  width: "200px",
  without: "",
});
const path = defineModel<string>({ required: true });
const pages = ref<string[]>([]);

async function find(words: string): Promise<void> {
  const params = { path: { site_id: props.siteId }, query: { query: words, limit: 50 } };
  try {
    const found = (await data(api.GET("/api/sites/{site_id}/pages", { params }))).pages;
    const readable = found.filter((one) => !one.unreadable && one.path !== props.without).map((one) => one.path);
    pages.value = words || !path.value ? readable : [...new Set([path.value, ...readable])];
  } catch {
    pages.value = [];
  }
}
</script>

<template>
  <el-select
    v-model="path"
    filterable
    remote
    remote-show-suffix
    :remote-method="find"
    :aria-label="label"
    placeholder="Find a page"
    :style="{ width }"
    @focus="find('')"
  >
    <el-option v-for="one in pages" :key="one" :value="one" :label="one" />
  </el-select>
</template>
