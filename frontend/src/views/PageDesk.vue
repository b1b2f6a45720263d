<script setup lang="ts">
/** The desk of one page: the strip of stages, road, ledger, bench, tray. */
import { useIntervalFn } from "@vueuse/core";
import { computed, onBeforeUnmount, ref, watch } from "vue";
import { useRoute } from "vue-router";
import { type ChangeEntry, type FindingView, type SectionView } from "../api/client";
import BenchPane from "../bench/BenchPane.vue";
import DeskHeader from "../components/DeskHeader.vue";
import FindingList from "../findings/FindingList.vue";
import { useFindings } from "../findings/useFindings";
import FirstSteps from "../components/FirstSteps.vue";
import KeyHelp from "../components/KeyHelp.vue";
import LinkButton from "../components/LinkButton.vue";
import PaneSplitter from "../components/PaneSplitter.vue";
import StageStrip from "../components/StageStrip.vue";
import StateNote from "../components/StateNote.vue";
import TrayBar from "../components/TrayBar.vue";
import DeskDialogs from "../dialogs/DeskDialogs.vue";
import StageForm from "../forms/StageForm.vue";
import LedgerTable from "../ledger/LedgerTable.vue";
import PartsLedger from "../parts/PartsLedger.vue";
import RoadMap from "../road/RoadMap.vue";
import WalkTable from "../walk/WalkTable.vue";
import { useChoosing } from "../composables/useChoosing";
import { useDraft } from "../composables/useDraft";
import { useJumps } from "../composables/useJumps";
import { usePageKeys } from "../composables/usePageKeys";
import { usePanes } from "../composables/usePanes";
import { usePulse } from "../composables/usePulse";
import { useWholePage } from "../composables/useWholePage";
import { useBench } from "../stores/bench";
import { useChanges } from "../stores/changes";
import { useDialogs } from "../stores/dialogs";
import { useMeasures } from "../stores/measures";
import { usePage } from "../stores/page";
import { useSite } from "../stores/site";
import { STAGES, useStages } from "../stores/stages";
import { useTray } from "../stores/tray";
import { useWalk } from "../stores/walk";

const props = defineProps<{ siteId: string; path: string }>();

const page = usePage();
const site = useSite();
const tray = useTray();
const bench = useBench();
const changes = useChanges();
const dialogs = useDialogs();
const measures = useMeasures();
const stages = useStages();
const walk = useWalk();
const help = ref(false);
const ledger = ref<InstanceType<typeof LedgerTable> | InstanceType<typeof PartsLedger> | null>(null);
const landings = ref<InstanceType<typeof WalkTable> | null>(null);
const road = ref<InstanceType<typeof RoadMap> | null>(null);
const route = useRoute();
const benchPane = ref<InstanceType<typeof BenchPane> | null>(null);
const root = ref<HTMLElement | null>(null);
const choosing = useChoosing({
  place: () => benchPane.value?.place(),
  selection: () => benchPane.value?.selection(),
});
const { choose } = choosing;
const { parts, road: road_, pick, successor } = useWholePage(() => props.siteId, choose);
const jumps = useJumps();
const { save, review, discard } = useDraft();
const findings = useFindings(
  () => props.siteId,
  () => "",
);
usePulse(() => props.siteId, tray.refresh);

const locked = computed(() => page.view?.locked ?? "");
const hasRows = computed(() => {
  const view = page.view;
  if (!view) return false;
  const found = view.structure.lookalikes.length + view.structure.missing.length;
  return view.sections.length > 0 || (page.stage === "headings" && found > 0);
});

