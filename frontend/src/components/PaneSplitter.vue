<script setup lang="ts">
/** The line between two panes: dragged, or moved by the arrow keys, it gives one of them the other's room. */
const size = defineModel<number>({ required: true }); // of the pane before it or after it, in CSS pixels
const props = withDefaults(
  defineProps<{ label: string; least: number; most: number; stacked?: boolean; after?: boolean }>(),
  {
    stacked: false, // whether the panes are one above the other
    after: false, // whether the size is that of the pane after it
  },
);

const STEP = 24;
const way = props.after ? -1 : 1; // in which the pane grows
let grip = 0;

const set = (to: number) => (size.value = Math.round(Math.min(Math.max(to, props.least), props.most)));
const along = (event: PointerEvent) => (props.stacked ? event.clientY : event.clientX);

function begin(event: PointerEvent): void {
  (event.currentTarget as Element).setPointerCapture(event.pointerId);
  grip = along(event) - way * size.value;
}

function drag(event: PointerEvent): void {
  if ((event.currentTarget as Element).hasPointerCapture(event.pointerId)) set(way * (along(event) - grip));
}

function press(event: KeyboardEvent): void {
  const to: Record<string, number> = {
    [props.stacked ? "ArrowUp" : "ArrowLeft"]: size.value - way * STEP,
    [props.stacked ? "ArrowDown" : "ArrowRight"]: size.value + way * STEP,
    Home: props.least,
    End: props.most,
  };
  const next = to[event.key];
  if (next === undefined) return;
  set(next);
  event.preventDefault();
  event.stopPropagation();
}
</script>

<template>
  <div
    class="splitter"
    :class="{ stacked }"
    role="separator"
    tabindex="0"
    :aria-orientation="stacked ? 'horizontal' : 'vertical'"
    :aria-label="label"
    :aria-valuenow="size"
    :aria-valuemin="least"
    :aria-valuemax="most"
    title="Drag to resize"
    @pointerdown="begin"
    @pointermove="drag"
    @keydown="press"
  />
</template>

<style scoped>
.splitter {
  flex: none;
  width: 7px;
  margin: 0 -3px;
  z-index: 3;
  cursor: col-resize;
  touch-action: none;
}

.splitter.stacked {
  width: auto;
  height: 7px;
  margin: -3px 0;
  cursor: row-resize;
}

.splitter:hover,
.splitter:focus-visible {
  background: var(--post);
  opacity: 0.6;
  outline: none;
}
</style>
