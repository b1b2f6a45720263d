<script setup lang="ts">
/** One of our own icons, drawn on a grid of 16. */
defineProps<{ name: keyof typeof paths }>();
</script>

<script lang="ts">
const paths = {
  post: "M8 2v12M3 4h8l2 1.5L11 7H3zM13 8.5H6L4 10l2 1.5h7zM6 14h4",
  folder: "M2 4.5V12a1 1 0 0 0 1 1h10a1 1 0 0 0 1-1V6a1 1 0 0 0-1-1H8L6.500 3H3a1 1 0 0 0-1 1.500z",
  page: "M4 2h5l3 3v9H4zM9 2v3h3M6 8h4M6 10.500h4",
  undo: "M6 4 3 7l3 3M3 7h6.500a3 3 0 0 1 0 6H8",
  redo: "M10 4l3 3-3 3M13 7H6.500a3 3 0 0 0 0 6H8",
  take: "M8 2v8M5 7l3 3 3-3M3 13h10",
  bring: "M8 10V2M5 5l3-3 3 3M3 13h10",
  sun: "M8 5.200a2.800 2.800 0 1 0 0 5.600 2.800 2.800 0 0 0 0-5.600M8 1v2M8 13v2M1 8h2M13 8h2M3 3l1.400 1.400M11.600 11.600 13 13M3 13l1.400-1.400M11.600 4.400 13 3",
  moon: "M13 9.500A5.500 5.500 0 1 1 6.500 3a4.500 4.500 0 0 0 6.500 6.500z",
  keys: "M2 4h12v8H2zM4.500 6.500h.01M7 6.500h.01M9.500 6.500h.01M12 6.500h.01M5 9.500h6",
  list: "M3 4h.01M6 4h7M3 8h.01M6 8h7M3 12h.01M6 12h7",
  link: "M6.500 9.500l3-3M7 4.500l1-1a2.800 2.800 0 0 1 4 4l-1 1M9 11.500l-1 1a2.800 2.800 0 0 1-4-4l1-1",
  wrong: "M8 2.500 14 13H2zM8 6.500v3M8 11.300v.01",
  done: "M3 8.500l3.200 3.200L13 5",
  cut: "M2 8h2M6 8h2M10 8h2M13.500 8h.5M5 3l3 3 3-3M5 13l3-3 3 3",
  close: "M4 4l8 8M12 4l-8 8",
  right: "M6 4l4 4-4 4",
  down: "M4 6l4 4 4-4",
  up: "M8 13V3M4 7l4-4 4 4",
  pencil: "M3 13l.700-3L10.500 3.200l2.300 2.300L6 12.300z",
} as const;
</script>

<template>
  <svg viewBox="0 0 16 16" width="16" height="16" aria-hidden="true" class="sign-icon">
    <path :d="paths[name]" />
  </svg>
</template>

<style scoped>
.sign-icon {
  flex: none;
  fill: none;
  stroke: currentcolor;
  stroke-width: 1.5;
  stroke-linecap: round;
  stroke-linejoin: round;
}
</style>
