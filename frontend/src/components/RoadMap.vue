<script setup lang="ts">
/** The road: the page from top to bottom, to scale; picture and navigator at once. */
import { computed, nextTick, onBeforeUnmount, onMounted, ref, watch } from "vue";
import type { PageView } from "../api/client";
import { arcPath, layRoad } from "../road/layout";

const props = defineProps<{ page: PageView; selected: number; cuts: ReadonlySet<number>; partOf: number[] }>();
const emit = defineEmits<{ select: [index: number] }>();

const WIDTH = 208;
const ARC_AT = 158;
/** Width of a character of a label, on average, in CSS pixels. */
const CHARACTER = 5.9;

const scroller = ref<HTMLElement | null>(null);
const space = ref(600);
const watcher = new ResizeObserver(([entry]) => {
  if (entry) space.value = Math.floor(entry.contentRect.height) - 12;
});
onMounted(() => scroller.value && watcher.observe(scroller.value));
onBeforeUnmount(() => watcher.disconnect());

const road = computed(() => layRoad(props.page, Math.max(space.value, 200)));
const chosen = computed(() => road.value.stretches[props.selected] ?? null);
const shownArcs = computed(() =>
  road.value.arcs.map((arc) => ({
    ...arc,
    // from the lead, what leads out of it; the ways back into it would hide everything
    strong: arc.link.section === props.selected || (props.selected >= 0 && arc.link.to_section === props.selected),
  })),
);
const cutLines = computed(() =>
  road.value.stretches
    .filter((stretch) => props.cuts.has(stretch.section.index))
    .map((stretch) => ({ y: stretch.y, part: props.partOf[stretch.section.index] ?? 1 })),
);
const short = (text: string, from: number) => {
  const room = Math.floor((ARC_AT - from) / CHARACTER);
  return text.length > room ? `${text.slice(0, room - 1)}…` : text;
};
const tone = (level: number) => `var(--road-${Math.min(Math.max(level, 1), 4)})`;

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

function move(event: KeyboardEvent): void {
  const last = props.page.sections.length - 1;
  const to: Record<string, number> = {
    ArrowDown: props.selected + 1, ArrowUp: props.selected - 1, Home: -1, End: last,
    PageDown: props.selected + 10, PageUp: props.selected - 10,
  };
  const index = to[event.key];
  if (index === undefined) return;
  event.preventDefault();
  emit("select", Math.min(Math.max(index, -1), last));
}
</script>

<template>
  <div ref="scroller" class="road" role="listbox" tabindex="0" aria-label="Road: the page to scale"
    :aria-activedescendant="`stretch-${selected}`" @keydown="move">
    <svg :width="WIDTH" :height="road.height + 10" role="presentation">
      <g class="ticks">
        <template v-for="tick in road.ticks" :key="tick.number">
          <path :d="`M0 ${tick.y}H16`" />
          <text x="2" :y="tick.y - 3">{{ tick.number }}</text>
        </template>
      </g>
      <g id="stretch--1" role="option" :aria-selected="selected === -1" aria-label="Lead and top of the page"
        class="lead" :class="{ chosen: selected === -1 }" @click="emit('select', -1)">
        <rect x="20" y="0" width="5" :height="Math.max((road.stretches[0]?.y ?? road.height) - 1, 3)" rx="2" />
      </g>
      <g class="arcs" role="presentation">
        <path v-for="(arc, row) in shownArcs" :key="row" :d="arcPath(ARC_AT, arc.from, arc.to)" :class="{ strong: arc.strong, lost: arc.link.resolves === false }" />
      </g>
      <g v-for="stretch in road.stretches" :id="`stretch-${stretch.section.index}`" :key="stretch.section.index"
        role="option" :aria-selected="stretch.section.index === selected"
        :aria-label="`${stretch.section.text}, level ${stretch.section.level}, ${stretch.section.words} words`"
        class="stretch" :class="{ chosen: stretch.section.index === selected }"
        @click="emit('select', stretch.section.index)">
        <rect class="hit" :x="stretch.x" :y="stretch.y" :width="WIDTH - stretch.x" :height="stretch.section.index === selected ? Math.max(stretch.height, 15) : stretch.height" />
        <rect class="body" :x="stretch.x" :y="stretch.y" width="6" :height="stretch.height" rx="1.500" :fill="tone(stretch.section.level)" />
        <title>{{ stretch.section.text }}{{ stretch.section.identifier ? ` #${stretch.section.identifier}` : "" }}</title>
      </g>
      <g class="labels" aria-hidden="true">
        <template v-for="stretch in road.stretches" :key="stretch.section.index">
          <text v-if="stretch.label !== null" :x="stretch.label" :y="stretch.y + 11" :class="[`level-${stretch.section.level}`, { chosen: stretch.section.index === selected }]"
            @click="emit('select', stretch.section.index)"><tspan v-if="stretch.section.identifier" class="has-plate">#</tspan>{{ short(stretch.section.text, stretch.label) }}</text>
        </template>
      </g>
      <g v-for="cut in cutLines" :key="cut.part" class="cut" role="presentation">
        <path :d="`M16 ${cut.y - 0.5}H${WIDTH}`" />
        <rect :x="WIDTH - 46" :y="cut.y - 8" width="44" height="15" rx="3" />
        <text :x="WIDTH - 24" :y="cut.y + 3">part {{ cut.part }}</text>
      </g>
    </svg>
  </div>
</template>

<style scoped>
.road {
  height: 100%;
  overflow: hidden auto;
  padding: 8px 0 4px 6px;
  scrollbar-width: thin;
}

svg {
  display: block;
  font: 11.5px var(--ui);
}

.ticks path {
  stroke: var(--line-strong);
}

.ticks text {
  fill: var(--ink-soft);
  font-size: 10px;
}

.stretch,
.lead {
  cursor: pointer;
}

.hit {
  fill: transparent;
}

.labels text {
  fill: var(--ink);
  cursor: pointer;
}

.stretch:hover .hit,
.lead:hover rect {
  fill: var(--post-wash);
}

.stretch.chosen .hit {
  fill: var(--post-wash);
  fill-opacity: 0.6;
  stroke: var(--post);
}

.stretch.chosen .body {
  fill: var(--plate);
}

.labels .chosen {
  font-weight: 700;
}

.lead rect {
  fill: var(--line-strong);
}

.lead.chosen rect {
  fill: var(--plate);
}

.has-plate {
  fill: var(--plate);
  font: 600 11px var(--code);
}

.labels .level-1,
.labels .level-2 {
  font-weight: 600;
}

.labels .level-4,
.labels .level-5,
.labels .level-6 {
  fill: var(--ink-soft);
}

.arcs path {
  fill: none;
  stroke: var(--plate);
  stroke-opacity: 0.22;
  pointer-events: none;
}

.arcs path.strong {
  stroke-opacity: 1;
  stroke-width: 1.75;
}

.cut path {
  stroke: var(--wait);
  stroke-width: 2;
  stroke-dasharray: 5 3;
}

.cut rect {
  fill: var(--wait-wash);
  stroke: var(--wait);
}

.cut text {
  fill: var(--wait);
  text-anchor: middle;
  font-size: 10.5px;
  font-weight: 650;
}
</style>
