<script setup lang="ts">
/** The pages of a site: how long each is, what it lacks, what is wrong; found and put in order by the server. */
import { watchDebounced } from "@vueuse/core";
import type { TableInstance } from "element-plus";
import { ref, shallowRef, watch } from "vue";
import { RouterLink } from "vue-router";
import { api, data, detailOf, type PageSummary, type PagesView } from "../api/client";
import { useDialogs } from "../stores/dialogs";
import { counted } from "../text/count";
import FileMenu from "./FileMenu.vue";

const props = defineProps<{ siteId: string; count: number; turn: number }>();
const emit = defineEmits<{ changed: [] }>();

/** How many pages are listed at once. */
const AT_ONCE = 100;
/** From how many pages on they can be filtered. */
const MANY = 8;
type SortKey = "path" | "words" | "sections" | "links_in" | "findings";
const dialogs = useDialogs();
const table = ref<TableInstance>();
const chosen = ref<string[]>([]);
const filter = ref("");
const at = ref(1);
const order = ref<{ prop: SortKey; down: boolean }>({ prop: "path", down: false });
const view = shallowRef<PagesView | null>(null);
const problem = ref("");
let asked = 0;

/** What is wrong on a page, and its parts in words. */
const countOf = (page: PageSummary) => page.errors + page.warnings + page.advice;
const wordsOf = (page: PageSummary) =>
  `${counted(page.errors, "error")}, ${counted(page.warnings, "warning")}, ${page.advice} advice`;

async function load(): Promise<void> {
  const mine = ++asked;
  const query = {
    query: filter.value,
    order: order.value.prop,
    down: order.value.down,
    start: (at.value - 1) * AT_ONCE,
    limit: AT_ONCE,
  };
  try {
    const found = await data(
      api.GET("/api/sites/{site_id}/pages", { params: { path: { site_id: props.siteId }, query } }),
    );
    if (mine !== asked) return;
    view.value = found;
    problem.value = "";
    const last = Math.max(Math.ceil(found.total / AT_ONCE), 1);
    if (at.value > last) at.value = last;
  } catch (error) {
    if (mine === asked) problem.value = detailOf(error);
  }
}

watch(() => [props.siteId, props.turn, at.value, order.value], load, { immediate: true });
watchDebounced(
  filter,
  () => {
    if (at.value === 1) void load();
    else at.value = 1;
  },
  { debounce: 150 },
);

function sort(by: { prop: string | null; order: string | null }): void {
  order.value =
    by.order && by.prop
      ? { prop: by.prop as SortKey, down: by.order === "descending" }
      : { prop: "path", down: false };
}
</script>

<template>
  <div>
    <el-input
      v-if="count > MANY"
      v-model="filter"
      clearable
      class="find"
      placeholder="Find a page"
      aria-label="Find a page"
    />
    <el-alert v-if="problem" :title="problem" type="error" :closable="false" />
    <div v-if="chosen.length" class="chosen">
      <strong>{{ counted(chosen.length, "page") }} chosen</strong>
      <el-button size="small" @click="dialogs.show({ name: 'move-files', paths: chosen })"
        >Move to a folder…</el-button
      >
      <el-button text size="small" @click="table?.clearSelection()">Choose none</el-button>
    </div>
    <el-table
      v-if="view"
      ref="table"
      :data="view.pages"
      row-key="path"
      @sort-change="sort"
      @selection-change="(rows: PageSummary[]) => (chosen = rows.map((row) => row.path))"
    >
      <el-table-column type="selection" width="38" reserve-selection label="Chosen" />
      <el-table-column label="Page" prop="path" sortable="custom" min-width="220">
        <template #default="{ row }: { row: PageSummary }">
          <RouterLink
            v-if="!row.unreadable"
            class="page-link"
            :to="{ name: 'page', params: { siteId, path: row.path } }"
            >{{ row.path }}</RouterLink
          >
          <span v-else>{{ row.path }}</span>
          <el-tag v-if="row.is_new || row.changed" size="small" type="warning" disable-transitions class="tag">{{
            row.is_new ? "new" : "changed"
          }}</el-tag>
          <span class="title soft clipped">{{ row.unreadable ?? row.title ?? "(no title)" }}</span>
        </template>
      </el-table-column>
      <el-table-column label="Words" prop="words" sortable="custom" width="108" align="right">
        <template #default="{ row }: { row: PageSummary }">
          {{ row.words.toLocaleString("en") }}
          <span
            class="extent"
            :style="{ width: `${Math.max(2, (72 * row.windows) / Math.max(view.longest, 1))}px` }"
            aria-hidden="true"
          />
        </template>
      </el-table-column>
      <el-table-column label="Sections" prop="sections" sortable="custom" width="98" align="right" />
      <el-table-column label="Missing" min-width="150">
        <template #default="{ row }: { row: PageSummary }"
          ><span class="soft">{{ row.lacks.join(", ") }}</span></template
        >
      </el-table-column>
      <el-table-column label="Links in" prop="links_in" sortable="custom" width="92" align="right">
        <template #default="{ row }: { row: PageSummary }">{{
          row.links_in ? row.links_in.toLocaleString("en") : ""
        }}</template>
      </el-table-column>
      <el-table-column label="Findings" prop="findings" sortable="custom" width="98" align="right">
        <template #default="{ row }: { row: PageSummary }">
          <span
            v-if="countOf(row)"
            :class="row.errors ? 'wrong' : row.warnings ? 'wait' : 'soft'"
            :title="wordsOf(row)"
            >{{ countOf(row) }}</span
          >
        </template>
      </el-table-column>
      <el-table-column width="52" align="right">
        <template #header><span class="unseen">More</span></template>
        <template #default="{ row }: { row: PageSummary }">
          <FileMenu
            :site-id="siteId"
            :path="row.path"
            :encoding="row.encoding"
            is-page
            :links-in="row.links_in"
            @changed="emit('changed')"
          />
        </template>
      </el-table-column>
      <template #empty>No page has this name.</template>
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
.find {
  width: 220px;
  margin: 8px 16px;
}

.page-link {
  color: var(--post);
  font-weight: 600;
}

.chosen {
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 4px 16px 8px;
}

.title {
  display: block;
  font: 13px/1.4 var(--read);
}

.tag {
  margin-left: 6px;
}

.extent {
  display: block;
  height: 4px;
  margin: 3px 0 2px auto;
  border-radius: 2px;
  background: var(--road-2);
}

.pager {
  padding: 10px 16px 0;
}
</style>
