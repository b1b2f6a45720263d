<script setup lang="ts">
/** The lines of a unified diff of one file, for reading. */
import { computed } from "vue";

const props = defineProps<{ diff: string; note: string }>();

/** Lines beyond which a diff is cut short on the screen. */
const SHOWN_LINES = 1500;

const all = computed(() => props.diff.split("\n").slice(2, -1)); // the first two name the file
const lines = computed(() => all.value.slice(0, SHOWN_LINES));
const hidden = computed(() => Math.max(all.value.length - SHOWN_LINES, 0));
const kinds: Record<string, string> = { "+": "added", "-": "taken", "@": "place", "\\": "place" };
const kind = (line: string) => kinds[line[0] ?? " "] ?? "same";
</script>

<template>
  <ol class="lines">
    <li v-for="(line, row) in lines" :key="row" :class="kind(line)">{{ line || " " }}</li>
  </ol>
  <p v-if="hidden" class="soft small note">{{ hidden }} more lines are not shown here{{ note }}.</p>
</template>

<style scoped>
.lines {
  list-style: none;
  margin: 0;
  padding: 4px 0;
  font: 12px/1.5 var(--code);
  font-variant-ligatures: none;
  overflow-x: auto;
}

li {
  white-space: pre;
  padding: 0 10px;
  width: max-content;
  min-width: 100%;
}

.added {
  background: var(--post-wash);
}

.taken {
  background: var(--wrong-wash);
}

.place {
  color: var(--ink-soft);
  padding-top: 4px;
}

.note {
  padding: 4px 10px;
}
</style>
