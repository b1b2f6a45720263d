<script setup lang="ts">
/** What the heads of all pages say, in one table to be edited in place; titles by a pattern for the pages chosen. */
import { watchDebounced } from "@vueuse/core";
import { computed, reactive, ref, shallowRef, watch } from "vue";
import { api, data, detailOf, type HeadsView, type HeadView } from "../api/client";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";
import { useSite } from "../stores/site";
import { useTray } from "../stores/tray";
import { counted } from "../text/count";
import AskDialog from "./AskDialog.vue";

type Said = { title?: string; description?: string; language?: string };

/** How many pages are shown at once, and from how many on they can be filtered. */
const AT_ONCE = 50;
const MANY = 12;
const page = usePage();
const site = useSite();
const tray = useTray();
const dialogs = useDialogs();
const view = shallowRef<HeadsView | null>(null);
const filter = ref("");
const at = ref(1);
const said = reactive(new Map<string, Said>()); // what was typed, by page
const fits = reactive(new Map<string, boolean>()); // whether a page is as wide as its window, where that was changed
const anew = reactive(new Set<string>()); // pages to be written in UTF-8
const chosen = ref<string[]>([]);
const pattern = ref("");
const problem = ref("");
let asked = 0;

async function load(): Promise<void> {
  const mine = ++asked;
  const query = { query: filter.value, start: (at.value - 1) * AT_ONCE, limit: AT_ONCE };
  try {
    const found = await data(
      api.GET("/api/sites/{site_id}/heads", { params: { path: { site_id: page.siteId }, query } }),
    );
    if (mine === asked) view.value = found;
  } catch (error) {
    if (mine === asked) problem.value = detailOf(error);
  }
}
watch(at, load, { immediate: true });
watchDebounced(filter, () => (at.value === 1 ? void load() : (at.value = 1)), { debounce: 150 });

const valueOf = (head: HeadView, name: keyof Said) => said.get(head.path)?.[name] ?? head[name];
function say(head: HeadView, name: keyof Said, words: string): void {
  said.set(head.path, { ...said.get(head.path), [name]: words });
}
const able = computed(
  () => said.size > 0 || fits.size > 0 || anew.size > 0 || (chosen.value.length > 0 && pattern.value.trim() !== ""),
);

const write = (path: string, wanted: boolean) => (wanted ? anew.add(path) : anew.delete(path));

async function go(): Promise<void> {
  if (!able.value) return;
  const paths = [...new Set([...said.keys(), ...fits.keys(), ...anew])];
  const done = await tray.propose({
    operation: "heads",
    page: site.view?.first[0] ?? "",
    heads: Object.fromEntries(
      paths.map((path) => [path, { ...said.get(path), viewport: fits.get(path), utf8: anew.has(path) }]),
    ),
    pattern: chosen.value.length ? pattern.value.trim() : "",
    pages: chosen.value,
  });
  if (done) dialogs.close();
  else problem.value = tray.problem;
}
</script>

<template>
  <AskDialog
    title="Titles and languages"
    does="Show the edits"
    :able="able"
    :width="1120"
    :problem="problem"
    @go="go"
  >
    <div class="tools">
      <el-input
        v-if="(view?.total ?? 0) > MANY || filter"
        v-model="filter"
        clearable
        size="small"
        class="find"
        placeholder="Find a page"
        aria-label="Find a page"
      />
      <el-input
        v-model="pattern"
        size="small"
        class="pattern"
        placeholder="{h1} - Our railway"
        aria-label="Pattern for the titles of the pages chosen"
        :disabled="!chosen.length"
      />
      <span class="soft small">{{
        chosen.length
          ? `titles of ${counted(chosen.length, "page")} by this pattern; {h1} is the first heading, {title} the title now`
          : "Choose pages to give them titles by a pattern."
      }}</span>
    </div>
    <el-table
      v-if="view"
      :data="view.heads"
      row-key="path"
      height="52vh"
      size="small"
      @selection-change="(rows: HeadView[]) => (chosen = rows.map((row) => row.path))"
    >
      <el-table-column type="selection" width="38" reserve-selection :label="'Chosen'" />
      <el-table-column label="Page" min-width="130">
        <template #default="{ row }: { row: HeadView }"
          ><span class="path">{{ row.path }}</span></template
        >
      </el-table-column>
      <el-table-column label="Title" min-width="270">
        <template #default="{ row }: { row: HeadView }">
          <el-input
            size="small"
            maxlength="400"
            :model-value="valueOf(row, 'title')"
            :aria-label="`Title of ${row.path}`"
            @update:model-value="say(row, 'title', $event)"
          />
          <span v-if="!valueOf(row, 'title')" class="wrong small">missing</span>
          <span v-else-if="row.shares_title" class="wait small">another page has the same</span>
        </template>
      </el-table-column>
      <el-table-column label="Description" min-width="300">
        <template #default="{ row }: { row: HeadView }">
          <el-input
            size="small"
            maxlength="1000"
            type="textarea"
            :autosize="{ minRows: 1, maxRows: 3 }"
            :model-value="valueOf(row, 'description')"
            :aria-label="`Description of ${row.path}`"
            @update:model-value="say(row, 'description', $event)"
          />
        </template>
      </el-table-column>
      <el-table-column label="Language" width="96">
        <template #default="{ row }: { row: HeadView }">
          <el-input
            size="small"
            maxlength="40"
            :model-value="valueOf(row, 'language')"
            :aria-label="`Language of ${row.path}`"
            @update:model-value="say(row, 'language', $event)"
          />
        </template>
      </el-table-column>
      <el-table-column label="Window" width="78">
        <template #default="{ row }: { row: HeadView }"
          ><el-checkbox
            :model-value="fits.get(row.path) ?? row.viewport"
            :aria-label="`${row.path} fits the reader's window`"
            title="As wide as the reader's window, phones included"
            @change="fits.set(row.path, Boolean($event))"
            >fits</el-checkbox
          ></template
        >
      </el-table-column>
      <el-table-column label="Encoding" width="118">
        <template #default="{ row }: { row: HeadView }">
          <span class="soft">{{ row.charset }}</span>
          <el-checkbox
            v-if="row.charset !== 'utf-8'"
            :model-value="anew.has(row.path)"
            :aria-label="`Write ${row.path} in UTF-8`"
            title="Write the page in UTF-8 and let it say so"
            @change="write(row.path, Boolean($event))"
            >to utf-8</el-checkbox
          >
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
    />
  </AskDialog>
</template>

<style scoped>
.tools {
  display: flex;
  align-items: center;
  gap: 10px;
}

.find {
  width: 170px;
}

.pattern {
  width: 260px;
}

.path {
  overflow-wrap: anywhere;
}
</style>
