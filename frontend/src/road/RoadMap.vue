<script setup lang="ts">
/** The road: the page from top to bottom, to scale; picture and navigator at once. */
import { useResizeObserver } from "@vueuse/core";
import { computed, nextTick, ref, watch } from "vue";
import type { MeasureView } from "../api/client";
import { verdictOf } from "../walk/words";
import { fitted } from "./fitted";
import { arcPath, layRoad, type Arc, type RoadPage } from "./layout";
import RoadLegend from "./RoadLegend.vue";
import { useCutDrag, type CutLine, type CutPlace } from "./useCutDrag";
import { useLinkDrag } from "./useLinkDrag";
import { useWindowDrag } from "./useWindowDrag";

const props = defineProps<{
  page: RoadPage;
  measure: MeasureView | null;
  selected: number;
  cuts: readonly CutLine[];
  places: readonly CutPlace[]; // where a cut may go
  windowTop: number; // where the walk's window is, in the page's pixels
  walking: boolean; // whether there is a rendered page to scroll
  width: number; // of the pane, in CSS pixels
  linked: boolean; // whether its sections can be linked by dragging: not those of other parts
}>();
const emit = defineEmits<{
  select: [index: number];
  scroll: [top: number];
  moveCut: [from: number, to: number];
  removeCut: [at: number];
  lead: [link: number, section: number]; // a link, by where it begins, dropped onto a section
}>();

/** Room at the right for arcs, and for the scroll bar, in CSS pixels. */
const ARC_ROOM = 34;
const BAR_ROOM = 12;
/** What the tag of a cut takes at the right edge. */
const TAG_ROOM = 46;
const roadWidth = computed(() => props.width - BAR_ROOM);
const arcAt = computed(() => roadWidth.value - ARC_ROOM);
/** How many arcs are drawn faintly; where there are more, they are thinned. */
const MOST_FAINT = 150;
/** How far outside the part in sight pieces are drawn, in CSS pixels. */
const MARGIN = 400;

const scroller = ref<HTMLElement | null>(null);
const space = ref(600);
const seen = ref(0); // how far the road is scrolled
const zoomed = ref<number | null>(null); // the section that is drawn alone
useResizeObserver(scroller, ([entry]) => {
  if (entry) space.value = Math.floor(entry.contentRect.height) - 12;
});

const zoom = computed(() => {
  const place =
    zoomed.value === null ? undefined : props.measure?.stretches.find((stretch) => stretch.index === zoomed.value);
  return place && place.height > 0 ? { top: place.top, bottom: place.top + place.height } : null;
});
const road = computed(() =>
  layRoad(props.page, props.measure, Math.max(space.value, 200), zoom.value, props.selected),
);
const near = (top: number, bottom: number) => bottom > seen.value - MARGIN && top < seen.value + space.value + MARGIN;
const stretches = computed(() =>
  road.value.stretches.filter(
    (stretch) => stretch.section.index === props.selected || near(stretch.y, stretch.y + stretch.height),
  ),
);
const labels = computed(() =>
  stretches.value.flatMap((stretch) => (stretch.label === null ? [] : [{ stretch, x: stretch.label }])),
);
const chosen = computed(
  () => road.value.stretches.find((stretch) => stretch.section.index === props.selected) ?? null,
);
const ticks = computed(() => road.value.ticks.filter((tick) => near(tick.y, tick.y)));
const plates = computed(() => road.value.plates.filter((plate) => near(plate.y, plate.y)));
/** Whether an arc is of the selected section; those of all contents, or of all ways back, would hide everything. */
const isStrong = (arc: Arc) =>
  (arc.section === props.selected && !arc.listed) || (props.selected >= 0 && arc.toSection === props.selected);
