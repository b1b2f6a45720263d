<script setup lang="ts">
/** The pages of a site while they are read: names and sizes at once, the rest as it comes; any of them opens. */
import { useIntervalFn } from "@vueuse/core";
import { computed, ref, shallowRef, watch } from "vue";
import { RouterLink } from "vue-router";
import { api, data, detailOf, type ArrivingPage, type ArrivingView } from "../api/client";
import { useSite } from "../stores/site";
import { sizeOf } from "../text/count";

const props = defineProps<{ siteId: string }>();
const site = useSite();

/** How many pages are listed at once. */
const AT_ONCE = 100;
/** How often it is looked what has come, in milliseconds. */
const EVERY = 1500;
const at = ref(1);
const view = shallowRef<ArrivingView | null>(null);
const problem = ref("");
let asked = 0;

async function look(): Promise<void> {
  const mine = ++asked;
  const params = { path: { site_id: props.siteId }, query: { start: (at.value - 1) * AT_ONCE, limit: AT_ONCE } };
  try {
    const found = await data(api.GET("/api/sites/{site_id}/arriving", { params }));
    if (mine !== asked) return;
    view.value = found;
    site.name = found.name;
    problem.value = "";
  } catch (error) {
    if (mine === asked) problem.value = detailOf(error);
  }
}

watch(() => [props.siteId, at.value], look, { immediate: true });
useIntervalFn(look, EVERY);

const share = computed(() => (site.progress ? Math.round((100 * site.progress.done) / site.progress.total) : 100));
const soFar = computed(() => {
  const now = site.progress;
  if (!now) return "";
  return `${now.done.toLocaleString("en")} of ${now.total.toLocaleString("en")} ${now.what}`;
});
</script>

<template>
  <div>
    <p class="far small" role="status">
      <el-progress :percentage="share" :show-text="false" class="bar" aria-label="Pages read and checked" />
      <span class="soft">{{ soFar }}. Any page opens now; what links to it is known when all are read.</span>
      <el-button v-if="site.progress" text size="small" @click="site.stop()">Stop</el-button>
    </p>
    <el-alert v-if="problem" :title="problem" type="error" :closable="false" />
    <el-table v-if="view" :data="view.pages" row-key="path">
      <el-table-column label="Page" min-width="260">
        <template #default="{ row }: { row: ArrivingPage }">
          <RouterLink
            v-if="!row.unreadable"
            class="page-link"
            :to="{ name: 'page', params: { siteId, path: row.path } }"
            >{{ row.path }}</RouterLink
          >
          <span v-else>{{ row.path }}</span>
          <span class="title soft clipped">{{ row.unreadable ?? row.title ?? "\u00a0" }}</span>
        </template>
      </el-table-column>
      <el-table-column label="Size" width="98" align="right">
        <template #default="{ row }: { row: ArrivingPage }">{{ sizeOf(row.size) }}</template>
      </el-table-column>
      <el-table-column label="Words" width="98" align="right">
        <template #default="{ row }: { row: ArrivingPage }">{{ row.words?.toLocaleString("en") ?? "" }}</template>
      </el-table-column>
      <el-table-column label="Findings" width="98" align="right">
        <template #default="{ row }: { row: ArrivingPage }">{{ row.findings?.toLocaleString("en") ?? "" }}</template>
      </el-table-column>
    </el-table>
    <el-pagination
      v-if="view && view.total > AT_ONCE"
      v-model:current-page="at"
      layout="prev, pager, next, total"
      :page-size="AT_ONCE"
      :total="view.total"
      size="small"
      class="pager"
    />
  </div>
</template>

<style scoped>
.far {
  display: flex;
  align-items: center;
  gap: 12px;
  margin: 0;
  padding: 4px 16px 8px;
  min-height: 36px;
}

.bar {
  width: 140px;
}

.page-link {
  color: var(--post);
  font-weight: 600;
}

.title {
  display: block;
  font: 13px/1.4 var(--read);
}

.pager {
  padding: 10px 16px 0;
}
</style>