watch(
  () => [props.siteId, props.path],
  () => {
    tray.drop();
    tray.notice = tray.problem = "";
    void page.load(props.siteId, props.path);
    void changes.load(props.siteId);
    if (site.siteId !== props.siteId || !site.view) void site.load(props.siteId);
  },
  { immediate: true },
);
/** How often it is looked whether the other pages are read, in milliseconds. */
const EVERY = 2000;
// what needs other pages is known once they are read; the one that is open is checked first
useIntervalFn(() => {
  if (page.saved?.is_arriving && !site.stopped && site.progress?.what !== "read") void page.reload();
}, EVERY);
watch(
  () => site.turn,
  () => {
    if (page.saved?.is_arriving) void page.reload();
  },
  { immediate: true },
);
watch(
  () => [page.saved, page.looks],
  () => {
    if (page.saved?.path === page.path && !page.saved.is_arriving) void measures.load(page.siteId, page.path);
  },
);
watch(
  () => page.view?.title,
  () => (document.title = `${props.path} · Humble Signpost`),
);

if (route.query.line) bench.show("source");

/** Change a section's identifier: give it, or rename it with all that refers to it. */
function identify(section: SectionView, name: string): void {
  void tray.propose(
    section.identifier
      ? { operation: "rename", page: page.path, old: section.identifier, new: name, keep_old: false }
      : { operation: "set-identifiers", page: page.path, identifiers: { [section.index]: name } },
  );
}

async function turn(entry: ChangeEntry | null): Promise<void> {
  if (entry && !page.typing) await tray.turn(entry);
}

async function go(finding: FindingView): Promise<void> {
  page.select(finding.section);
  await benchPane.value?.goTo(finding.line, finding.column);
}

/** Do a step of the walk, in the rendered page. */
async function step(does: () => void): Promise<void> {
  bench.show("page");
  does();
}

function move(by: number): void {
  if (ledger.value) ledger.value.step(by);
  else choose(page.selected + by);
}

const nextPane = usePanes(root, {
  road: () => {
    root.value?.querySelector<SVGGElement>("[data-pane='road'] [role='listbox']")?.focus();
    return true;
  },
  ledger: () => {
    if (page.stage === "walk") landings.value?.focus();
    else if (page.stage !== "findings" && ledger.value) ledger.value.focus();
    else return false;
    return true;
  },
  bench: () => {
    benchPane.value?.focus();
    return true;
  },
});

usePageKeys({
  stages: STAGES.map(([stage]) => stage),
  unable: () => locked.value !== "" || tray.busy,
  locked: () => locked.value !== "",
  choosing,
  save,
  turn,
  step,
  nextPane,
  move,
  nextStep: stages.goNext,
  passStep: stages.passNext,
  openAddress: () => root.value?.querySelector<HTMLElement>("tr[aria-selected='true'] .opener")?.click(),
  showHelp: () => (help.value = true),
  zoom: () => road.value?.turnZoom(),
  editSelected: () => ledger.value?.editSelected(),
});

onBeforeUnmount(() => {
  dialogs.close();
  choosing.leave();
});
</script>

