<script setup lang="ts">
/** The window that the page is looked at in: one of the site's, or any other. */
import { computed } from "vue";
import type { Window } from "../api/client";
import { useDialogs } from "../stores/dialogs";
import { sameWindow, useMeasures } from "../stores/measures";

const measures = useMeasures();
const dialogs = useDialogs();

const at = computed(() => measures.windows.findIndex((found) => sameWindow(found.window, measures.window)));
const words = (size: Window) =>
  `${size.width} × ${size.height}${size.text_size === 100 ? "" : `, text ${size.text_size} %`}`;

function choose(select: HTMLSelectElement): void {
  const found = measures.windows[Number(select.value)];
  if (select.value === "more") {
    select.value = at.value < 0 ? "other" : String(at.value); // the list of windows opens; this one stays
    dialogs.show({ name: "windows" });
  } else if (found) void measures.choose(found.window);
}
</script>

<template>
  <select
    class="field window-picker"
    aria-label="Window"
    :value="at < 0 ? 'other' : at"
    @change="choose($event.target as HTMLSelectElement)"
  >
    <option v-for="(found, index) in measures.windows" :key="index" :value="index">
      {{ found.name }} {{ words(found.window) }}
    </option>
    <option v-if="at < 0" value="other">{{ words(measures.window) }}</option>
    <option value="more">Windows…</option>
  </select>
</template>

<style scoped>
.window-picker {
  max-width: 190px;
  min-width: 0;
}
</style>
