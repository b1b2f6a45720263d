<script setup lang="ts">
/** The desk of a site: its pages, the links between them, what is wrong. */
import { computed, ref, watch } from "vue";
import { RouterLink, useRouter } from "vue-router";
import { api, data, detailOf, type FindingView, type PageSummary } from "../api/client";
import AppBar from "../components/AppBar.vue";
import FileMenu from "../components/FileMenu.vue";
import FindingList from "../components/FindingList.vue";
import IntakePanel from "../components/IntakePanel.vue";
import SignIcon from "../components/SignIcon.vue";
import LinkButton from "../components/LinkButton.vue";
import { counted } from "../text/count";
import SeriesList from "../components/SeriesList.vue";
import StateNote from "../components/StateNote.vue";
import TakeOut from "../components/TakeOut.vue";
import { usePulse } from "../composables/usePulse";
import { usePage } from "../stores/page";
import { useSite } from "../stores/site";

const props = defineProps<{ siteId: string }>();
const site = useSite();
const page = usePage();
const router = useRouter();
const naming = ref(false);
const bringing = ref(false);
const name = ref("");
const base = ref("");
const problem = ref("");
const filter = ref("");
const at = ref(1);
const order = ref<{ prop: SortKey; down: boolean } | null>(null);

/** How many pages are listed at once. */
const AT_ONCE = 100;
type SortKey = "path" | "words" | "sections" | "links_in" | "findings";

watch(
  () => props.siteId,
  (id) => void site.load(id),
  { immediate: true },
);
watch(
  () => site.view?.name,
  (title) => (document.title = title ? `${title} · Humble Signpost` : "Humble Signpost"),
  { immediate: true },
);

const pages = computed(() => {
  const words = filter.value.trim().toLowerCase();
  return (site.view?.pages ?? []).filter(
    (found) => !words || `${found.path} ${found.title ?? ""}`.toLowerCase().includes(words),
  );
});
const keyOf = (found: PageSummary, prop: SortKey) =>
  prop === "findings" ? found.errors + found.warnings : found[prop];
const sorted = computed(() => {
  const by = order.value;
  if (!by) return pages.value;
  const compare = (a: PageSummary, b: PageSummary) => {
    const [left, right] = [keyOf(a, by.prop), keyOf(b, by.prop)];
    return typeof left === "string"
      ? left.localeCompare(String(right), "en", { numeric: true })
      : left - Number(right);
  };
  return [...pages.value].sort((a, b) => (by.down ? -compare(a, b) : compare(a, b)));
});
const shownPages = computed(() => {
  const last = Math.max(Math.ceil(sorted.value.length / AT_ONCE), 1);
  const page = Math.min(at.value, last);
  return sorted.value.slice((page - 1) * AT_ONCE, page * AT_ONCE);
});

function sort(by: { prop: string | null; order: string | null }): void {
  order.value = by.order && by.prop ? { prop: by.prop as SortKey, down: by.order === "descending" } : null;
}

const longest = computed(() => Math.max(...(site.view?.pages ?? []).map((found) => found.windows), 1));

function edit(): void {
  name.value = site.view?.name ?? "";
  base.value = site.view?.base ?? "";
  problem.value = "";
  naming.value = true;
}

async function keep(): Promise<void> {
  problem.value = await site.rename(name.value, base.value.trim());
  naming.value = problem.value !== "";
}

usePulse(
  () => props.siteId,
  () => site.load(props.siteId),
);

async function brought(): Promise<void> {
  bringing.value = false;
  await site.load(props.siteId);
}

async function remove(): Promise<void> {
  try {
    await data<unknown>(api.DELETE("/api/sites/{site_id}", { params: { path: { site_id: props.siteId } } }));
    site.forget();
    await router.push({ name: "sites" });
  } catch (error) {
    problem.value = detailOf(error);
  }
}

async function go(finding: FindingView): Promise<void> {
  page.stage = "findings";
  await router.push({ name: "page", params: { siteId: props.siteId, path: finding.page } });
}

const readable = computed(() => site.view?.pages.filter((page) => !page.unreadable).map((page) => page.path) ?? []);
</script>

