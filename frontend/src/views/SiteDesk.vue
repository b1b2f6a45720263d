<script setup lang="ts">
/** The desk of a site: its pages, the links between them, what is wrong. */
import { computed, ref, watch } from "vue";
import { useRouter } from "vue-router";
import { api, data, detailOf, type FindingView } from "../api/client";
import ArrivingPages from "../components/ArrivingPages.vue";
import AppBar from "../components/AppBar.vue";
import FolderBar from "../components/FolderBar.vue";
import IntakePanel from "../components/IntakePanel.vue";
import SignIcon from "../components/SignIcon.vue";
import LinkButton from "../components/LinkButton.vue";
import LinksBetween from "../components/LinksBetween.vue";
import OtherFiles from "../components/OtherFiles.vue";
import PagesTable from "../components/PagesTable.vue";
import SharedBlocks from "../components/SharedBlocks.vue";
import SeriesList from "../components/SeriesList.vue";
import StateNote from "../components/StateNote.vue";
import TakeOut from "../components/TakeOut.vue";
import TrayBar from "../components/TrayBar.vue";
import { useSiteKeys } from "../composables/useSiteKeys";
import { usePulse } from "../composables/usePulse";
import DeskDialogs from "../dialogs/DeskDialogs.vue";
import SiteNameDialog from "../dialogs/SiteNameDialog.vue";
import ChecksDrawer from "../findings/ChecksDrawer.vue";
import FindingTools from "../findings/FindingTools.vue";
import SiteFindings from "../findings/SiteFindings.vue";
import { useFindings } from "../findings/useFindings";
import { useChanges } from "../stores/changes";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";
import { useSite, type Progress } from "../stores/site";
import { useTray } from "../stores/tray";
import { counted } from "../text/count";

const props = defineProps<{ siteId: string }>();
const site = useSite();
const page = usePage();
const router = useRouter();
const tray = useTray();
const changes = useChanges();
const dialogs = useDialogs();
const findings = useFindings(
  () => props.siteId,
  () => site.view?.first[0] ?? "",
);
const naming = ref(false);
const checking = ref(false);
const bringing = ref(false);
const fixable = ref(0);
const problem = ref("");
watch(
  () => props.siteId,
  (id) => {
    tray.drop();
    tray.notice = tray.problem = "";
    if (page.siteId !== id) page.leave(id);
    void site.load(id);
    void changes.load(id);
  },
  { immediate: true },
);
watch(
  () => site.view?.name,
  (title) => (document.title = title ? `${title} · Humble Signpost` : "Humble Signpost"),
  { immediate: true },
);

