<script setup lang="ts">
/** A plan's diff, file by file, for reading. */
import { computed } from "vue";
import type { PlannedChange } from "../api/client";

const props = defineProps<{ plan: PlannedChange }>();

/** Lines beyond which a file's diff is cut short on the screen, not in what is applied. */
const SHOWN_LINES = 1500;

const files = computed(() =>
  props.plan.files.map((file) => {
    const lines = file.diff.split("\n").slice(2, -1);
    return { ...file, lines: lines.slice(0, SHOWN_LINES), hidden: Math.max(lines.length - SHOWN_LINES, 0) };
  }),
);
const kinds: Record<string, string> = { "+": "added", "-": "taken", "@": "place", "\\": "place" };
const kind = (line: string) => kinds[line[0] ?? " "] ?? "same";
</script>

<template>
  <section v-for="file in files" :key="file.path" class="file" :aria-label="`Edits in ${file.path}`">
    <h3>
      <span>{{ file.path }}</span>
      <span class="soft small">{{ file.is_new ? "new page" : `${file.edits} ${file.edits === 1 ? "edit" : "edits"}` }}</span>
    </h3>
    <ol class="lines">
      <li v-for="(line, row) in file.lines" :key="row" :class="kind(line)">{{ line || " " }}</li>
    </ol>
    <p v-if="file.hidden" class="soft small">{{ file.hidden }} more lines are not shown here; they are applied all the same.</p>
  </section>
</template>

<style scoped>
.file {
  border: 1px solid var(--line);
  border-radius: var(--radius);
  margin-bottom: 10px;
  background: var(--sheet);
}

h3 {
  display: flex;
  justify-content: space-between;
  padding: 5px 10px;
  font: 600 13px/1.5 var(--ui);
  background: var(--sheet-sunk);
  border-bottom: 1px solid var(--line);
  position: sticky;
  top: 0;
}

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

.file > p {
  padding: 4px 10px;
}
</style>