<template>
  <div class="screen">
    <AppBar>
      <template #trail
        ><h1 class="name">{{ site.view?.name ?? "Site" }}</h1>
        <span v-if="site.view?.base" class="soft small">{{ site.view.base }}</span></template
      >
      <LinkButton
        v-if="readable[1]"
        text
        :to="{ name: 'compare', params: { siteId }, query: { left: readable[0], right: readable[1] } }"
        >Compare pages</LinkButton
      >
      <el-button text :disabled="!site.view" @click="edit"> <SignIcon name="pencil" /> Name and address </el-button>
      <el-button text :disabled="!site.view" @click="bringing = true">
        <SignIcon name="bring" /> Bring in files
      </el-button>
      <TakeOut :site-id="siteId" :changed="site.view?.changed ?? 0" />
    </AppBar>

    <StateNote v-if="site.status === 'failed'" kind="failed" title="This site cannot be shown" :text="site.problem">
      <LinkButton to="/">All sites</LinkButton>
      <el-button @click="site.load(siteId)">Try again</el-button>
    </StateNote>
    <StateNote
      v-else-if="!site.view"
      kind="loading"
      title="Reading the pages…"
      :text="site.progress ? `${site.progress.done} of ${site.progress.total} pages. ${site.progress.path}` : ''"
    >
      <el-progress
        v-if="site.progress?.total"
        :percentage="Math.round((100 * site.progress.done) / site.progress.total)"
        :show-text="false"
        class="reading"
        aria-label="Pages read"
      />
    </StateNote>
    <StateNote
      v-else-if="!site.view.pages.length"
      kind="empty"
      title="No pages here"
      text="None of the files that were brought in is an HTML page."
    >
      <LinkButton to="/">Bring in another folder</LinkButton>
    </StateNote>

    <main v-else>
      <section class="pages" aria-labelledby="pages-title">
        <div class="head">
          <h2 id="pages-title">Pages</h2>
          <el-input
            v-if="site.view.pages.length > 8"
            v-model="filter"
            clearable
            class="find"
            placeholder="Find a page"
            aria-label="Find a page"
          />
        </div>
        <SeriesList v-if="site.view.series.length" :site-id="siteId" :series="site.view.series" />
        <el-table :data="shownPages" row-key="path" @sort-change="sort">
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
                v-if="row.errors || row.warnings"
                class="wrong"
                :title="`${counted(row.errors, 'error')}, ${counted(row.warnings, 'warning')}`"
                >{{ row.errors + row.warnings }}</span
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
                @changed="site.load(siteId)"
              />
            </template>
          </el-table-column>
          <template #empty>No page has this name.</template>
        </el-table>
        <el-pagination
          v-if="pages.length > AT_ONCE"
          v-model:current-page="at"
          layout="prev, pager, next, total"
          :page-size="AT_ONCE"
          :total="pages.length"
          size="small"
          class="pager"
        />
        <details v-if="site.view.links.length" class="between">
          <summary>Links between pages ({{ site.view.links.length }})</summary>
          <ul>
            <li v-for="link in site.view.links" :key="link.from_page + link.to_page">
              <code>{{ link.from_page }}</code> → <code>{{ link.to_page }}</code>
              <span class="soft">{{ link.count }}</span>
            </li>
          </ul>
        </details>
        <details v-if="site.view.files.length" class="between">
          <summary>Other files ({{ site.view.files.length }})</summary>
          <ul>
            <li v-for="file in site.view.files" :key="file.path">
              <code>{{ file.path }}</code>
              <FileMenu :site-id="siteId" :path="file.path" @changed="site.load(siteId)" />
            </li>
          </ul>
        </details>
        <el-popconfirm
          :title="`Delete “${site.view.name}” with all its changes? This cannot be undone. Export its files first if you need them.`"
          confirm-button-text="Delete"
          confirm-button-type="danger"
          :width="320"
          @confirm="remove"
        >
          <template #reference><el-button text type="danger" class="remove">Delete site…</el-button></template>
        </el-popconfirm>
      </section>

      <section class="wrong-list" aria-labelledby="wrong-title">
        <div class="head">
          <h2 id="wrong-title">Findings</h2>
          <span class="soft">{{ site.findings.length }}</span>
        </div>
        <FindingList :findings="site.findings" with-page @go="go" />
      </section>
    </main>

    <el-dialog v-model="bringing" title="Bring in files" width="640" destroy-on-close>
      <IntakePanel :into="siteId" @done="brought" />
    </el-dialog>

    <el-dialog v-model="naming" title="Name and address" width="480">
      <el-form label-position="top" @submit.prevent="keep">
        <el-form-item label="Name"><el-input v-model="name" required maxlength="200" /></el-form-item>
        <el-form-item label="Address of the site on the web">
          <el-input v-model="base" type="url" placeholder="https://www.example.org/club/" />
        </el-form-item>
        <p class="soft small">
          With it, full addresses of sections can be copied, and links that use it count as links within the site.
        </p>
        <el-alert v-if="problem" :title="problem" type="error" :closable="false" role="alert" />
        <div class="foot"><el-button native-type="submit" type="primary">Save</el-button></div>
      </el-form>
    </el-dialog>
  </div>
</template>

<style scoped>
.screen {
  min-height: 100%;
  height: 100%;
  display: flex;
  flex-direction: column;
}

.name {
  font: 600 15px/1.3 var(--ui);
  overflow: hidden;
  text-overflow: ellipsis;
}

main {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 400px;
  gap: 1px;
  background: var(--line);
}

section {
  background: var(--sheet);
  overflow: auto;
  padding-bottom: 24px;
}

.head {
  display: flex;
  align-items: center;
  justify-content: space-between;
  padding: 12px 16px 8px;
}

h2 {
  font: 650 17px/1.3 var(--read);
}

.find {
  width: 220px;
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

.between {
  padding: 10px 16px 0;
}

.between ul {
  columns: 2;
  list-style: none;
  padding: 6px 0 0;
  margin: 0;
}

.remove {
  margin: 18px 8px 0;
}

.foot {
  display: flex;
  justify-content: flex-end;
  padding-top: 12px;
}

.reading {
  width: 260px;
}

@media (max-width: 1120px) {
  main {
    grid-template-columns: minmax(0, 1fr) 320px;
  }
}
</style>