const strong = computed(() => road.value.arcs.filter(isStrong));
const faint = computed(() => {
  const all = road.value.arcs.filter((arc) => !arc.back && !arc.listed && inSight(arc));
  const each = Math.ceil(all.length / MOST_FAINT);
  return pathOf(all.filter((_, index) => index % each === 0));
});
const backs = computed(() => road.value.arcs.filter((arc) => arc.back && near(arc.from, arc.from)));
const inSight = (arc: Arc) => near(Math.min(arc.from, arc.to), Math.max(arc.from, arc.to));
const pathOf = (arcs: Arc[]) => arcs.map((arc) => arcPath(arcAt.value, arc.from, arc.to)).join("");
const cutDrag = useCutDrag(
  {
    cuts: () => props.cuts,
    places: () => props.places,
    scale: () => road.value.scale,
    top: () => zoom.value?.top ?? 0,
  },
  { move: (from, to) => emit("moveCut", from, to), remove: (at) => emit("removeCut", at) },
);
const cutLines = computed(() =>
  cutDrag.lines.value.map((cut) => ({ ...cut, y: Math.max(road.value.y(cut.top), 8) })),
);

const viewHeight = computed(() => props.measure?.view_height ?? props.page.window_height);
const limit = computed(() => Math.max((props.measure?.height ?? props.page.height) - viewHeight.value, 0));
const fold = useWindowDrag(
  {
    top: () => props.windowTop,
    scale: () => road.value.scale,
    viewHeight: () => viewHeight.value,
    limit: () => limit.value,
  },
  (top) => emit("scroll", top),
);

/** Return how much room a label has: to the road's right edge, or to the tag of a cut beside it. */
function roomOf(from: number, y: number): number {
  const tagged = cutLines.value.some((cut) => Math.abs(cut.y - y - 7) < 15);
  return roadWidth.value - from - 6 - (tagged ? TAG_ROOM : 0);
}
const tone = (level: number) => `var(--road-${Math.min(Math.max(level, 1), 4)})`;
const about = (stretch: (typeof stretches.value)[number]) => {
  const { section, trouble, bare } = stretch;
  const id = section.identifier ? ` #${section.identifier}` : "";
  return `${section.text}${id}${trouble ? ` · ${verdictOf(trouble)}` : ""}${bare ? " · a long run without a heading" : ""}`;
};

watch(
  () => [props.selected, road.value.height],
  () =>
    nextTick(() => {
      const box = scroller.value;
      const y = chosen.value?.y ?? 0;
      if (box && (y < box.scrollTop + 10 || y > box.scrollTop + box.clientHeight - 40))
        box.scrollTop = Math.max(0, y - box.clientHeight / 3);
    }),
);
watch(
  () => props.page.path,
  () => (zoomed.value = null),
);
watch(
  () => props.selected,
  (index) => {
    const place = props.measure?.stretches.find((stretch) => stretch.index === index);
    if (zoom.value && place && (place.top < zoom.value.top - 1 || place.top >= zoom.value.bottom))
      zoomed.value = null;
  },
);

/** Draw the selected section alone, or the whole page again. */
function turnZoom(): void {
  zoomed.value = zoomed.value === null && props.selected >= 0 ? props.selected : null;
}

function move(event: KeyboardEvent): void {
  const last = props.page.sections.length - 1;
  const to: Record<string, number> = {
    ArrowDown: props.selected + 1,
    ArrowUp: props.selected - 1,
    Home: -1,
    End: last,
    PageDown: props.selected + 10,
    PageUp: props.selected - 10,
  };
  const index = to[event.key];
  if (index === undefined) return;
  event.preventDefault();
  event.stopPropagation();
  emit("select", Math.min(Math.max(index, -1), last));
}

const { pressed, over, press, release, carry, hold, leave, land } = useLinkDrag(
  { page: () => props.page, linked: () => props.linked },
  (link, section) => emit("lead", link, section),
);

defineExpose({ turnZoom });
</script>

