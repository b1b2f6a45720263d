<script setup lang="ts">
/** The link map of a site: a picture, and beside it the same as a table. */
import { computed, ref, shallowRef, watch } from "vue";
import { RouterLink, useRouter } from "vue-router";
import {
  api,
  data,
  detailOf,
  type LinkRowView,
  type MapLinks,
  type MapPage,
  type SectionMap,
  type MapView,
} from "../api/client";
import AppBar from "../components/AppBar.vue";
import StateNote from "../components/StateNote.vue";
import { elementsOf, sectionElementsOf } from "../map/elements";
import MapPicture from "../map/MapPicture.vue";
import SectionLinks from "../map/SectionLinks.vue";
import { useSite } from "../stores/site";
import { counted } from "../text/count";

const props = defineProps<{ siteId: string; focus: string }>();
type Show = "all" | "broken" | "orphans" | "hubs";
const SHOWN: { value: Show; label: string }[] = [
  { value: "all", label: "All" },
  { value: "broken", label: "Broken" },
  { value: "orphans", label: "Not linked" },
  { value: "hubs", label: "Hubs" },
];
const site = useSite();
const router = useRouter();
/** How many pages are listed at once. */
const AT_ONCE = 100;
const map = shallowRef<MapView | null>(null);
const at = ref(""); // the folder that is drawn, of a site with many pages
const leaf = ref(1); // of the table
const nearby = shallowRef<MapLinks[]>([]); // links from and to the page that is chosen
const problem = ref("");
const show = ref<Show>("all");
const filter = ref("");
const chosen = ref(props.focus);
const around = ref(props.focus !== "");
const sections = shallowRef<SectionMap | null>(null); // of one page, drawn instead of the site
const section = ref("");
const pair = ref<[string, string] | null>(null);
const links = ref<LinkRowView[]>([]);
let asked = 0;

async function load(): Promise<void> {
  const mine = ++asked;
  const params = {
    path: { site_id: props.siteId },
    query: { focus: around.value ? chosen.value : "", at: at.value },
  };
  try {
    const found = await data(api.GET("/api/sites/{site_id}/map", { params }));
    if (mine === asked) map.value = found;
  } catch (error) {
    if (mine === asked) problem.value = detailOf(error);
  }
}
watch([() => props.siteId, around, at], load, { immediate: true });
watch(
  chosen,
  async (path) => {
    nearby.value = [];
    if (!path) return;
    try {
      const params = { path: { site_id: props.siteId }, query: { path } };
      const found = await data(api.GET("/api/sites/{site_id}/map/around", { params }));
      if (chosen.value === path) nearby.value = found;
    } catch (error) {
      problem.value = detailOf(error);
    }
  },
  { immediate: true },
);

/** The folders down to the one that is drawn. */
const trail = computed(() => {
  const parts = map.value?.drawing.at ? map.value.drawing.at.split("/") : [];
  return parts.map((name, index) => ({ name, path: parts.slice(0, index + 1).join("/") }));
});

/** Draw what a node stands for: a folder; of what there was no room for, the table tells. */
function openNode(name: string): void {
  if (name.endsWith("/")) at.value = name.slice(0, -1);
  else if (name.includes("elsewhere")) at.value = "";
}
watch(
  () => props.siteId,
  (id) => {
    if (site.siteId !== id || !site.view) void site.load(id);
  },
  { immediate: true },
);
watch(
  () => site.view?.name,
  (name) => (document.title = name ? `Link map of ${name} · Humble Signpost` : "Link map"),
  { immediate: true },
);

const drawing = computed(() => {
  if (sections.value) return sectionElementsOf(sections.value);
  return map.value ? elementsOf(map.value.drawing) : null;
});

/** Draw the sections of a page, and what leads to them and away. */
async function openSections(path: string): Promise<void> {
  try {
    const params = { path: { site_id: props.siteId }, query: { path } };
    sections.value = await data(api.GET("/api/sites/{site_id}/map/sections", { params }));
    section.value = "";
  } catch (error) {
    problem.value = detailOf(error);
  }
}

const rows = computed(() =>
  (map.value?.pages ?? [])
    .filter((page) => page.path.toLowerCase().includes(filter.value.toLowerCase()))
    .filter((page) => {
      if (show.value === "broken") return page.broken > 0 || !page.there;
      if (show.value === "orphans") return page.is_orphan;
      return show.value === "hubs" ? page.is_hub : true;
    }),
);
const listed = computed(() => rows.value.slice((leaf.value - 1) * AT_ONCE, leaf.value * AT_ONCE));
watch(rows, () => (leaf.value = 1));
const out = computed(() => nearby.value.filter((one) => one.source === chosen.value));
const into = computed(() => nearby.value.filter((one) => one.goal === chosen.value));
const isPage = (name: string) => map.value?.pages.some((page) => page.path === name) ?? false;
const known = computed(() => map.value?.pages.find((page) => page.path === chosen.value));

