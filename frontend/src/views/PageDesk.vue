<script setup lang="ts">
/** The desk of one page: road, ledger, bench, tray. */
import { computed, nextTick, onBeforeUnmount, onMounted, ref, watch } from "vue";
import { useStorage } from "@vueuse/core";
import { onBeforeRouteLeave, onBeforeRouteUpdate, RouterLink } from "vue-router";
import { type ChangeEntry, type FindingView, type SectionView } from "../api/client";
import BenchBar from "../bench/BenchBar.vue";
import PageBench from "../bench/PageBench.vue";
import SourceBench from "../bench/SourceBench.vue";
import AppBar from "../components/AppBar.vue";
import ChangeList from "../components/ChangeList.vue";
import FindingList from "../components/FindingList.vue";
import KeyHelp from "../components/KeyHelp.vue";
import PageFacts from "../components/PageFacts.vue";
import PaneSplitter from "../components/PaneSplitter.vue";
import SignIcon from "../components/SignIcon.vue";
import StateNote from "../components/StateNote.vue";
import TabRow from "../components/TabRow.vue";
import TakeOut from "../components/TakeOut.vue";
import TrayBar from "../components/TrayBar.vue";
import RoadMap from "../road/RoadMap.vue";
import WalkTable from "../walk/WalkTable.vue";
import StageForm from "../forms/StageForm.vue";
import LedgerTable from "../ledger/LedgerTable.vue";
import DeskDialogs from "../dialogs/DeskDialogs.vue";
import { useChoosing } from "../composables/useChoosing";
import { useHeadings } from "../composables/useHeadings";
import { useJumps } from "../composables/useJumps";
import { useKeys } from "../composables/useKeys";
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
  ["back-to-top", "Ways back"],
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
const headings = useHeadings();
const jumps = useJumps();
const measures = useMeasures();
const walk = useWalk();
const bench = ref<"source" | "page">("page");
const help = ref(false);
const listing = ref(false);
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

/** Show what was typed as edits; where they are shown already, apply them. */
async function save(): Promise<void> {
  const text = page.draft;
  if (text === null) return;
  const waiting = tray.request;
  if (waiting?.operation === "type" && waiting.text === text && tray.waits) {
    await tray.apply();
    return;
  }
  await tray.propose({ operation: "type", page: page.path, text });
  if (tray.plan && !tray.plan.edits) page.dropDraft();
}

