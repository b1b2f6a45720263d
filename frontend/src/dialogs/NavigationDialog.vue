<script setup lang="ts">
/** Navigation across pages: a menu, where a page is, the pages before and after, lists over the whole site. */
import { computed, ref, shallowRef, watch } from "vue";
import { api, data, detailOf, type SiteNavigation } from "../api/client";
import PagePicker from "../components/PagePicker.vue";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";
import { useSite } from "../stores/site";
import { useTray } from "../stores/tray";
import { counted } from "../text/count";
import AskDialog from "./AskDialog.vue";

type Kind = "menu" | "path" | "steps" | "contents" | "index" | "skip";
type Row = { path: string; name: string };

const KINDS: { value: Kind; label: string; does: string }[] = [
  { value: "menu", label: "Menu", does: "Links to these pages, in this order, on every one of them." },
  { value: "steps", label: "Previous and next", does: "At the end of each page, links to those around it." },
  { value: "path", label: "Path", does: "Above each heading, the pages above it: Home › Guides › This page." },
  { value: "contents", label: "All pages", does: "One page gets a list of all pages with their sections." },
  { value: "index", label: "A to Z", does: "One page gets a list of all headings of the site, by letter." },
  { value: "skip", label: "Skip link", does: "A first link past the header, for readers who use the keyboard." },
];
const page = usePage();
const site = useSite();
const tray = useTray();
const dialogs = useDialogs();
const view = shallowRef<SiteNavigation | null>(null);
const kind = ref<Kind>("menu");
const block = ref(""); // of the menu that is changed; "" for a new one
const rows = ref<Row[]>([]);
const chosen = ref<string[]>([]);
const dragged = ref(-1); // the row that is being dragged
const home = ref("");
const isList = ref(true);
const separator = ref("|");
const sections = ref(false);
const depth = ref(1);
const problem = ref("");

const said = computed(() => KINDS.find((one) => one.value === kind.value)!);
const menu = computed(() => view.value?.menus.find((one) => one.block === block.value));
const overview = computed(() => kind.value === "contents" || kind.value === "index");
const there = computed(() => {
  const known = view.value;
  if (!known) return false;
  if (kind.value === "contents") return known.contents !== "" && known.contents === home.value;
  if (kind.value === "index") return known.index !== "" && known.index === home.value;
  return { menu: /\bsite-menu\b/.test(block.value), steps: known.steps > 0, path: known.paths > 0, skip: true }[
    kind.value
  ];
});
const able = computed(() => chosen.value.length > 0 && (!overview.value || home.value !== ""));

async function load(): Promise<void> {
  try {
    view.value = await data(
      api.GET("/api/sites/{site_id}/navigation", { params: { path: { site_id: page.siteId } } }),
    );
    block.value = view.value.menus[0]?.block ?? "";
    arrange();
  } catch (error) {
    problem.value = detailOf(error);
  }
}
void load();

/** Put the pages in the order of the menu that is chosen, with those ticked that it has; else all, as they are read. */
function arrange(): void {
  const known = view.value;
  if (!known) return;
  const listed = kind.value === "menu" && menu.value ? menu.value.order : known.pages.map((one) => one.path);
  const names = new Map(known.pages.map((one) => [one.path, one.name]));
  const paths = [...new Set([...listed, ...known.pages.map((one) => one.path)])];
  rows.value = paths.map((path) => ({ path, name: names.get(path) ?? path }));
  chosen.value = [...listed];
}
watch([kind, block], () => {
  problem.value = "";
  if (kind.value === "contents") home.value = view.value?.contents ?? "";
  if (kind.value === "index") home.value = view.value?.index ?? "";
  arrange();
});

function move(from: number, to: number): void {
  if (from < 0 || to < 0 || from === to || to >= rows.value.length) return;
  const next = [...rows.value];
  next.splice(to, 0, ...next.splice(from, 1));
  rows.value = next;
}

/** The pages that are ticked, in their order on the screen. */
function ordered(): string[] {
  const ticked = new Set(chosen.value);
  return rows.value.filter((row) => ticked.has(row.path)).map((row) => row.path);
}