function pick(path: string): void {
  chosen.value = path;
  pair.value = null;
  if (!path) around.value = false;
}

/** List the links of a line; one that leads to or from several pages opens them. */
function listBetween(source: string, goal: string): void {
  if (isPage(source) && isPage(goal)) void list(source, goal);
  else openNode(isPage(source) ? goal : source);
}

async function list(source: string, goal: string): Promise<void> {
  if (chosen.value !== source && chosen.value !== goal) chosen.value = source;
  pair.value = [source, goal];
  links.value = [];
  try {
    const params = { path: { site_id: props.siteId }, query: { source, goal } };
    const found = await data(api.GET("/api/sites/{site_id}/map/links", { params }));
    if (pair.value?.[0] === source && pair.value[1] === goal) links.value = found;
  } catch (error) {
    problem.value = detailOf(error);
  }
}

function openLink(link: LinkRowView): void {
  void router.push({
    name: "page",
    params: { siteId: props.siteId, path: link.page },
    query: { line: String(link.line) },
  });
}

const folders = computed(() => map.value?.drawing.nodes.filter((node) => node.kind === "folder") ?? []);
const gathered = computed(() => map.value?.drawing.nodes.some((node) => node.pages > 1) ?? false);
const stateOf = (page: MapPage) =>
  !page.there ? "missing" : page.is_orphan ? "not linked" : page.is_hub ? "hub" : "";
const weightOf = (one: MapLinks) =>
  `${counted(one.links, "link")}${one.jumps ? `, ${one.jumps} to a place on it` : ""}`;
</script>

<template>
  <div class="screen">
    <AppBar>
      <template #trail>
        <RouterLink class="up" :to="{ name: 'site', params: { siteId } }">{{ site.name || "Site" }}</RouterLink>
        <span aria-hidden="true">/</span>
        <h1 class="name">Link map</h1>
      </template>
    </AppBar>
    <StateNote v-if="problem && !map" kind="failed" title="The map cannot be shown" :text="problem">
      <el-button @click="load">Try again</el-button>
    </StateNote>
    <StateNote v-else-if="!map" kind="loading" title="Drawing the map…" />
    <main v-else>
      <section class="drawn" aria-label="Picture">
        <MapPicture
          v-if="drawing"
          :drawing="drawing"
          :chosen="sections ? section : chosen"
          @page="(id) => (sections ? (section = id) : pick(id))"
          @line="(source, goal) => (sections ? (section = source) : listBetween(source, goal))"
          @open="openNode"
        />
        <div v-if="!sections && (trail.length || folders.length)" class="trail small">
          <el-breadcrumb v-if="trail.length" aria-label="Folder that is drawn">
            <el-breadcrumb-item
              ><el-button text size="small" @click="at = ''">All pages</el-button></el-breadcrumb-item
            >
            <el-breadcrumb-item v-for="step in trail" :key="step.path"
              ><el-button text size="small" @click="at = step.path">{{ step.name }}</el-button></el-breadcrumb-item
            >
          </el-breadcrumb>
          <el-select
            v-if="folders.length"
            model-value=""
            size="small"
            filterable
            class="opener"
            placeholder="Open a folder"
            aria-label="Open a folder"
            @change="openNode"
          >
            <el-option v-for="folder in folders" :key="folder.name" :value="folder.name" :label="folder.name" />
          </el-select>
        </div>
        <ul v-if="sections" class="legend soft small">
          <li><i class="dot" /> section, larger with more links to it</li>
          <li><i class="dot lone" /> no link leads to it</li>
        </ul>
        <ul v-else class="legend soft small">
          <li><i class="dot" /> page, larger with more pages linking to it</li>
          <li><i class="dot lone" /> no page links to it</li>
          <li><i class="dot gone" /> missing</li>
          <li><i class="dash" /> with broken links</li>
          <li v-if="gathered"><i class="several" /> several pages: a press on a folder opens it</li>
        </ul>
      </section>
      <section v-if="sections" class="listed" aria-label="Sections">
        <SectionLinks v-model="section" :map="sections" @open="openLink" @leave="sections = null" />
      </section>
      <section v-else class="listed" aria-label="Table">
        <div class="tools">
          <el-segmented v-model="show" :options="SHOWN" size="small" aria-label="Pages to list" />
          <el-input v-model="filter" size="small" clearable placeholder="Find a page" aria-label="Find a page" />
        </div>
        <el-alert v-if="problem" :title="problem" type="error" :closable="false" />
        <el-table :data="listed" row-key="path" size="small" :height="chosen ? '42%' : '100%'" class="table">
          <el-table-column label="Page" prop="path" sortable min-width="150">
            <template #default="{ row }: { row: MapPage }">
              <el-button
                text
                size="small"
                class="pick"
                :aria-pressed="row.path === chosen"
                :class="{ chosen: row.path === chosen }"
                @click="pick(row.path === chosen ? '' : row.path)"
                >{{ row.path }}</el-button
              >
              <span class="soft small">{{ stateOf(row) }}</span>
            </template>
          </el-table-column>
          <el-table-column label="In" prop="links_in" sortable width="66" align="right" />
          <el-table-column label="Out" prop="links_out" sortable width="70" align="right" />
          <el-table-column label="Broken" prop="broken" sortable width="86" align="right">
            <template #default="{ row }: { row: MapPage }"
              ><span :class="row.broken ? 'wrong' : 'soft'">{{ row.broken || "" }}</span></template
            >
          </el-table-column>
          <template #empty>No page is like that.</template>
        </el-table>
        <el-pagination
          v-if="rows.length > AT_ONCE"
          v-model:current-page="leaf"
          layout="prev, pager, next, total"
          :page-size="AT_ONCE"
          :pager-count="5"
          :total="rows.length"
          size="small"
          class="pager"
        />

        <div v-if="known" class="around">
          <h2>{{ known.path }}</h2>
          <p class="row">
            <el-checkbox v-model="around" size="small">Draw only what is around it</el-checkbox>
            <span class="fill" />
            <el-button v-if="known.there" text size="small" @click="openSections(known.path)"
              >Draw its sections</el-button
            >
          </p>
          <template v-if="pair">
            <p class="row">
              <code>{{ pair[0] }}</code> → <code>{{ pair[1] }}</code><span class="fill" />
              <el-button text size="small" @click="pair = null">All of its links</el-button>
            </p>
            <ul>
              <li v-for="link in links" :key="`${link.line} ${link.address} ${link.words}`">
                <el-button text size="small" class="pick" @click="openLink(link)"
                  >{{ link.words || "(no words)" }}<span class="soft"> line {{ link.line }}</span></el-button
                >
                <code class="address" :class="{ wrong: link.state !== 'found' }">{{ link.address }}</code>
              </li>
            </ul>
          </template>
          <template v-else>
            <h3>Links from it</h3>
            <p v-if="!out.length" class="soft small">None to other pages.</p>
            <ul>
              <li v-for="one in out" :key="one.goal">
                <el-button text size="small" class="pick" @click="list(one.source, one.goal)">{{
                  one.goal
                }}</el-button>
                <span class="soft small">{{ weightOf(one) }}</span>
                <span v-if="one.broken" class="wrong small">{{ one.broken }} broken</span>
              </li>
            </ul>
            <h3>Links to it</h3>
            <p v-if="!into.length" class="soft small">None from other pages.</p>
            <ul>
              <li v-for="one in into" :key="one.source">
                <el-button text size="small" class="pick" @click="list(one.source, one.goal)">{{
                  one.source
                }}</el-button>
                <span class="soft small">{{ weightOf(one) }}</span>
                <span v-if="one.broken" class="wrong small">{{ one.broken }} broken</span>
              </li>
            </ul>
          </template>
        </div>
      </section>
    </main>
  </div>
