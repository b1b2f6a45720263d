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
  type SiteMap,
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
const map = shallowRef<SiteMap | null>(null);
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
    query: { focus: around.value ? chosen.value : "" },
  };
  try {
    const found = await data(api.GET("/api/sites/{site_id}/map", { params }));
    if (mine === asked) map.value = found;
  } catch (error) {
    if (mine === asked) problem.value = detailOf(error);
  }
}
watch([() => props.siteId, around], load, { immediate: true });
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
  return map.value ? elementsOf(map.value) : null;
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
const out = computed(() => map.value?.links.filter((one) => one.source === chosen.value) ?? []);
const into = computed(() => map.value?.links.filter((one) => one.goal === chosen.value) ?? []);
const known = computed(() => map.value?.pages.find((page) => page.path === chosen.value));

function pick(path: string): void {
  chosen.value = path;
  pair.value = null;
  if (!path) around.value = false;
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

const stateOf = (page: MapPage) =>
  !page.there ? "missing" : page.is_orphan ? "not linked" : page.is_hub ? "hub" : "";
const weightOf = (one: MapLinks) =>
  `${counted(one.links, "link")}${one.jumps ? `, ${one.jumps} to a place on it` : ""}`;
</script>

<template>
  <div class="screen">
    <AppBar>
      <template #trail>
        <RouterLink class="up" :to="{ name: 'site', params: { siteId } }">{{ site.view?.name ?? "Site" }}</RouterLink>
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
          @line="(source, goal) => (sections ? (section = source) : list(source, goal))"
        />
        <ul v-if="sections" class="legend soft small">
          <li><i class="dot" /> section, larger with more links to it</li>
          <li><i class="dot lone" /> no link leads to it</li>
        </ul>
        <ul v-else class="legend soft small">
          <li><i class="dot" /> page, larger with more pages linking to it</li>
          <li><i class="dot lone" /> no page links to it</li>
          <li><i class="dot gone" /> missing</li>
          <li><i class="dash" /> with broken links</li>
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
        <p v-if="map.left_out" class="soft small note">
          {{ counted(map.left_out, "page") }} with few links {{ map.left_out === 1 ? "is" : "are" }} not drawn.
        </p>
        <el-table :data="rows" row-key="path" size="small" :height="chosen ? '42%' : '100%'" class="table">
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
