<script setup lang="ts">
/** The page as its reader sees it, in a frame without rights; our one script in it tells where the reader is. */
import { computed, onBeforeUnmount, onMounted, ref, watch } from "vue";
import { useRouter } from "vue-router";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";

const emit = defineEmits<{ place: [start: number]; words: [chosen: { place: number; words: string; occurrence: number }] }>();
const page = usePage();
const dialogs = useDialogs();
const router = useRouter();
const frame = ref<HTMLIFrameElement | null>(null);
const said = ref("");
let fromFrame = -2;
let lastTop = 0; // where the frame stood, for when it is loaded again
let lastPath = "";
let quietUntil = 0; // while the frame scrolls to where we sent it

/** How long the frame may scroll after it was sent somewhere, in milliseconds. */
const SETTLING = 250;

const encoded = computed(() => page.path.split("/").map(encodeURIComponent).join("/"));
const prefix = computed(() => `/preview/${page.siteId}/`);
const address = computed(() => (page.saved ? `${prefix.value}${encoded.value}?r=${page.saved.revision.slice(0, 12)}-${page.looks}` : ""));

function tell(message: Record<string, unknown>): void {
  quietUntil = Date.now() + SETTLING;
  frame.value?.contentWindow?.postMessage({ to: "signpost-walk", ...message }, "*");
}

function hear(event: MessageEvent): void {
  if (event.source !== frame.value?.contentWindow || event.data?.from !== "signpost-walk") return;
  const { kind, section } = event.data;
  if (kind === "ready") {
    if (page.goal) tell({ kind: "fragment", fragment: page.goal });
    else if (event.data.top > 0) lastTop = event.data.top;
    else if (lastPath === page.path && lastTop > 0) tell({ kind: "top", top: lastTop });
    else if (lastPath !== page.path && page.selected >= 0) tell({ kind: "section", section: page.selected });
    page.goal = "";
    lastPath = page.path;
    if (dialogs.pointing) tell({ kind: "point", on: true });
    if (dialogs.linking) tell({ kind: "link", on: true });
  } else if (kind === "scrolled") {
    lastTop = Number(event.data.top);
    if (Date.now() > quietUntil) take(section);
  } else if (kind === "picked") take(section);
  else if (kind === "placed" && dialogs.pointing && Number.isInteger(event.data.place)) emit("place", Number(event.data.place));
  else if (kind === "chosen" && dialogs.linking && Number.isInteger(event.data.place))
    emit("words", { place: Number(event.data.place), words: String(event.data.words).slice(0, 2000), occurrence: Number(event.data.occurrence) || 0 });
  else if (kind === "followed") follow(String(event.data.address));
}

/** Select the section that the reader has come to. */
function take(section: unknown): void {
  if (Number.isInteger(section) && section !== page.selected) page.select((fromFrame = Number(section)));
}

/** Follow a link to another page of the site; say of any other where it leads. */
function follow(target: string): void {
  const url = new URL(target);
  if (url.origin !== location.origin || !url.pathname.startsWith(prefix.value)) {
    said.value = `${target} leads out of the site, so it is not opened here.`;
    return;
  }
  const path = decodeURIComponent(url.pathname.slice(prefix.value.length));
  if (!/\.x?html?$/i.test(path)) {
    said.value = `${path} is not a page.`;
    return;
  }
  said.value = "";
  page.goal = decodeURIComponent(url.hash.slice(1));
  void router.push({ name: "page", params: { siteId: page.siteId, path } });
}

onMounted(() => window.addEventListener("message", hear));
onBeforeUnmount(() => window.removeEventListener("message", hear));
watch(
  () => page.selected,
  (selected) => {
    if (selected !== fromFrame) tell({ kind: "section", section: selected });
    fromFrame = -2;
  },
);
watch(address, () => (said.value = ""));
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
    <p v-if="said" class="small said" role="status">{{ said }}</p>
    <iframe v-if="address" ref="frame" :src="address" sandbox="allow-scripts" referrerpolicy="no-referrer" :title="`${page.path} as its reader sees it`" />
  </div>
</template>

<style scoped>
.page-bench {
  display: flex;
  flex-direction: column;
  height: 100%;
}

iframe {
  flex: 1;
  width: 100%;
  border: 0;
  background: #fff;
}

.said {
  padding: 6px 10px;
  background: var(--wait-wash);
  overflow-wrap: anywhere;
}
</style>