</template>

<style scoped>
.screen {
  height: 100%;
  display: flex;
  flex-direction: column;
}

.up {
  color: var(--post);
  overflow: hidden;
  text-overflow: ellipsis;
}

.name {
  font: 600 15px/1.3 var(--ui);
}

main {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 430px;
  gap: 1px;
  background: var(--line);
}

section {
  background: var(--sheet);
  min-width: 0;
  min-height: 0;
}

.drawn {
  position: relative;
}

.legend {
  position: absolute;
  left: 12px;
  bottom: 8px;
  margin: 0;
  padding: 4px 8px;
  list-style: none;
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  background: var(--sheet);
  border-radius: var(--radius);
}

.legend li {
  display: flex;
  align-items: center;
  gap: 6px;
}

.dot {
  width: 11px;
  height: 11px;
  border-radius: 50%;
  background: var(--road-2);
  border: 1.5px solid var(--post);
}

.dot.lone {
  background: var(--sheet);
  border: 1.5px dashed var(--wait);
}

.dot.gone {
  border-radius: 0;
  rotate: 45deg;
  scale: 0.8;
  background: var(--wrong-wash);
  border-color: var(--wrong);
}

.several {
  width: 13px;
  height: 11px;
  border-radius: 3px;
  background: var(--sheet-sunk);
  border: 1.5px solid var(--line-strong);
}

.opener {
  width: 180px;
}

.trail {
  display: flex;
  align-items: center;
  gap: 12px;
  position: absolute;
  left: 12px;
  top: 8px;
  padding: 2px 8px;
  background: var(--sheet);
  border-radius: var(--radius);
}

.pager {
  padding: 6px 12px;
}

.dash {
  width: 22px;
  border-top: 2px dashed var(--wrong);
}

.listed {
  display: flex;
  flex-direction: column;
}

@media (max-width: 1120px) {
  main {
    grid-template-columns: minmax(0, 1fr) 360px;
  }
}
</style>

<style scoped src="../map/listed.css"></style>
