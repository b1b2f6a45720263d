<script setup lang="ts">
/** The desk of one page: road, ledger, bench, tray. */
import { computed, nextTick, onBeforeUnmount, ref, watch } from "vue";
import { useStorage } from "@vueuse/core";
import { RouterLink } from "vue-router";
import { type ChangeEntry, type FindingView, type SectionView } from "../api/client";
import BenchBar from "../bench/BenchBar.vue";
import PageBench from "../bench/PageBench.vue";
import SourceBench from "../bench/SourceBench.vue";
import FindingList from "../components/FindingList.vue";
import DeskHeader from "../components/DeskHeader.vue";
import KeyHelp from "../components/KeyHelp.vue";
import PaneSplitter from "../components/PaneSplitter.vue";
import StateNote from "../components/StateNote.vue";
import TabRow from "../components/TabRow.vue";
import TrayBar from "../components/TrayBar.vue";
import RoadMap from "../road/RoadMap.vue";
import WalkTable from "../walk/WalkTable.vue";
import StageForm from "../forms/StageForm.vue";
import LedgerTable from "../ledger/LedgerTable.vue";
import DeskDialogs from "../dialogs/DeskDialogs.vue";
import { useChoosing } from "../composables/useChoosing";
import { useJumps } from "../composables/useJumps";
import { useDraft } from "../composables/useDraft";
import { usePageKeys } from "../composables/usePageKeys";
import { usePulse } from "../composables/usePulse";
import { useChanges } from "../stores/changes";
import { useChoices } from "../stores/choices";
import { useDialogs } from "../stores/dialogs";
import { useMeasures } from "../stores/measures";
import { usePage, type Stage } from "../stores/page";
import { useSite } from "../stores/site";
import { useTray } from "../stores/tray";
import { useWalk } from "../stores/walk";

const props = defineProps<{ siteId: string; path: string }>();

const STAGES: [Stage, string][] = [
  ["headings", "Headings"],
  ["identifiers", "Identifiers"],
  ["contents", "Contents"],
  ["jumps", "Jumps"],
  ["back-to-top", "Back-to-top links"],
  ["walk", "Walk"],
  ["parts", "Parts"],
  ["findings", "Findings"],
];

const page = usePage();
const site = useSite();
const tray = useTray();
const changes = useChanges();
const dialogs = useDialogs();
const choices = useChoices();
const jumps = useJumps();
const measures = useMeasures();
const walk = useWalk();
const bench = ref<"source" | "page">("page");
const help = ref(false);
usePulse(() => props.siteId, tray.refresh);
const ledger = ref<InstanceType<typeof LedgerTable> | null>(null);
const landings = ref<InstanceType<typeof WalkTable> | null>(null);
const road = ref<InstanceType<typeof RoadMap> | null>(null);
const source = ref<InstanceType<typeof SourceBench> | null>(null);
const benchWidth = useStorage("signpost-bench", 460);
const roadPane = ref<HTMLElement | null>(null);
const ledgerPane = ref<HTMLElement | null>(null);
const benchPane = ref<HTMLElement | null>(null);
const trayPane = ref<HTMLElement | null>(null);
const choosing = useChoosing(bench, {
  place: () => source.value?.place(),
  selection: () => source.value?.selection(),
});
const { choose } = choosing;

const locked = computed(() => {
  if (page.view?.locked) return page.view.locked;
  return page.typing
    ? "You typed in the source. Save that with Ctrl S, or drop it, before asking for anything else."
    : "";
});

/** Ask what is where was clicked on the page, and come out of its frame, whose keys are not ours. */
function chosen(at: { start: number }): void {
  benchPane.value?.querySelector<HTMLElement>(".point")?.focus();
  void choosing.choosePlace(at);
}