useSiteKeys();
usePulse(
  () => props.siteId,
  async () => void (await Promise.all([site.load(props.siteId), changes.load(props.siteId)])),
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

/** From which share on it is said how much of what may be kept is kept. */
const NEARLY_FULL = 0.8;

function soFar(now: Progress | null): string {
  return now?.total ? `${now.done.toLocaleString("en")} of ${counted(now.total, "page")} ${now.what}` : "";
}

const reading = computed(() => soFar(site.progress));
const readSoFar = computed(
  () => `${soFar(site.stopped)}. What is read is kept; the rest waits until the site is opened again.`,
);

function write(): void {
  checking.value = false;
  findings.writeFile();
}
</script>

<template>
  <div class="screen">
    <AppBar>
      <template #trail
        ><h1 class="name">{{ site.name || "Site" }}</h1>
        <span v-if="site.view?.base" class="soft small">{{ site.view.base }}</span></template
      >
      <LinkButton v-if="site.view?.first[1]" text :to="{ name: 'map', params: { siteId } }">Link map</LinkButton>
      <LinkButton
        v-if="site.view?.first[1]"
        text
        :to="{ name: 'compare', params: { siteId }, query: { left: site.view.first[0], right: site.view.first[1] } }"
        >Compare pages</LinkButton
      >
      <el-button text :disabled="!site.view" @click="naming = true">
        <SignIcon name="pencil" /> Name and address
      </el-button>
      <el-button text :disabled="!site.view" @click="bringing = true">
        <SignIcon name="bring" /> Bring in files
      </el-button>
      <el-button text :disabled="!site.view" @click="dialogs.show({ name: 'publish' })">Publish…</el-button>
      <TakeOut :site-id="siteId" :changed="site.view?.changed ?? 0" />
    </AppBar>

    <StateNote v-if="site.status === 'failed'" kind="failed" title="This site cannot be shown" :text="site.problem">
      <LinkButton to="/">All sites</LinkButton>
      <el-button @click="site.load(siteId)">Try again</el-button>
    </StateNote>
    <StateNote v-else-if="site.stopped" kind="empty" title="Reading stopped" :text="readSoFar">
      <el-button type="primary" @click="site.load(siteId)">Go on reading</el-button>
      <LinkButton to="/">All sites</LinkButton>
    </StateNote>
    <main v-else-if="!site.view && site.arriving">
      <section class="pages" aria-labelledby="arriving-title">
        <div class="head"><h2 id="arriving-title">Pages</h2></div>
        <ArrivingPages :site-id="siteId" />
      </section>
      <section class="wrong-list" aria-labelledby="arriving-wrong">
        <div class="head"><h2 id="arriving-wrong">Findings</h2></div>
        <p class="soft later">
          What is wrong is listed here when all pages are read and checked. Until then, each page tells what it has by
          itself.
        </p>
      </section>
    </main>
    <StateNote
      v-else-if="!site.view"
      kind="loading"
      :title="site.progress?.what === 'checked' ? 'Checking the pages…' : 'Reading the pages…'"
      :text="reading"
    >
      <el-progress
        v-if="site.progress?.total"
        :percentage="Math.round((100 * site.progress.done) / site.progress.total)"
        :show-text="false"
        class="reading"
        :aria-label="`Pages ${site.progress.what}`"
      />
      <el-button v-if="site.progress?.total" @click="site.stop()">Stop</el-button>
    </StateNote>
    <StateNote
      v-else-if="!site.view.pages"
      kind="empty"
      title="No pages here"
      text="None of the files that were brought in is an HTML page."
    >
      <LinkButton to="/">Bring in another folder</LinkButton>
    </StateNote>

    <FolderBar v-if="site.view" :site-id="siteId" :turn="site.turn" @changed="site.load(siteId)" />
    <p v-if="site.view && site.view.kept > NEARLY_FULL" class="full small" role="status">
      <span
        >With its earlier states, the site keeps {{ Math.round(100 * site.view.kept) }} % of what it may. Beyond that,
        nothing can be changed or taken in.</span
      >
      <el-button size="small" @click="dialogs.show({ name: 'history' })">Shorten the history…</el-button>
    </p>
    <main v-if="site.status !== 'failed' && site.view?.pages">
      <section class="pages" aria-labelledby="pages-title">
        <div class="head">
          <h2 id="pages-title">Pages</h2>
          <span>
            <el-button text size="small" @click="dialogs.show({ name: 'heads' })">Titles and languages…</el-button>
            <el-button text size="small" @click="dialogs.show({ name: 'navigation' })">Navigation…</el-button>
            <el-button text size="small" @click="dialogs.show({ name: 'recipe' })">Recipe…</el-button>
          </span>
        </div>
        <SeriesList v-if="site.view.series.length" :site-id="siteId" :series="site.view.series" />
        <PagesTable :site-id="siteId" :count="site.view.pages" :turn="site.turn" @changed="site.load(siteId)" />
        <LinksBetween v-if="site.view.linked" :site-id="siteId" :turn="site.turn" />
        <SharedBlocks v-if="site.view.pages > 2" :site-id="siteId" :turn="site.turn" />
        <OtherFiles
          v-if="site.view.files"
          :site-id="siteId"
          :count="site.view.files"
          :turn="site.turn"
          @changed="site.load(siteId)"
        />
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
          <span class="tools"
            ><FindingTools
              :site-id="siteId"
              :fixable="fixable"
              :locked="tray.busy"
              @fix="findings.fix(null, null, null)"
              @rules="checking = true"
          /></span>
        </div>
        <SiteFindings
          :site-id="siteId"
          :turn="site.turn"
          :locked="tray.busy"
          @fixable="fixable = $event"
          @go="go"
          @fix="findings.fix"
          @aside="findings.setAside"
        />
      </section>
    </main>
    <TrayBar v-if="site.view?.pages" @undo="changes.undoable && tray.turn(changes.undoable)" />

    <ChecksDrawer
      v-model="checking"
      :site-id="siteId"
      :locked="tray.busy"
      @saved="findings.readAgain"
      @write="write"
    />
    <el-dialog v-model="bringing" title="Bring in files" width="640" destroy-on-close>
      <IntakePanel :into="siteId" @done="brought" />
    </el-dialog>

    <SiteNameDialog v-model="naming" />
    <DeskDialogs />
  </div>
</template>

<style scoped>
.full {
  display: flex;
  align-items: center;
  gap: 12px;
  margin: 0;
  padding: 5px 12px;
  color: var(--wait);
  background: var(--wait-wash);
}

.full span {
  flex: 1;
}

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

main > section {
  position: relative; /* what is there for screen readers alone stays within */
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

.remove {
  margin: 18px 8px 0;
}

.reading {
  width: 260px;
}

.later {
  padding: 0 16px;
  max-width: 44ch;
}

@media (max-width: 1120px) {
  main {
    grid-template-columns: minmax(0, 1fr) 320px;
  }
}
</style>
