<script setup lang="ts">
/** Two pages, or two revisions of one, side by side: outlines, sources, and as readers see them. */
import { computed, ref, watch } from "vue";
import { useRouter } from "vue-router";
import { api, data, detailOf, type CompareView, type NamedWindow, type PairView } from "../api/client";
import OutlinePairs from "../compare/OutlinePairs.vue";
import RenderedPair from "../compare/RenderedPair.vue";
import SidePicker from "../compare/SidePicker.vue";
import AppBar from "../components/AppBar.vue";
import DiffLines from "../components/DiffLines.vue";
import StateNote from "../components/StateNote.vue";
import PickOne from "../components/PickOne.vue";
import { counted } from "../text/count";
import { useSite } from "../stores/site";

const props = defineProps<{
  siteId: string;
  left: string;
  leftRevision: string;
  right: string;
  rightRevision: string;
}>();
type Look = "outline" | "source" | "rendered";
const LOOKS: { value: Look; label: string }[] = [
  { value: "outline", label: "Outlines" },
  { value: "source", label: "Sources" },
  { value: "rendered", label: "Rendered" },
];
const ZOOMS = [
  { value: 0, words: "as fits" },
  { value: 1, words: "100 %" },
  { value: 0.75, words: "75 %" },
  { value: 0.5, words: "50 %" },
];

const site = useSite();
const router = useRouter();
const look = ref<Look>("outline");
const all = ref(true);
const compared = ref<CompareView | null>(null);
const problem = ref("");
const windows = ref<NamedWindow[]>([]);
const windowAt = ref(0);
const zoom = ref(0);
const chosen = ref<PairView | null>(null);
let asked = 0;

const windowChoices = computed(() =>
  windows.value.map((named, value) => ({
    value,
    words: `${named.name} ${named.window.width} × ${named.window.height}`,
  })),
);
const pathLeft = computed({ get: () => props.left, set: (to) => go({ left: to, lr: "" }) });
const pathRight = computed({ get: () => props.right, set: (to) => go({ right: to, rr: "" }) });
const revisionLeft = computed({ get: () => props.leftRevision, set: (to) => go({ lr: to }) });
const revisionRight = computed({ get: () => props.rightRevision, set: (to) => go({ rr: to }) });

function go(change: Record<string, string>): void {
  const query = { left: props.left, lr: props.leftRevision, right: props.right, rr: props.rightRevision, ...change };
  void router.replace({
    name: "compare",
    params: { siteId: props.siteId },
    query: Object.fromEntries(Object.entries(query).filter(([, value]) => value)),
  });
}

const swap = () => go({ left: props.right, lr: props.rightRevision, right: props.left, rr: props.leftRevision });

const isChosen = computed(() => Boolean(props.left && props.right));

async function load(): Promise<void> {
  const mine = ++asked;
  if (!isChosen.value) return;
  problem.value = "";
  chosen.value = null;
  try {
    const found = await data(
      api.GET("/api/sites/{site_id}/comparison", {
        params: {
          path: { site_id: props.siteId },
          query: {
            left: props.left,
            right: props.right,
            left_revision: props.leftRevision || undefined,
            right_revision: props.rightRevision || undefined,
          },
        },
      }),
    );
    if (mine === asked) compared.value = found;
  } catch (error) {
    if (mine === asked) problem.value = detailOf(error);
  }
}

function choose(pair: PairView): void {
  chosen.value = pair;
  look.value = "rendered";
}

/** A page opened beside itself is compared with what was brought in. */
async function begin(): Promise<void> {
  if (!isChosen.value || props.left !== props.right || props.leftRevision || props.rightRevision) return load();
  try {
    const params = { path: { site_id: props.siteId }, query: { path: props.right } };
    const first = (await data(api.GET("/api/sites/{site_id}/revisions", { params }))).at(-1);
    if (first && !first.current) go({ lr: first.revision });
    else await load();
  } catch (error) {
    problem.value = detailOf(error);
  }
}

void begin();
watch(() => [props.siteId, props.left, props.leftRevision, props.right, props.rightRevision], load);
watch(
  () => props.siteId,
  async (id) => {
    if (site.siteId !== id || !site.view) void site.load(id);
    try {
      windows.value = (
        await data(api.GET("/api/sites/{site_id}/windows", { params: { path: { site_id: id } } }))
      ).windows;
    } catch (error) {
      problem.value = detailOf(error);
    }
  },
  { immediate: true },
);
watch(
  () => [props.left, props.right],
  () => (document.title = `Compare ${props.left} · Humble Signpost`),
  { immediate: true },
);

