<script setup lang="ts">
/** The page as its reader sees it, in a frame without rights; our scripts in it tell where the reader is. */
import { useDebounceFn, useEventListener, useResizeObserver } from "@vueuse/core";
import { computed, nextTick, ref, shallowRef, watch } from "vue";
import { useRouter } from "vue-router";
import type { FindingView } from "../api/client";
import { gravestFirst } from "../findings/groups";
import { previewAddress } from "../measuring/frame";
import { decoded } from "../text/percent";
import { letterKeys, shownBindings } from "../composables/useKeys";
import { useBench } from "../stores/bench";
import { useDialogs } from "../stores/dialogs";
import { useMeasures } from "../stores/measures";
import { usePage } from "../stores/page";
import { useStages } from "../stores/stages";
import { keyOfLanding, useWalk } from "../stores/walk";
import FindingsHere from "./FindingsHere.vue";
import { anchorsOf, lineOfTop } from "./sync";
import WalkBar from "./WalkBar.vue";
import WalkLine from "./WalkLine.vue";

const emit = defineEmits<{
  place: [start: number];
  finding: [found: FindingView];
  words: [chosen: { place: number; words: string; occurrence: number }];
}>();
const page = usePage();
const measures = useMeasures();
const walk = useWalk();
const stages = useStages();
const dialogs = useDialogs();
const router = useRouter();
const bench = useBench();
const form = ref<HTMLFormElement | null>(null);
const rendered = ref(""); // the draft that is shown; "" for the page as it is saved
const again = ref(0); // goes up where the page is shown anew though its address is the same
const frame = ref<HTMLIFrameElement | null>(null);
const room = ref<HTMLElement | null>(null);
const space = ref({ width: 440, height: 560 });
const about = ref<number | null>(null); // start of the link under the pointer
const notice = ref("");
const here = shallowRef<FindingView[]>([]); // what is wrong where the reader clicked
let ready = false;
let fromFrame = -2;
let lastTop = 0; // where the frame was, for when it is loaded again
let lastPath = "";
let quietUntil = 0; // while the frame scrolls to where we sent it
let backTo: number | null = null; // where the frame goes once the page is there again

/** How long the frame may scroll after it was sent somewhere, in milliseconds. */
const SETTLING = 250;
/** How long typing pauses before the draft is rendered, in milliseconds. */
const DRAFT_PAUSE = 500;
const keyNames = computed(() => shownBindings.value.flatMap((binding) => binding.keys));
/** How long a link is shown before it is followed, in milliseconds. */
const PAUSE = 350;

/** What the addresses of the site's files begin with in the frame; where one signs in, it contains a pass as well. */
const prefix = computed(() => new RegExp(`^/preview/${page.siteId}(?:\\.[^/]*)?/`));
const address = computed(() =>
  page.saved
    ? previewAddress(
        page.siteId,
        page.path,
        measures.window,
        `${page.saved.revision.slice(0, 12)}-${page.looks}-${again.value}`,
      )
    : "",
);
/** How large the window is drawn: as a whole, or as wide as there is room where the source takes the height. */
const scale = computed(() => {
  const wide = Math.min(1, space.value.width / measures.window.width);
  const cropped = bench.layout === "both" && bench.stacked;
  return cropped ? wide : Math.min(wide, space.value.height / measures.window.height);
});
const size = computed(() => ({
  width: `${measures.window.width}px`,
  height: `${measures.window.height}px`,
  transform: `scale(${scale.value})`,
}));
const outer = computed(() => ({
  width: `${measures.window.width * scale.value}px`,
  height: `${measures.window.height * scale.value}px`,
}));
const aboutLink = computed(() => page.saved?.links.find((link) => link.start === about.value) ?? null);

useResizeObserver(room, ([entry]) => {
  if (entry)
    space.value = { width: Math.max(entry.contentRect.width, 100), height: Math.max(entry.contentRect.height, 100) };
});

function tell(message: Record<string, unknown>): void {
  quietUntil = Date.now() + SETTLING;
  frame.value?.contentWindow?.postMessage({ to: "signpost-walk", ...message }, "*");
}

