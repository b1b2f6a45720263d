<script setup lang="ts">
/** The pages of a site: how long each is, what it lacks, what is wrong; filtered, sorted, a hundred at a time. */
import { computed, ref } from "vue";
import { RouterLink } from "vue-router";
import type { PageSummary } from "../api/client";
import { counted } from "../text/count";
import FileMenu from "./FileMenu.vue";

const props = defineProps<{ siteId: string; pages: readonly PageSummary[] }>();
const emit = defineEmits<{ changed: [] }>();

/** How many pages are listed at once. */
const AT_ONCE = 100;
/** From how many pages on they can be filtered. */
const MANY = 8;
type SortKey = "path" | "words" | "sections" | "links_in" | "findings";
const filter = ref("");
const at = ref(1);
const order = ref<{ prop: SortKey; down: boolean } | null>(null);

const found = computed(() => {
  const words = filter.value.trim().toLowerCase();
  return props.pages.filter((page) => !words || `${page.path} ${page.title ?? ""}`.toLowerCase().includes(words));
});
/** What is wrong on a page, and its parts in words. */
const countOf = (page: PageSummary) => page.errors + page.warnings + page.advice;
const wordsOf = (page: PageSummary) =>
  `${counted(page.errors, "error")}, ${counted(page.warnings, "warning")}, ${page.advice} advice`;
const keyOf = (page: PageSummary, prop: SortKey) => (prop === "findings" ? countOf(page) : page[prop]);
const sorted = computed(() => {
  const by = order.value;
  if (!by) return found.value;
  const compare = (a: PageSummary, b: PageSummary) => {
    const [left, right] = [keyOf(a, by.prop), keyOf(b, by.prop)];
    return typeof left === "string"
      ? left.localeCompare(String(right), "en", { numeric: true })
      : left - Number(right);
  };
  return [...found.value].sort((a, b) => (by.down ? -compare(a, b) : compare(a, b)));
});
const shown = computed(() => {
  const last = Math.max(Math.ceil(sorted.value.length / AT_ONCE), 1);
  const page = Math.min(at.value, last);
  return sorted.value.slice((page - 1) * AT_ONCE, page * AT_ONCE);
});
const longest = computed(() => Math.max(...props.pages.map((page) => page.windows), 1));

function sort(by: { prop: string | null; order: string | null }): void {
  order.value = by.order && by.prop ? { prop: by.prop as SortKey, down: by.order === "descending" } : null;
}
</script>

<template>
  <div>
    <el-input
      v-if="pages.length > MANY"
      v-model="filter"
      clearable
      class="find"
      placeholder="Find a page"
      aria-label="Find a page"
    />
    <el-table :data="shown" row-key="path" @sort-change="sort">
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
            :style="{ width: `${Math.max(2, (72 * row.windows) / longest)}px` }"
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
        <template #default="{ row }: { row: PageSummary }">{{ row.links_in || "" }}</template>
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
      v-if="found.length > AT_ONCE"
      v-model:current-page="at"
      layout="prev, pager, next, total"
      :page-size="AT_ONCE"
      :total="found.length"
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