const name = (newline: string) => ({ "\n": "LF", "\r\n": "CRLF", "\r": "CR" })[newline] ?? newline;
const forms = computed(() => {
  const { left, right } = compared.value ?? {};
  if (!left || !right) return "";
  const of = (side: typeof left) => `${side.encoding}, ${name(side.newline)}`;
  return of(left) === of(right) ? "" : `Written as ${of(left)} on the left, ${of(right)} on the right.`;
});
const counts = computed(() => {
  const found = compared.value;
  if (!found) return [];
  return [
    [found.changed ? counted(found.changed, "section differs", "sections differ") : "", ""],
    [
      found.sections.left || found.sections.right ? "sections" : "",
      `${found.sections.left} only left, ${found.sections.right} only right`,
    ],
    [
      found.identifiers.left || found.identifiers.right ? "identifiers" : "",
      `${found.identifiers.left} only left, ${found.identifiers.right} only right`,
    ],
    [
      found.links.left || found.links.right ? "links" : "",
      `${found.links.left} only left, ${found.links.right} only right`,
    ],
    [
      found.lines.left || found.lines.right ? "lines of source" : "",
      `${found.lines.left} only left, ${found.lines.right} only right`,
    ],
    [
      found.left.words !== found.right.words ? "words" : "",
      `${found.left.words.toLocaleString()} left, ${found.right.words.toLocaleString()} right`,
    ],
  ].filter(([what]) => what);
});
</script>

<template>
  <div class="desk">
    <AppBar>
      <template #trail>
        <el-breadcrumb>
          <el-breadcrumb-item :to="{ name: 'site', params: { siteId } }">{{
            site.view?.name ?? "Site"
          }}</el-breadcrumb-item>
          <el-breadcrumb-item v-if="right" :to="{ name: 'page', params: { siteId, path: right } }">{{
            right
          }}</el-breadcrumb-item>
          <el-breadcrumb-item><h1>Compare</h1></el-breadcrumb-item>
        </el-breadcrumb>
      </template>
    </AppBar>
    <div class="choices">
      <SidePicker
        v-model:path="pathLeft"
        v-model:revision="revisionLeft"
        :site-id="siteId"
        side="Left"
        @problem="problem = $event"
      />
      <el-button title="Left and right change places" @click="swap">
        ⇄<span class="unseen">Swap left and right</span>
      </el-button>
      <SidePicker
        v-model:path="pathRight"
        v-model:revision="revisionRight"
        :site-id="siteId"
        side="Right"
        @problem="problem = $event"
      />
    </div>
    <p v-if="compared" class="counts small" role="status">
      <template v-if="!counts.length">Nothing differs.</template>
      <span v-for="[what, how] in counts" :key="what"
        ><strong>{{ what }}</strong> {{ how }}</span
      >
      <span v-if="forms" class="soft">{{ forms }}</span>
    </p>
    <div v-if="isChosen" class="looks">
      <el-segmented v-model="look" :options="LOOKS" aria-label="How they are compared" />
      <el-checkbox v-if="look === 'outline'" v-model="all">Show what is the same</el-checkbox>
      <template v-if="look === 'rendered'">
        <PickOne v-model="windowAt" :choices="windowChoices" label="Window" size="default" :width="190" />
        <PickOne v-model="zoom" :choices="ZOOMS" label="Zoom" size="default" :width="100" />
      </template>
    </div>
    <main class="panel" tabindex="-1">
      <StateNote
        v-if="!isChosen"
        kind="empty"
        title="Choose two pages"
        text="They are compared as soon as both are chosen above; or two revisions of one page."
      />
      <StateNote v-else-if="problem" kind="failed" title="These cannot be compared" :text="problem"
        ><el-button @click="load()">Try again</el-button></StateNote
      >
      <StateNote v-else-if="!compared" kind="loading" title="Comparing…" />
      <OutlinePairs v-else-if="look === 'outline'" :pairs="compared.pairs" :all="all" @choose="choose" />
      <template v-else-if="look === 'source'">
        <DiffLines v-if="compared.diff" :diff="compared.diff" note="" />
        <StateNote v-else kind="empty" title="The sources are the same" text="Not one character differs." />
      </template>
      <RenderedPair
        v-else-if="windows[windowAt]"
        :site-id="siteId"
        :compared="compared"
        :window="windows[windowAt]!.window"
        :zoom="zoom"
        :chosen="chosen"
      />
    </main>
  </div>
</template>

<style scoped>
.desk {
  display: flex;
  flex-direction: column;
  height: 100%;
  overflow: hidden;
}

.choices {
  display: flex;
  align-items: center;
  justify-content: center;
  gap: 14px;
  padding: 10px 12px;
  background: var(--sheet);
}

.counts {
  display: flex;
  flex-wrap: wrap;
  justify-content: center;
  gap: 2px 18px;
  padding: 0 12px 8px;
  background: var(--sheet);
}

.looks {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 40px;
  padding: 0 12px;
  border-block: 1px solid var(--line);
  background: var(--sheet-sunk);
}

.panel {
  position: relative; /* what is there for screen readers alone stays within */
  flex: 1;
  min-height: 0;
  overflow: auto;
  background: var(--sheet);
}
</style>