function hear(event: MessageEvent): void {
  if (event.source !== frame.value?.contentWindow || event.data?.from !== "signpost-walk") return;
  const { kind, section } = event.data;
  if (kind === "ready") begin(Number(event.data.top));
  else if (kind === "scrolled") {
    walk.top = lastTop = Number(event.data.top);
    if (Date.now() > quietUntil) take(section);
    if (Date.now() > quietUntil) leadSource(lastTop);
  } else if (kind === "landed") land(event.data.start, Number(event.data.top));
  else if (kind === "picked") {
    quietUntil = Date.now() + SETTLING; // the page may have been scrolled a moment ago
    take(section);
  } else if (kind === "placed" && dialogs.pointing && Number.isInteger(event.data.place))
    emit("place", Number(event.data.place));
  else if (kind === "chosen" && dialogs.linking && Number.isInteger(event.data.place))
    emit("words", {
      place: Number(event.data.place),
      words: String(event.data.words),
      occurrence: Number(event.data.occurrence),
    });
  else if (kind === "found") here.value = [].concat(event.data.found).flatMap((index) => marked.value[index] ?? []);
  else if (kind === "about") about.value = Number.isInteger(event.data.start) ? Number(event.data.start) : null;
  else if (kind === "key") press(event.data);
  else if (kind === "followed") leave(String(event.data.address), event.data.start);
}

/** A key was pressed in the page: let the desk have it, outside the frame. */
function press(told: Record<string, unknown>): void {
  const pressed = {
    key: String(told.key),
    code: String(told.code),
    shiftKey: Boolean(told.shift),
    ctrlKey: Boolean(told.ctrl),
    metaKey: Boolean(told.meta),
    altKey: Boolean(told.alt),
  };
  room.value?.dispatchEvent(new KeyboardEvent("keydown", { ...pressed, bubbles: true, cancelable: true }));
}

/** What is marked on the page: its findings, while its author looks at them; the gravest first. */
const marked = computed(() => (page.stage === "findings" ? gravestFirst(stages.findings) : []));

function mark(): void {
  const style = getComputedStyle(document.documentElement);
  const colours = { error: "--wrong", warning: "--wait", advice: "--ink-soft" } as Record<string, string>;
  const colourOf = (severity: string) => style.getPropertyValue(colours[severity] ?? "--ink-soft").trim();
  tell({
    kind: "findings",
    findings: marked.value.map((one) => ({ start: one.start, colour: colourOf(one.severity) })),
  });
}

/** Let the source follow what was scrolled to here. */
function leadSource(top: number): void {
  const { view } = measures;
  if (!page.view || !view || view.path !== page.path || !bench.leads("page")) return;
  bench.line = lineOfTop(anchorsOf(page.view, view), top);
}

/** Show the draft as its reader would see it; the frame gets it as a form's answer, and keeps its place. */
const showDraft = useDebounceFn(async () => {
  if (page.draft === null || page.draft === rendered.value || !page.saved) return;
  rendered.value = page.draft;
  ready = false;
  await nextTick();
  form.value?.submit();
}, DRAFT_PAUSE);

/** The page is there: go where the reader is meant to be. */
function begin(top: number): void {
  ready = true;
  tell({ kind: "keys", names: letterKeys.value ? keyNames.value : keyNames.value.filter((name) => name.length > 1) });
  if (page.goal) tell({ kind: "fragment", fragment: page.goal });
  else if (backTo !== null) tell({ kind: "scroll", top: backTo });
  else if (waiting()) followStep();
  else if (top > 0) lastTop = top;
  else if (lastPath === page.path && lastTop > 0) tell({ kind: "top", top: lastTop });
  else if (lastPath !== page.path && page.selected >= 0) tell({ kind: "section", section: page.selected });
  page.goal = "";
  backTo = null;
  lastPath = page.path;
  if (marked.value.length) mark();
  if (dialogs.pointing) tell({ kind: "point", on: true });
  if (dialogs.linking) tell({ kind: "link", on: true });
}

/** Select the section that the reader has come to. */
function take(section: unknown): void {
  if (Number.isInteger(section) && section !== page.selected) page.select((fromFrame = Number(section)));
}

/** A jump has ended: say where, and select what it led to. */
function land(start: unknown, top: number): void {
  walk.top = lastTop = top;
  quietUntil = Date.now() + SETTLING;
  const found = walk.all.find((landing) =>
    Number.isInteger(start)
      ? landing.page === page.path && landing.start === start
      : keyOfLanding(landing) === walk.chosen,
  );
  if (!found) return;
  walk.chosen = keyOfLanding(found);
  walk.landed = { key: walk.chosen, top };
  if (found.to_page === page.path) take(found.to_section);
}

let turned = 0; // the last link that was asked for and followed
const waiting = () => walk.turn !== turned && walk.step !== null && walk.step.page === page.path;

