<script setup lang="ts">
/** The line between two panes: dragged, or moved by the arrow keys, it gives one of them the other's room. */
const width = defineModel<number>({ required: true }); // of the pane on its right, in CSS pixels
const props = defineProps<{ label: string; least: number; most: number }>();

const STEP = 24;
let grip = 0;

const set = (to: number) => (width.value = Math.round(Math.min(Math.max(to, props.least), props.most)));

function begin(event: PointerEvent): void {
  (event.currentTarget as Element).setPointerCapture(event.pointerId);
  grip = event.clientX + width.value;
}

function drag(event: PointerEvent): void {
  if ((event.currentTarget as Element).hasPointerCapture(event.pointerId)) set(grip - event.clientX);
}

function press(event: KeyboardEvent): void {
  const to: Record<string, number> = {
    ArrowLeft: width.value + STEP,
    ArrowRight: width.value - STEP,
    Home: props.most,
    End: props.least,
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
    role="separator"
    tabindex="0"
    aria-orientation="vertical"
    :aria-label="label"
    :aria-valuenow="width"
    :aria-valuemin="least"
    :aria-valuemax="most"
    title="Drag to give the panes more or less room"
    @pointerdown="begin"
    @pointermove="drag"
    @keydown="press"
  />
</template>

<style scoped>
.splitter {
  width: 7px;
  margin: 0 -3px;
  z-index: 3;
  cursor: col-resize;
  touch-action: none;
}

.splitter:hover,
.splitter:focus-visible {
  background: var(--post);
  opacity: 0.6;
  outline: none;
}
</style>