<template>
  <div class="holder">
    <div class="head small">
      <el-button
        text
        size="small"
        :aria-pressed="zoomed !== null"
        :disabled="zoomed === null && selected < 0"
        title="Draw the selected section alone (z)"
        @click="turnZoom"
      >
        {{ zoomed === null ? "Zoom to section" : "Whole page" }}
      </el-button>
      <span class="soft clipped name">{{ zoomed === null ? "" : page.sections[zoomed]?.text }}</span>
      <el-popover trigger="click" :width="300" placement="bottom-start" title="The road">
        <template #reference><el-button text size="small">Legend</el-button></template>
        <RoadLegend />
      </el-popover>
    </div>
    <div
      ref="scroller"
      class="road"
      :draggable="linked && pressed !== null"
      @scroll.passive="seen = ($event.target as HTMLElement).scrollTop"
      @pointerdown="press"
      @pointerup="release"
      @dragstart="carry"
      @dragend="release"
      @dragover="hold"
      @dragleave="leave"
      @drop.prevent="land"
    >
      <svg class="still" :width="roadWidth" :height="road.height + 10" aria-hidden="true">
        <defs>
          <pattern id="beyond" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <path class="beyond-line" d="M0 0V8" />
          </pattern>
        </defs>
        <rect
          v-if="road.reach !== null && road.reach < road.height"
          class="beyond"
          x="16"
          :y="Math.max(road.reach, 0)"
          :width="roadWidth - 16"
          :height="Math.max(road.height - Math.max(road.reach, 0), 0)"
          fill="url(#beyond)"
        ></rect>
        <g class="ticks" aria-hidden="true">
          <template v-for="tick in ticks" :key="tick.number">
            <path :d="`M0 ${tick.y}H16`" />
            <text x="2" :y="tick.y - 3">{{ tick.number }}</text>
          </template>
        </g>
        <g class="arcs">
          <path :d="faint" />
          <path
            v-for="arc in backs"
            :key="arc.key"
            class="back"
            :d="`M${roadWidth - 9} ${arc.from + 3}v-6m-2.500 2.500l2.500-2.500l2.500 2.500`"
          />
        </g>
      </svg>
      <svg :width="roadWidth" :height="road.height + 10">
        <defs>
          <pattern id="hatch" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <rect class="hatch-ground" width="6" height="6" />
            <path class="hatch-line" d="M0 0V6" />
          </pattern>
        </defs>
        <g
          role="listbox"
          tabindex="0"
          aria-label="Road: the page to scale"
          :aria-activedescendant="`stretch-${selected}`"
          class="stretches"
          @keydown="move"
        >
          <g
            v-if="!zoom"
            id="stretch--1"
            role="option"
            :aria-selected="selected === -1"
            aria-label="Lead and top of the page"
            class="lead"
            :class="{ chosen: selected === -1 }"
            @click="emit('select', -1)"
          >
            <rect x="20" y="0" width="5" :height="Math.max((road.stretches[0]?.y ?? road.height) - 1, 3)" rx="2" />
          </g>
          <g class="arcs" aria-hidden="true">
            <path
              v-for="arc in strong"
              :key="`strong ${arc.key}`"
              :d="arcPath(arcAt, arc.from, arc.to)"
              class="strong"
              :class="{ lost: arc.lost }"
            />
          </g>
          <g
            v-for="stretch in stretches"
            :id="`stretch-${stretch.section.index}`"
            :key="stretch.section.index"
            v-memo="[stretch, stretch.section.index === selected, stretch.section.index === over]"
            :data-section="stretch.section.index"
            role="option"
            :aria-selected="stretch.section.index === selected"
            :aria-label="`${about(stretch)}, level ${stretch.section.level}, ${stretch.section.words} words`"
            class="stretch"
            :class="{ chosen: stretch.section.index === selected, over: stretch.section.index === over }"
            @click="emit('select', stretch.section.index)"
          >
            <rect
              class="hit"
              :x="stretch.x"
              :y="stretch.y"
              :width="roadWidth - stretch.x"
              :height="stretch.section.index === selected ? Math.max(stretch.height, 15) : stretch.height"
            />
            <rect
              class="body"
              :x="stretch.x"
              :y="stretch.y"
              width="6"
              :height="stretch.height"
              rx="1.500"
              :fill="tone(stretch.section.level)"
            />
            <rect
              v-if="stretch.trouble"
              class="trouble"
              :x="stretch.x - 1"
              :y="stretch.y"
              width="8"
              :height="stretch.height"
              rx="1.500"
              fill="url(#hatch)"
            />
            <path
              v-if="stretch.bare"
              class="bare"
              :d="`M${stretch.x + 9} ${stretch.y + 14}V${stretch.y + Math.max(stretch.height - 2, 16)}`"
            />
            <title>{{ about(stretch) }}</title>
          </g>
        </g>
        <g class="labels" aria-hidden="true">
          <text
            v-for="{ stretch, x } in labels"
            :key="stretch.section.index"
            v-memo="[stretch, stretch.section.index === selected, roomOf(x, stretch.y)]"
            :data-section="stretch.section.index"
            :x="x"
            :y="stretch.y + 11"
            :class="[
              `level-${stretch.section.level}`,
              { chosen: stretch.section.index === selected, missed: stretch.trouble },
            ]"
            @click="emit('select', stretch.section.index)"
          >
            <tspan v-if="stretch.section.identifier" class="has-plate">#</tspan>
            {{
              fitted(stretch.section.text, roomOf(x, stretch.y), {
                bold: stretch.section.level <= 2,
                before: stretch.section.identifier ? "# " : "",
              })
            }}
          </text>
        </g>
        <g class="plates" aria-hidden="true">
          <template v-for="plate in plates" :key="plate.name">
            <rect x="17" :y="plate.y - 1.5" width="4" height="3" rx="1">
              <title>#{{ plate.name }}</title>
            </rect>
            <text v-if="zoom" x="24" :y="plate.y + 3">{{ fitted(`#${plate.name}`, roadWidth - 30) }}</text>
          </template>
        </g>
        <g
          v-for="cut in cutLines"
          :key="cut.part"
          class="cut"
          :class="{ dragged: cut.dragged }"
          role="slider"
          tabindex="0"
          :aria-label="`Part ${cut.part} begins`"
          aria-orientation="vertical"
          aria-valuemin="0"
          :aria-valuemax="Math.round(measure?.height ?? page.height)"
          :aria-valuenow="Math.round(cut.top)"
          :aria-valuetext="cut.title"
          @keydown="cutDrag.press($event, cut)"
          @pointerdown="cutDrag.begin($event, cut)"
          @pointermove="cutDrag.drag"
          @pointerup="cutDrag.end"
          @pointercancel="cutDrag.cancel"
        >
          <title>Part {{ cut.part }}: {{ cut.title }}. Drag it, or use the arrow keys.</title>
          <path class="grip" :d="`M16 ${cut.y - 0.5}H${roadWidth}`" />
          <path :d="`M16 ${cut.y - 0.5}H${roadWidth}`" />
          <rect :x="roadWidth - 46" :y="cut.y - 8" width="44" height="15" rx="3" />
          <text :x="roadWidth - 24" :y="cut.y + 3">part {{ cut.part }}</text>
        </g>
        <g
          v-if="walking && measure"
          class="fold"
          role="slider"
          tabindex="0"
          aria-label="The window on the page"
          aria-orientation="vertical"
          aria-valuemin="0"
          :aria-valuemax="Math.round(limit)"
          :aria-valuenow="Math.round(Math.min(fold.top.value, limit))"
          :aria-valuetext="`${Math.round(fold.top.value)} pixels from the top`"
          @keydown="fold.press"
          @pointerdown="fold.begin"
          @pointermove="fold.drag"
          @pointerup="fold.end"
          @pointercancel="fold.end"
        >
          <rect
            class="frame"
            x="17"
            :y="road.y(fold.top.value)"
            :width="roadWidth - 20"
            :height="Math.max(viewHeight * road.scale, 6)"
            rx="3"
          />
          <rect
            class="edge"
            x="0"
            :y="road.y(fold.top.value)"
            width="17"
            :height="Math.max(viewHeight * road.scale, 6)"
            rx="3"
          />
        </g>
      </svg>
    </div>
  </div>
</template>

<style scoped src="./road.css"></style>