/** Follow the link that was asked for, on whatever page of the site it is. */
function followStep(): void {
  const step = walk.step;
  if (!step) return;
  if (step.page !== page.path) {
    void router.push({ name: "page", params: { siteId: page.siteId, path: step.page } });
    return;
  }
  if (!ready) return;
  turned = walk.turn;
  notice.value = "";
  tell({ kind: "follow", start: step.start, begin: step.begin, pause: PAUSE });
}

/** Follow a link to another page of the site; say of any other what it is. */
function leave(target: string, start: unknown): void {
  const link = page.saved?.links.find((found) => found.start === start);
  if (!URL.canParse(target)) {
    about.value = link?.start ?? null;
    return;
  }
  const url = new URL(target);
  const own = prefix.value.exec(url.pathname);
  const path = own ? decoded(url.pathname.slice(own[0].length)) : null;
  const there = link?.to_page ?? path;
  if (url.origin !== location.origin || path === null || there === null || !/\.x?html?$/i.test(there)) {
    about.value = link?.start ?? null;
    if (!link) notice.value = `${target} leads out of the site, so it is not opened here.`;
    return;
  }
  const key = `${page.path} ${String(start)}`;
  if (walk.chosen !== key || walk.landed) walk.trail = [...walk.trail, { path: page.path, top: lastTop }]; // else the walk did
  walk.chosen = key;
  walk.landed = null;
  page.goal = decoded(url.hash.slice(1));
  if (there !== page.path) void router.push({ name: "page", params: { siteId: page.siteId, path: there } });
}

function goBack(): void {
  const last = walk.trail.at(-1);
  if (!last) return;
  walk.trail = walk.trail.slice(0, -1);
  walk.landed = null;
  if (last.path === page.path) tell({ kind: "scroll", top: last.top });
  else {
    backTo = last.top;
    void router.push({ name: "page", params: { siteId: page.siteId, path: last.path } });
  }
}

useEventListener(window, "message", hear);
watch(
  () => page.selected,
  (selected) => {
    if (selected !== fromFrame && !bench.isLed("page")) tell({ kind: "section", section: selected });
    fromFrame = -2;
  },
);
watch(
  () => page.pointed,
  (place) => {
    if (place && ready) tell({ kind: "place", start: place.start });
  },
);
watch(marked, (now) => {
  // what was measured meanwhile comes on top; what the author is reading stays while it is still so
  here.value = here.value.flatMap((one) => now.find((two) => two.rule === one.rule && two.start === one.start) ?? []);
  if (ready) mark();
});
watch(
  () => page.draft,
  (draft) => {
    if (draft !== null) void showDraft();
    else if (rendered.value) again.value++; // saved or discarded: the page itself is shown again
    if (draft === null) rendered.value = "";
  },
  { immediate: true },
);
watch(address, () => {
  ready = false;
  notice.value = "";
  about.value = null;
});
watch(() => walk.turn, followStep);
watch(() => walk.backTurn, goBack);
watch(
  () => walk.wish,
  (top) => {
    if (top !== null) tell({ kind: "scroll", top });
  },
);
watch(
  () => dialogs.pointing,
  (on) => tell({ kind: "point", on }),
);

watch(
  () => dialogs.linking,
  (on) => tell({ kind: "link", on }),
);

defineExpose({ focus: () => frame.value?.focus() });
</script>

<template>
  <div class="page-bench">
    <WalkBar />
    <div ref="room" class="room">
      <div class="outer" :style="outer">
        <iframe
          v-if="address"
          ref="frame"
          :src="address"
          name="signpost-page"
          :style="size"
          sandbox="allow-scripts"
          referrerpolicy="no-referrer"
          :title="`${page.path} as its reader sees it`"
        />
      </div>
    </div>
    <form ref="form" hidden method="post" target="signpost-page" :action="address">
      <textarea name="text" :value="rendered" aria-label="Draft" />
    </form>
    <FindingsHere v-if="here.length" :findings="here" @close="here = []" @go="emit('finding', $event)" />
    <div class="below"><WalkLine :about="aboutLink" :notice="notice" /></div>
  </div>
</template>

<style scoped>
.page-bench {
  display: flex;
  flex-direction: column;
  height: 100%;
}

/* the line below has room for one row, and rises over the page where it needs more */
.below {
  position: relative;
  flex: none;
  height: 28px;
}

.room {
  flex: 1;
  min-height: 0;
  padding: 4px;
  display: flex;
  justify-content: safe center;
  overflow: hidden auto;
}

.outer {
  flex: none;
  position: relative;
  overflow: hidden;
  outline: 1px solid var(--line-strong);
  background: #fff;
}

iframe {
  display: block;
  border: 0;
  background: #fff;
  transform-origin: 0 0;
}
</style>
