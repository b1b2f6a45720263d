<script setup lang="ts">
/** What readers get at the address of a published site. */
import { formatTimeAgo } from "@vueuse/core";
import { computed } from "vue";
import { RouterLink } from "vue-router";
import type { LiveView } from "../api/client";
import { counted } from "../text/count";

const props = defineProps<{ live: LiveView; siteId: string; publishedAt: string | null }>();
const emit = defineEmits<{ close: []; again: [] }>();
const when = computed(() =>
  props.publishedAt ? `Published from here ${formatTimeAgo(new Date(props.publishedAt))}.` : "",
);
const placeOf = (one: LiveView["findings"][number]) => ({
  name: "page",
  params: { siteId: props.siteId, path: one.path },
  query: one.line ? { line: String(one.line) } : {},
});
</script>

<template>
  <section aria-labelledby="live-title">
    <h3 id="live-title">As readers get it</h3>
    <p v-if="!live.is_whole" class="wait">
      Stopped: {{ live.files.toLocaleString() }} of {{ counted(live.of_files, "file") }} asked for. What was found is
      kept.
      <el-button size="small" @click="emit('again')">Go on</el-button>
    </p>
    <p>
      {{ when }} {{ counted(live.files, "file") }} asked for at
      <a :href="live.address" target="_blank" rel="noopener">{{ live.address }}</a><template
        v-if="live.jumps !== null"
        >, and {{ counted(live.jumps, "jump") }} followed with the pages’ own scripts</template
      >{{ live.findings.length || !live.is_whole ? "." : "; all came as they should." }}
      <template v-if="live.jumps === null"
        >Chromium is not installed, so where jumps land was not looked at.</template
      >
      <template v-if="live.newer_here.length">
        {{ counted(live.newer_here.length, "file") }} {{ live.newer_here.length === 1 ? "is" : "are" }} different
        here: {{ live.newer_here.slice(0, 4).join(", ") }}{{ live.newer_here.length > 4 ? ", …" : "" }}.</template
      >
    </p>
    <ul v-if="live.findings.length" class="findings">
      <li v-for="(one, at) in live.findings" :key="at">
        <RouterLink :to="placeOf(one)" @click="emit('close')"
          >{{ one.path }}{{ one.line ? `, line ${one.line}` : "" }}</RouterLink
        >: {{ one.message }}
      </li>
    </ul>
  </section>
</template>

<style scoped>
p {
  margin: 8px 0;
}

h3 {
  font: 650 15px/1.3 var(--read);
  margin-top: 12px;
}

a {
  color: var(--post);
}

.findings {
  max-height: 180px;
  overflow: auto;
  padding-left: 18px;
}
</style>
