<script setup lang="ts">
/** The window that the page is looked at in: one of the site's, or any other. */
import { computed } from "vue";
import type { Window } from "../api/client";
import PickOne from "../components/PickOne.vue";
import { useDialogs } from "../stores/dialogs";
import { sameWindow, useMeasures } from "../stores/measures";

/** Values that are not the index of a window. */
const OTHER = -1;
const MORE = -2;

const measures = useMeasures();
const dialogs = useDialogs();

const words = (size: Window) =>
  `${size.width} × ${size.height}${size.text_size === 100 ? "" : `, text ${size.text_size} %`}`;
const at = computed({
  get: () => measures.windows.findIndex((found) => sameWindow(found.window, measures.window)),
  set: (index) => {
    const found = measures.windows[index];
    if (index === MORE) dialogs.show({ name: "windows" });
    else if (found) void measures.choose(found.window);
  },
});
const choices = computed(() => [
  ...measures.windows.map((found, value) => ({ value, words: `${found.name} ${words(found.window)}` })),
  ...(at.value < 0 ? [{ value: OTHER, words: words(measures.window) }] : []),
  { value: MORE, words: "Windows and limits…" },
]);
</script>

<template>
  <PickOne v-model="at" :choices="choices" label="Window" :width="168" />
</template>
