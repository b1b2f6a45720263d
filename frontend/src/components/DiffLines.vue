<script setup lang="ts">
/** The lines of a unified diff of one file, for reading; what changed within a line is marked. */
import { computed } from "vue";
import { readDiff } from "./diffLines";

const props = defineProps<{ diff: string; note: string }>();

/** Lines beyond which a diff is cut short on the screen. */
const SHOWN_LINES = 1500;

const all = computed(() => props.diff.split("\n").slice(2, -1)); // the first two name the file
const lines = computed(() => readDiff(all.value.slice(0, SHOWN_LINES)));
const hidden = computed(() => Math.max(all.value.length - SHOWN_LINES, 0));
</script>

<template>
  <ol class="lines">
    <li v-for="(line, row) in lines" :key="row" :class="line.kind">
      <span class="sign">{{ line.sign }}</span><template v-for="(piece, at) in line.pieces" :key="at"
        ><mark v-if="piece.changed">{{ piece.text }}</mark
        ><template v-else>{{ piece.text }}</template></template
      >
    </li>
  </ol>
  <p v-if="hidden" class="soft small note">
    {{ hidden.toLocaleString("en") }} more lines are not shown here{{ note }}.
  </p>
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

.removed {
  background: var(--wrong-wash);
}

mark {
  color: inherit;
  border-radius: 2px;
}

.added mark {
  background: color-mix(in srgb, var(--post) 26%, transparent);
}

.removed mark {
  background: color-mix(in srgb, var(--wrong) 26%, transparent);
}

.place {
  color: var(--ink-soft);
  padding-top: 4px;
}

.note {
  padding: 4px 10px;
}
</style>