watch(
  () => [props.siteId, props.path],
  () => {
    tray.drop();
    tray.said = tray.problem = "";
    void page.load(props.siteId, props.path);
    void changes.load(props.siteId);
    if (site.siteId !== props.siteId || !site.view) void site.load(props.siteId);
  },
  { immediate: true },
);
watch(
  () => [page.saved, page.looks],
  () => {
    if (page.saved?.path === page.path) void measures.load(page.siteId, page.path);
  },
);
const measured = computed(() => (measures.view?.path === page.path ? measures.view : null));
const findings = computed(() =>
  [...(page.view?.findings ?? []), ...(measured.value?.findings ?? [])].sort((a, b) => a.start - b.start),
);
/** What the tabs count: what is wrong, and what is out of date in the contents. */
const counts = computed(() => {
  const blocks = page.view?.navigation.contents ?? [];
  const wrong = blocks.flatMap((block) =>
    block.entries.filter((entry) => ["stale", "gone", "doubted"].includes(entry.state)),
  );
  return {
    walk: walk.troubles,
    findings: findings.value.length,
    contents: wrong.length + blocks.reduce((sum, block) => sum + block.missing.length, 0),
  };
});

watch(
  () => page.view?.title,
  () => (document.title = `${props.path} · Humble Signpost`),
);

/** Change a section's identifier: give it, or rename it with all that refers to it. */
function identify(section: SectionView, name: string): void {
  void tray.propose(
    section.identifier
      ? { operation: "rename", page: page.path, old: section.identifier, new: name, keep_old: false }
      : { operation: "set-identifiers", page: page.path, identifiers: { [section.index]: name } },
  );
}

async function turn(entry: ChangeEntry | null): Promise<void> {
  if (!entry || page.typing) return;
  tray.drop();
  tray.said = tray.problem = "";
  await changes.turn(page.siteId, entry);
  await tray.refresh();
}

async function go(finding: FindingView): Promise<void> {
  bench.value = "source";
  page.select(finding.section);
  await nextTick();
  source.value?.goTo(finding.line, finding.column);
}

function relink(finding: FindingView, name: string): void {
  void tray.propose({ operation: "relink", page: page.path, start: finding.start, identifier: name });
}

async function showBench(which: "source" | "page"): Promise<void> {
  bench.value = which;
  await nextTick();
}

/** Do a step of the walk, in the rendered page. */
async function step(does: () => void): Promise<void> {
  await showBench("page");
  does();
}

function nextPane(): void {
  const order = [roadPane, ledgerPane, benchPane, trayPane];
  const at = order.findIndex((pane) => pane.value?.contains(document.activeElement));
  const to = (at + 1) % order.length;
  if (to === 1 && page.stage === "walk") landings.value?.focus();
  else if (to === 1 && page.stage !== "findings") ledger.value?.focus();
  else if (to === 2 && bench.value === "source") source.value?.focus();
  else
    order[to]?.value?.querySelector<HTMLElement>("[tabindex='0'], button:not(:disabled), iframe, a[href]")?.focus();
}

function openAddress(): void {
  ledgerPane.value?.querySelector<HTMLElement>("tr[aria-selected='true'] .opener")?.click();
}

