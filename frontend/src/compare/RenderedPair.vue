<script setup lang="ts">
/** Both pages as their readers see them, in windows of one size and at one zoom; scrolled together. */
import { useEventListener, useResizeObserver } from "@vueuse/core";
import { computed, ref, watch } from "vue";
import type { CompareView, PairView, Window } from "../api/client";
import { previewAddress } from "../measuring/frame";

const props = defineProps<{
  siteId: string;
  compared: CompareView;
  window: Window;
  zoom: number;
  chosen: PairView | null;
}>(); // zoom 0: as fits
const frames = [ref<HTMLIFrameElement | null>(null), ref<HTMLIFrameElement | null>(null)];
const room = ref<HTMLElement | null>(null);
const space = ref({ width: 1200, height: 600 });
const together = ref(true);
let led = -1; // the side that the other one follows
let until = 0;

/** How long a frame that was sent somewhere does not lead the other one, in milliseconds. */
const SETTLING = 300;

const sides = computed(() => [props.compared.left, props.compared.right]);
const address = (at: number) => {
  const side = sides.value[at];
  return side ? previewAddress(props.siteId, side.path, props.window, side.revision.slice(0, 12), side.revision) : "";
};
const scale = computed(
  () =>
    props.zoom ||
    Math.min(1, (space.value.width - 12) / 2 / props.window.width, space.value.height / props.window.height),
);
const size = computed(() => ({
  width: `${props.window.width}px`,
  height: `${props.window.height}px`,
  transform: `scale(${scale.value})`,
}));
const outer = computed(() => ({
  width: `${props.window.width * scale.value}px`,
  height: `${props.window.height * scale.value}px`,
}));

const tell = (at: number, message: Record<string, unknown>) =>
  frames[at]?.value?.contentWindow?.postMessage({ to: "signpost-walk", ...message }, "*");

/** Lead the other side to the counterpart of the section that one side was scrolled to. */
function hear(event: MessageEvent): void {
  const at = frames.findIndex((frame) => frame.value?.contentWindow === event.source);
  if (at < 0 || event.data?.from !== "signpost-walk") return;
  if (event.data.kind === "ready") show();
  if (event.data.kind !== "scrolled" || !together.value || (at === led && Date.now() < until)) return;
  const section = event.data.section;
  if (!Number.isInteger(section)) return;
  const pair = props.compared.pairs.find((found) => (at ? found.right : found.left)?.index === section);
  const other = at ? pair?.left : pair?.right;
  if (section >= 0 && !other) return;
  led = 1 - at;
  until = Date.now() + SETTLING;
  tell(1 - at, { kind: "section", section: section < 0 ? -1 : other?.index });
}

function show(): void {
  led = -1;
  const pair = props.chosen;
  if (pair?.left) tell(0, { kind: "section", section: pair.left.index });
  if (pair?.right) tell(1, { kind: "section", section: pair.right.index });
}

useResizeObserver(room, ([entry]) => {
  if (entry) space.value = { width: entry.contentRect.width, height: entry.contentRect.height };
});
useEventListener(window, "message", hear);
watch(() => props.chosen, show);
</script>

<template>
  <div class="rendered">
    <el-checkbox class="small together" v-model="together">scroll both to the same section</el-checkbox>
    <div ref="room" class="room">
      <div v-for="(side, at) in sides" :key="at" class="outer" :style="outer">
        <iframe
          :ref="frames[at]"
          :src="address(at)"
          :style="size"
          sandbox="allow-scripts"
          referrerpolicy="no-referrer"
          :title="`${side.path}, ${at ? 'right' : 'left'}`"
        />
      </div>
    </div>
  </div>
</template>

<style scoped>
.rendered {
  display: flex;
  flex-direction: column;
  height: 100%;
}

.together {
  display: flex;
  gap: 6px;
  padding: 6px 12px;
}

.room {
  flex: 1;
  min-height: 0;
  display: flex;
  gap: 12px;
  justify-content: safe center;
  overflow: auto;
  padding: 0 12px 12px;
}

.outer {
  flex: none;
  overflow: hidden;
  box-shadow: 0 0 0 1px var(--line-strong);
  background: #fff;
}

iframe {
  display: block;
  border: 0;
  transform-origin: 0 0;
}
</style>
