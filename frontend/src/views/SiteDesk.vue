<script setup lang="ts">
/** The desk of a site: its pages, the links between them, what is wrong. */
import { computed, ref, watch } from "vue";
import { RouterLink, useRouter } from "vue-router";
import { api, data, detailOf, type FindingView } from "../api/client";
import AppBar from "../components/AppBar.vue";
import FileMenu from "../components/FileMenu.vue";
import FindingList from "../components/FindingList.vue";
import IntakePanel from "../components/IntakePanel.vue";
import SignIcon from "../components/SignIcon.vue";
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
const shownFindings = ref(40);

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
  if (
    !window.confirm(
      `Take “${site.view?.name}” away, with all its changes? Take out its files first if you want them.`,
    )
  )
    return;
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
      <RouterLink
        v-if="readable[1]"
        text
        :to="{ name: 'compare', params: { siteId }, query: { left: readable[0], right: readable[1] } }"
        >Compare pages</RouterLink
      >
      <el-button text :disabled="!site.view" @click="edit">
        <SignIcon name="pencil" /> Name and address
      </el-button>
      <el-button text :disabled="!site.view" @click="bringing = true">
        <SignIcon name="bring" /> Bring in files
      </el-button>
      <TakeOut :site-id="siteId" :changed="site.view?.changed ?? 0" />
    </AppBar>

    <StateNote v-if="site.status === 'failed'" kind="failed" title="This site cannot be shown" :text="site.problem">
      <LinkButton to="/">All sites</RouterLink>
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
      <LinkButton to="/">Bring in another folder</RouterLink>
    </StateNote>

    <main v-else>
      <section class="pages" aria-labelledby="pages-title">
        <div class="head">
          <h2 id="pages-title">Pages</h2>
          <input
            v-if="site.view.pages.length > 8"
            v-model="filter"
            class="field"
            type="search"
            placeholder="Find a page"
            aria-label="Find a page"
          />
        </div>
        <table>
          <thead>
            <tr>
              <th scope="col">Page</th>
              <th scope="col">Length</th>
              <th scope="col" class="number">Sections</th>
              <th scope="col">Lacks</th>
              <th scope="col" class="number" title="Links from other pages">Links in</th>
              <th scope="col" class="number" title="Links to other pages">out</th>
              <th scope="col" class="number">Findings</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="found in pages" :key="found.path">
              <th scope="row">
                <RouterLink v-if="!found.unreadable" :to="{ name: 'page', params: { siteId, path: found.path } }">{{
                  found.path
                }}</RouterLink>
                <span v-else>{{ found.path }}</span>
                <span v-if="found.is_new" class="tag">new</span
                ><span v-else-if="found.changed" class="tag">changed</span>
                <FileMenu
                  class="menu"
                  :site-id="siteId"
                  :path="found.path"
                  :encoding="found.encoding"
                  is-page
                  :links-in="found.links_in"
                  @changed="site.load(siteId)"
                />
                <span class="title soft">{{ found.unreadable ?? found.title ?? "(no title)" }}</span>
              </th>
              <td class="length">
                <span
                  class="extent"
                  :style="{ width: `${Math.max(2, (60 * found.windows) / longest)}px` }"
                  aria-hidden="true"
                />{{ found.words.toLocaleString() }} words
              </td>
              <td class="number">{{ found.sections }}</td>
              <td class="soft">{{ found.lacks.join(", ") }}</td>
              <td class="number">{{ found.links_in || "" }}</td>
              <td class="number">{{ found.links_out || "" }}</td>
              <td class="number wrong">
                <span
                  v-if="found.errors || found.warnings"
                  :title="`${found.errors} errors, ${found.warnings} warnings`"
                  ><SignIcon name="wrong" />{{ found.errors + found.warnings }}</span
                >
              </td>
            </tr>
          </tbody>
        </table>
        <p v-if="!pages.length" class="soft none">No page is called that.</p>
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
        <el-button text class="remove" @click="remove">Take this site away…</el-button>
      </section>

      <section class="wrong-list" aria-labelledby="wrong-title">
        <div class="head">
          <h2 id="wrong-title">What does not hold</h2>
          <span class="soft">{{ site.findings.length }}</span>
        </div>
        <FindingList
          v-if="site.findings.length"
          :findings="site.findings.slice(0, shownFindings)"
          with-page
          @go="go"
        />
        <p v-else class="soft none">Nothing that we know to look for.</p>
        <el-button
          v-if="site.findings.length > shownFindings" class="more"
          @click="shownFindings += 200"
        >
          Show more
        </el-button>
      </section>
    </main>

    <el-dialog v-model="bringing" title="Bring in files" width="640" destroy-on-close>
      <IntakePanel :into="siteId" @done="brought" />
    </el-dialog>

    <el-dialog v-model="naming" title="Name and address" width="480">
      <form class="naming" @submit.prevent="keep">
        <label>Name <input v-model="name" class="field" required maxlength="200" /></label>
        <label
          >The site's own address
          <input v-model="base" class="field" type="url" placeholder="https://www.example.org/club/"
        /></label>
        <p class="soft small">
          With it, full addresses of sections can be copied, and links that spell it out count as the site's own.
        </p>
        <p v-if="problem" role="alert" class="wrong">{{ problem }}</p>
        <el-button native-type="submit" type="primary">Keep</el-button>
      </form>
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

table {
  width: 100%;
  border-collapse: collapse;
}

thead th {
  position: sticky;
  top: 0;
  background: var(--sheet-sunk);
  font-size: 12px;
  font-weight: 600;
  color: var(--ink-soft);
  text-align: left;
  padding: 5px 8px;
  border-block: 1px solid var(--line);
  z-index: 1;
}

tbody th,
td {
  padding: 7px 8px;
  border-bottom: 1px solid var(--line);
  text-align: left;
  font-weight: 400;
  vertical-align: top;
}

th:first-child {
  padding-left: 16px;
}

tbody a {
  color: var(--post);
  font-weight: 600;
}

.menu {
  float: right;
}

.title {
  display: block;
  font: 13px/1.4 var(--read);
}

.tag {
  margin-left: 6px;
  font-size: 11.5px;
  color: var(--wait);
  background: var(--wait-wash);
  border-radius: 3px;
  padding: 1px 5px;
}

.number {
  text-align: right;
  font-variant-numeric: tabular-nums;
}

thead .number {
  text-align: right;
}

.length {
  white-space: nowrap;
}

.extent {
  display: block;
  height: 5px;
  margin: 3px 0 4px;
  border-radius: 2px;
  background: var(--road-2);
}

.wrong {
  color: var(--wrong);
}

.wrong span {
  display: inline-flex;
  align-items: center;
  gap: 4px;
}

.none,
.more {
  margin: 8px 16px;
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
  color: var(--wrong);
}

.naming {
  display: flex;
  flex-direction: column;
  gap: 12px;
}

.naming label {
  display: flex;
  flex-direction: column;
  gap: 3px;
}

.naming .button {
  align-self: flex-end;
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