<template>
  <div ref="root" class="desk">
    <DeskHeader :site-id="siteId" :path="path" @turn="turn" @help="help = true" />

    <StateNote
      v-if="page.status === 'failed' && !page.view"
      kind="failed"
      title="This page cannot be shown"
      :text="page.problem"
    >
      <LinkButton v-if="successor" :to="{ name: 'page', params: { siteId, path: successor } }"
        >Open {{ successor }}, which has its sections now</LinkButton
      >
      <LinkButton :to="{ name: 'site', params: { siteId } }">To the site's desk</LinkButton>
      <el-button @click="page.reload()">Try again</el-button>
    </StateNote>
    <StateNote
      v-else-if="!page.view"
      kind="loading"
      :title="
        site.progress
          ? `Reading the site: ${site.progress.done} of ${site.progress.total} pages…`
          : 'Reading the page…'
      "
    />

    <template v-else>
      <StageStrip />
      <p v-if="page.saved?.is_arriving" class="arriving soft small" role="status">
        Reading the site{{
          site.progress
            ? `: ${site.progress.done.toLocaleString("en")} of ${site.progress.total.toLocaleString("en")} pages`
            : ""
        }}. What leads to other pages and from them is judged then, and this page can be edited.
      </p>
      <main class="panes" :style="{ '--road': `${bench.road}px`, '--ledger': `${bench.ledger}px` }">
        <aside class="pane road-pane" data-pane="road" aria-label="Road">
          <RoadMap
            ref="road"
            :page="road_.page"
            :measure="road_.measure"
            :selected="road_.selected"
            :cuts="road_.cuts"
            :places="road_.places"
            :window-top="walk.top"
            :walking="bench.showsPage"
            :width="bench.road"
            :linked="road_.page === page.view && !locked"
            @select="pick"
            @lead="(link, section) => jumps.leadLink(link, { path: page.path, section })"
            @scroll="walk.wish = $event"
            @move-cut="parts.move"
            @remove-cut="parts.toggle"
          />
        </aside>
        <PaneSplitter v-model="bench.road" label="Room for the road" :least="160" :most="420" />

        <section class="pane" data-pane="ledger" aria-label="Ledger">
          <StageForm
            :page="page.view"
            :stage="page.stage"
            :locked="locked"
            :busy="tray.busy"
            @propose="tray.propose($event)"
            @point="choosing.point()"
            @link="choosing.link()"
          />
          <div class="scroll">
            <FindingList
              v-if="page.stage === 'findings'"
              :findings="stages.findings"
              :fresh="stages.fresh"
              :locked="locked !== '' || tray.busy"
              @go="go"
              @fix="findings.fix"
              @aside="findings.setAside"
            />
            <WalkTable v-else-if="page.stage === 'walk'" ref="landings" @follow="bench.show('page')" />
            <PartsLedger
              v-else-if="page.stage === 'parts'"
              ref="ledger"
              :locked="locked !== '' || tray.busy"
              @select="pick"
            />
            <LedgerTable
              v-else-if="hasRows"
              ref="ledger"
              :page="page.view"
              :locked="locked !== '' || tray.busy"
              @select="choose"
              @identify="identify"
            />
            <StateNote
              v-else
              kind="empty"
              title="No headings yet"
              text="This page has no headings, so it has no sections to point to. Make its titles h2 or h3 elements in the source, and they appear here as you type."
            >
              <el-button v-if="page.view.structure.lookalikes.length" type="primary" @click="page.stage = 'headings'"
                >Show {{ page.view.structure.lookalikes.length }} lines that look like headings</el-button
              >
              <el-button @click="benchPane?.goTo(1, 1)">Open the source</el-button>
            </StateNote>
          </div>
        </section>
        <PaneSplitter v-model="bench.ledger" label="Room for the ledger" :least="360" :most="900" />

        <BenchPane
          ref="benchPane"
          data-pane="bench"
          :locked="locked"
          @stop="choosing.leave()"
          @discard="discard"
          @save="save"
          @review="review"
          @point="choosing.point()"
          @place="choosing.choosePlace({ start: $event })"
        />
      </main>
      <div data-pane="tray"><TrayBar @undo="turn(changes.undoable)" /></div>
      <FirstSteps />
    </template>
    <DeskDialogs />
    <KeyHelp v-model="help" />
  </div>
</template>

<style scoped>
.desk {
  position: relative;
  display: flex;
  flex-direction: column;
  height: 100%;
  min-width: 1000px;
  overflow: hidden;
}

.arriving {
  margin: 0;
  padding: 4px 16px;
  background: var(--sheet);
  border-bottom: 1px solid var(--line);
}

.panes {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: var(--road) 1px minmax(340px, var(--ledger)) 1px minmax(300px, 1fr);
  background: var(--line);
}

.pane {
  background: var(--sheet);
  min-width: 0;
  min-height: 0;
  display: flex;
  flex-direction: column;
}

.road-pane {
  background: var(--sheet-sunk);
}

.scroll {
  position: relative; /* what is there for screen readers alone stays within */
  flex: 1;
  overflow: auto;
}
</style>
