<script setup lang="ts">
/** The walk as a whole: which links, whether they are really followed, and what can be done about bad landings. */
import { computed, onBeforeUnmount } from "vue";
import PickOne from "../components/PickOne.vue";
import { counted } from "../text/count";
import { useDialogs } from "../stores/dialogs";
import { useMeasures } from "../stores/measures";
import { usePage } from "../stores/page";
import { useWalk } from "../stores/walk";

const walk = useWalk();
const measures = useMeasures();
const page = usePage();
const dialogs = useDialogs();

const counts = computed(() => {
  const of = (...verdicts: string[]) =>
    walk.all.filter((landing) => landing.trouble && verdicts.includes(landing.verdict)).length;
  const parts = [
    [of("short"), "too low"],
    [of("covered"), "under a bar"],
    [of("nowhere"), "without a target"],
    [of("unseen"), "not on the page"],
  ] as const;
  return parts
    .filter(([count]) => count)
    .map(([count, words]) => `${count} ${words}`)
    .join(", ");
});
const fixable = computed(() =>
  walk.all.some((landing) => landing.trouble && ["short", "covered"].includes(landing.verdict)),
);

const scopes = computed(() => [
  { value: "page" as const, words: walk.of === page.path ? "this page" : walk.of },
  { value: "site" as const, words: "the whole site" },
]);
const SHOWN = [
  { value: "all" as const, words: "all landings" },
  { value: "trouble" as const, words: "bad landings" },
];

onBeforeUnmount(measures.widen());
</script>

<template>
  <div>
    <div class="stage-line">
      <p role="status">
        <strong>{{ counted(walk.all.length, "link") }}</strong><template v-if="walk.progress"
          >. {{ walk.progress.what }}: {{ walk.progress.done }} of {{ walk.progress.total }}…</template
        ><template v-else-if="measures.measuring">. Measuring…</template
        ><template v-else-if="counts"
          >: <span class="wait">{{ counts }}</span>.</template
        ><template v-else-if="walk.all.length">: all land well in this window.</template><template v-else>.</template>
        <template v-if="walk.tried.size && !walk.progress">{{ ` ${walk.tried.size} were followed.` }}</template>
      </p>
      <el-button
        size="small"
        type="primary"
        :disabled="!fixable || walk.scope === 'site'"
        @click="dialogs.show({ name: 'landing-fixes' })"
        >Fix landings…</el-button
      >
    </div>
    <div class="stage-line filters">
      <PickOne v-model="walk.scope" :choices="scopes" label="Links of" :width="96" />
      <PickOne v-model="walk.shown" :choices="SHOWN" label="Landings shown" :width="108" />
      <el-input
        v-model="walk.query"
        size="small"
        clearable
        placeholder="Filter"
        aria-label="Filter the links"
        class="filter"
      />
      <el-button
        v-if="!walk.progress"
        size="small"
        :disabled="!walk.all.length || measures.measuring"
        title="Follow every link out of sight, and compare where each one ends"
        @click="walk.walkAll()"
        >Follow all links</el-button
      >
      <el-button v-else size="small" @click="walk.halt()">Stop</el-button>
    </div>
    <el-progress
      v-if="walk.progress?.total"
      :percentage="Math.round((100 * walk.progress.done) / walk.progress.total)"
      :show-text="false"
      :stroke-width="3"
      aria-label="Links followed"
    />
    <p v-if="walk.problem" role="alert" class="wrong small">{{ walk.problem }}</p>
  </div>
</template>

<style scoped>
.filters {
  padding-top: 6px;
}

.filter {
  flex: 1;
  min-width: 84px;
}
</style>