async function go(remove = false): Promise<void> {
  if (!remove && !able.value) return;
  const done = await tray.propose({
    operation: "navigation",
    page: site.view?.first[0] ?? "",
    kind: kind.value,
    pages: ordered(),
    home: home.value || null,
    block: kind.value === "menu" ? block.value : "",
    is_list: isList.value,
    separator: separator.value,
    sections: sections.value,
    depth: depth.value,
    remove,
  });
  if (done) dialogs.close();
  else problem.value = tray.problem;
}
</script>

<template>
  <AskDialog title="Navigation" does="Show the edits" :able="able" :width="680" :problem="problem" @go="go()">
    <el-segmented v-model="kind" :options="KINDS" aria-label="What to make" />
    <p class="soft">{{ said.does }}</p>

    <div v-if="kind === 'menu'" class="row">
      <el-form-item label="Menu">
        <el-select v-model="block" style="width: 250px" aria-label="Menu">
          <el-option
            v-for="one in view?.menus ?? []"
            :key="one.block"
            :value="one.block"
            :label="`${one.block}, on ${counted(one.pages, 'page')}`"
          />
          <el-option value="" label="A new menu" />
        </el-select>
      </el-form-item>
      <template v-if="!block">
        <el-radio-group v-model="isList" aria-label="Form of the menu">
          <el-radio :value="true">List</el-radio>
          <el-radio :value="false">One line</el-radio>
        </el-radio-group>
        <el-input v-if="!isList" v-model="separator" class="sign" maxlength="20" aria-label="Between the entries" />
      </template>
      <el-checkbox v-if="menu?.is_list || (!block && isList)" v-model="sections">Sections below pages</el-checkbox>
    </div>
    <div v-else-if="overview" class="row">
      <el-form-item label="On the page">
        <PagePicker v-model="home" :site-id="page.siteId" label="Page that gets the list" width="250px" />
      </el-form-item>
      <el-form-item v-if="kind === 'contents'" label="Levels of sections">
        <el-input-number v-model="depth" :min="0" :max="6" size="small" aria-label="Levels of sections" />
      </el-form-item>
    </div>

    <p class="over">{{ counted(chosen.length, "page") }}{{ kind === "skip" ? "" : ", in this order" }}</p>
    <el-scrollbar max-height="300px" class="pages">
      <p v-if="!view && !problem" class="soft small">Reading the pages…</p>
      <el-checkbox-group v-model="chosen" aria-label="Pages">
        <ol>
          <li
            v-for="(row, at) in rows"
            :key="row.path"
            draggable="true"
            @dragstart="dragged = at"
            @dragover.prevent
            @drop.prevent="move(dragged, at)"
          >
            <el-checkbox :value="row.path" class="page"
              ><span class="name clipped">{{ row.name }}</span
              ><span class="soft small clipped">{{ row.path }}</span></el-checkbox
            >
            <el-button
              text
              size="small"
              :disabled="at === 0"
              :aria-label="`Move ${row.name} up`"
              @click="move(at, at - 1)"
              >↑</el-button
            >
            <el-button
              text
              size="small"
              :disabled="at === rows.length - 1"
              :aria-label="`Move ${row.name} down`"
              @click="move(at, at + 1)"
              >↓</el-button
            >
          </li>
        </ol>
      </el-checkbox-group>
    </el-scrollbar>
    <template #more>
      <el-button v-if="there" text type="danger" @click="go(true)">Remove it again</el-button>
    </template>
  </AskDialog>
</template>

<style scoped>
.over {
  font-weight: 600;
}

.pages {
  border: 1px solid var(--line);
  border-radius: var(--radius);
}

ol {
  list-style: none;
  margin: 0;
  padding: 2px 4px 2px 10px;
}

li {
  display: flex;
  align-items: center;
}

li + li {
  border-top: 1px solid var(--line);
}

.page {
  flex: 1;
  min-width: 0;
  margin: 0;
}

.page :deep(.el-checkbox__label) {
  display: flex;
  flex: 1;
  min-width: 0;
  align-items: baseline;
  gap: 10px;
}

.name {
  flex: 0 0 290px;
}

li .el-button {
  margin: 0;
  padding: 0 6px;
}

.sign {
  width: 70px;
}
</style>
