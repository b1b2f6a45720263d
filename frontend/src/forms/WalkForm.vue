<script setup lang="ts">
/** The walk as a whole: which links, whether they are really followed, and what can be done about bad landings. */
import { computed, onBeforeUnmount } from "vue";
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
    [of("short"), "stand low"],
    [of("covered"), "covered"],
    [of("nowhere"), "lead nowhere"],
    [of("unseen"), "not on the page"],
  ] as const;
  return parts
    .filter(([count]) => count)
    .map(([count, words]) => `${count} ${words}`)
    .join(", ");
});
const curable = computed(() =>
  walk.all.some((landing) => landing.trouble && ["short", "covered"].includes(landing.verdict)),
);

onBeforeUnmount(measures.widen());
</script>

<template>
  <div class="walk-form">
    <p role="status">
      <strong>{{ walk.all.length }}</strong> jump {{ walk.all.length === 1 ? "link" : "links" }}
      {{
        walk.scope === "site"
          ? "on all pages"
          : walk.of === page.path
            ? "on this page and to it"
            : `on ${walk.of} and to it`
      }}<template v-if="walk.progress"
        >. {{ walk.progress.what }}: {{ walk.progress.done }} of {{ walk.progress.total }}…</template
      ><template v-else-if="measures.measuring">. Measuring…</template
      ><template v-else-if="counts"
        >: <span class="wait">{{ counts }}</span>.</template
      ><template v-else-if="walk.all.length">: all land well in this window.</template><template v-else>.</template>
      <template v-if="walk.tried.size && !walk.progress">{{ ` ${walk.tried.size} were followed.` }}</template>
    </p>
    <p v-if="walk.problem" role="alert" class="wrong small">{{ walk.problem }}</p>
    <div class="tools">
      <button
        v-if="!walk.progress"
        type="button"
        class="button main"
        :disabled="!walk.all.length || measures.measuring"
        title="Follow all links out of sight, and see where each one ends"
        @click="walk.walkAll()"
      >
        Walk by itself
      </button>
      <button v-else type="button" class="button" @click="walk.halt()">Stop</button>
      <button
        type="button"
        class="button"
        :disabled="!curable || walk.scope === 'site'"
        @click="dialogs.show({ name: 'landing-fixes' })"
      >
        Mend landings…
      </button>
      <label
        >Links
        <select v-model="walk.scope" class="field" aria-label="Links of">
          <option value="page">of {{ walk.of === page.path ? "this page" : walk.of }}</option>
          <option value="site">of the site</option>
        </select></label
      >
      <label
        >Show
        <select v-model="walk.shown" class="field" aria-label="Landings shown">
          <option value="all">all</option>
          <option value="trouble">to mend</option>
        </select></label
      >
    </div>
  </div>
</template>

<style scoped>
.walk-form {
  display: flex;
  flex-direction: column;
  gap: 6px;
}

.wait {
  color: var(--wait);
  font-weight: 600;
}

.wrong {
  color: var(--wrong);
}
</style>