function dropTyped(): void {
  if (tray.request?.operation === "type") tray.drop();
  page.dropDraft();
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

/** A key that works on headings, at their stage alone. */
const onHeadings = (does: () => void) => () => {
  if (page.stage !== "headings" || locked.value || tray.busy) return false;
  does();
};

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

const levelKeys = Object.fromEntries(
  [1, 2, 3, 4, 5, 6].map((level) => [String(level), onHeadings(() => headings.setLevel(level))]),
);
const stageKeys = Object.fromEntries(STAGES.map(([stage], at) => [`Alt+${at + 1}`, () => void (page.stage = stage)]));

useKeys(
  {
    ...stageKeys,
    "Mod+Enter": () => void tray.apply(),
    "Mod+s": () => void save(),
    F6: nextPane,
  },
  {
    "Mod+z": () => void turn(changes.undoable),
    "Mod+Shift+z": () => void turn(changes.redoable),
    "Mod+y": () => void turn(changes.redoable),
    ...levelKeys,
    "<": onHeadings(() => headings.shift(-1)),
    ">": onHeadings(() => headings.shift(1)),
    "Shift+ArrowUp": onHeadings(() => headings.move("up")),
    "Shift+ArrowDown": onHeadings(() => headings.move("down")),
    "Shift+ArrowLeft": onHeadings(() => headings.move("out")),
    "Shift+ArrowRight": onHeadings(() => headings.move("in")),
    i: () => {
      if (!locked.value) void choosing.point();
    },
    l: () => {
      if (!locked.value) void choosing.link();
    },
    Escape: () => {
      if (!choosing.leave()) tray.drop();
    },
    "?": () => void (help.value = true),
    d: () => void (tray.open = !tray.open),
    e: () => void showBench("source"),
    p: () => void showBench("page"),
    c: openAddress,
    n: () => void step(() => walk.go(1)),
    "Shift+n": () => void step(() => walk.go(-1)),
    x: () => void step(() => walk.goTrouble(1)),
    "Shift+x": () => void step(() => walk.goTrouble(-1)),
    b: () => void step(() => walk.back()),
    z: () => road.value?.turnZoom(),
    j: () => choose(page.selected + 1),
    k: () => choose(page.selected - 1),
    ArrowDown: () => choose(page.selected + 1),
    ArrowUp: () => choose(page.selected - 1),
    Enter: (event) => {
      if (event.target !== document.body) return false;
      ledger.value?.editSelected();
    },
  },
);

const leaving = () => !page.typing || window.confirm("What you typed in the source is not saved yet. Leave it?");
onBeforeRouteLeave(leaving);
onBeforeRouteUpdate((to, from) => to.params.path === from.params.path || leaving());
const beforeUnload = (event: BeforeUnloadEvent) => page.typing && event.preventDefault();
onMounted(() => window.addEventListener("beforeunload", beforeUnload));
onBeforeUnmount(() => {
  window.removeEventListener("beforeunload", beforeUnload);
  dialogs.close();
  choosing.leave();
  page.dropDraft();
});
</script>

<template>
  <div class="desk">
    <AppBar>
      <template #trail>
        <RouterLink class="crumb" :to="{ name: 'site', params: { siteId } }">{{
          site.view?.name ?? "Site"
        }}</RouterLink>
        <span class="soft" aria-hidden="true">/</span>
        <h1 class="crumb here">{{ path }}</h1>
        <PageFacts v-if="page.view" :page="page.view" />
      </template>
      <button
        type="button"
        class="button quiet"
        :disabled="!changes.undoable || page.typing"
        :title="changes.undoable ? `Undo: ${changes.undoable.title}` : 'Nothing to undo'"
        @click="turn(changes.undoable)"
      >
        <SignIcon name="undo" /> Undo
      </button>
      <button
        type="button"
        class="button quiet"
        :disabled="!changes.redoable || page.typing"
        :title="changes.redoable ? `Redo: ${changes.redoable.title}` : 'Nothing to redo'"
        @click="turn(changes.redoable)"
      >
        <SignIcon name="redo" /> Redo
      </button>
      <button type="button" class="button quiet" @click="listing = true"><SignIcon name="list" /> Changes</button>
      <TakeOut :site-id="siteId" :changed="site.view?.changed ?? 0" />
      <button type="button" class="button quiet icon" aria-label="Keys" title="Keys (?)" @click="help = true">
        <SignIcon name="keys" />
      </button>
    </AppBar>

    <StateNote
      v-if="page.status === 'failed' && !page.view"
      kind="failed"
      title="This page cannot be shown"
      :text="page.problem"
    >
      <RouterLink class="button" :to="{ name: 'site', params: { siteId } }">To the site's desk</RouterLink>
      <button type="button" class="button" @click="page.reload()">Try again</button>
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
              :site-id="siteId"
              :selected="page.selected"
              :stage="page.stage"
              :cuts="page.cuts"
              :part-of="page.partOf"
              :locked="locked !== '' || tray.busy"
              @select="choose"
              @identify="identify"
              @cut="page.toggleCut($event)"
            />
            <StateNote
              v-else
              kind="empty"
              title="No headings yet"
              text="This page has no real headings, so there are no sections to point to. Make its titles h2 or h3 elements in the source, and they appear here as you type."
            >
              <button
                v-if="page.view.structure.lookalikes.length"
                type="button"
                class="button main"
                @click="page.stage = 'headings'"
              >
                See the {{ page.view.structure.lookalikes.length }} that look like headings
              </button>
              <button type="button" class="button" @click="showBench('source').then(() => source?.focus())">
                Open the source
              </button>
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
    <el-dialog v-model="listing" title="Changes" width="560">
      <ChangeList :entries="changes.entries" :path="path" @turn="turn" />
      <p class="compare">
        <RouterLink class="button" :to="{ name: 'compare', params: { siteId }, query: { right: path } }"
          >Compare revisions…</RouterLink
        >
      </p>
    </el-dialog>
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

.compare {
  padding-top: 12px;
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