const { save, dropTyped } = useDraft();
usePageKeys({
  stages: STAGES.map(([stage]) => stage),
  unable: () => locked.value !== "" || tray.busy,
  locked: () => locked.value !== "",
  choosing,
  save,
  turn,
  step,
  showBench,
  nextPane,
  openAddress,
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
  <div class="desk">
    <DeskHeader :site-id="siteId" :path="path" @turn="turn" @help="help = true" />

    <StateNote
      v-if="page.status === 'failed' && !page.view"
      kind="failed"
      title="This page cannot be shown"
      :text="page.problem"
    >
      <LinkButton :to="{ name: 'site', params: { siteId } }">To the site's desk</RouterLink>
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

    <main v-else class="panes" :style="{ '--bench': `${benchWidth}px` }">
      <aside ref="roadPane" class="pane road-pane" aria-label="Road">
        <RoadMap
          ref="road"
          :page="page.view"
          :measure="measured"
          :selected="page.selected"
          :cuts="page.cuts"
          :part-of="page.partOf"
          :window-top="walk.top"
          :walking="bench === 'page'"
          @select="choose"
          @scroll="walk.wish = $event"
        />
      </aside>

      <section ref="ledgerPane" class="pane ledger-pane" aria-label="Ledger">
        <div class="stages">
          <TabRow v-model="page.stage" :tabs="STAGES" label="Stage of work" panel="stage-panel" :counts="counts" />
        </div>
        <div id="stage-panel" role="tabpanel" :aria-labelledby="`stage-panel-${page.stage}`" class="stage-panel">
          <StageForm
            :page="page.view"
            :findings="findings.length"
            :stage="page.stage"
            :cuts="page.cuts"
            :locked="locked"
            :busy="tray.busy"
            @propose="tray.propose($event)"
            @cuts="page.setCuts($event)"
            @point="choosing.point()"
            @link="choosing.link()"
          />
          <div class="scroll">
            <FindingList
              v-if="page.stage === 'findings'"
              :findings="findings"
              can-mend
              :locked="locked !== '' || tray.busy"
              @go="go"
              @relink="relink"
            />
            <WalkTable v-else-if="page.stage === 'walk'" ref="landings" @follow="bench = 'page'" />
            <LedgerTable
              v-else-if="
                page.view.sections.length ||
                (page.stage === 'headings' &&
                  page.view.structure.lookalikes.length + page.view.structure.missing.length)
              "
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
              text="This page has no real headings, so there are no sections to point to. Make its titles h2 or h3 elements in the source, and they appear here as you type."
            >
              <el-button type="primary"
                v-if="page.view.structure.lookalikes.length"
                @click="page.stage = 'headings'"
              >
                See the {{ page.view.structure.lookalikes.length }} that look like headings
              </el-button>
              <el-button @click="showBench('source').then(() => source?.focus())">
                Open the source
              </el-button>
            </StateNote>
          </div>
        </div>
      </section>

      <PaneSplitter v-model="benchWidth" label="Room for the bench" :least="300" :most="900" />
      <section ref="benchPane" class="pane bench-pane" aria-label="Bench">
        <BenchBar
          v-model="bench"
          :locked="locked"
          @stop="choosing.leave()"
          @drop="dropTyped"
          @save="save"
          @point="choosing.point()"
        />
        <div id="bench-panel" role="tabpanel" class="bench-panel" :aria-labelledby="`bench-panel-${bench}`">
          <SourceBench v-show="bench === 'source'" ref="source" :in-sight="bench === 'source'" @save="save" />
          <PageBench
            v-if="bench === 'page'"
            @place="chosen({ start: $event })"
            @words="jumps.begin(choices.originOfWords($event.place, $event.words, $event.occurrence))"
          />
        </div>
      </section>
    </main>

    <div v-if="page.view" ref="trayPane"><TrayBar /></div>
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

.scroll {
  position: relative; /* what is there for screen readers alone stays within */
}

.panes {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: 220px minmax(360px, 1fr) 1px minmax(300px, var(--bench));
  gap: 1px;
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

.stages {
  display: flex;
  align-items: center;
  gap: 2px;
  padding: 0 8px;
  min-height: 38px;
  border-bottom: 1px solid var(--line);
  background: var(--sheet-sunk);
  flex: none;
}

.stage-panel {
  flex: 1;
  min-height: 0;
  display: flex;
  flex-direction: column;
}

.scroll {
  flex: 1;
  overflow: auto;
}

.bench-panel {
  flex: 1;
  min-height: 0;
}

@media (max-width: 1180px) {
  .panes {
    grid-template-columns: 180px minmax(360px, 1fr) 1px minmax(300px, min(var(--bench), 31%));
  }
}
</style>
