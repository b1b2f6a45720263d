<script setup lang="ts">
/** What can be asked for at each stage of work. */
import { computed, reactive, ref } from "vue";
import { api, data, detailOf, type Operation, type PageView } from "../api/client";
import type { Stage } from "../stores/page";

const props = defineProps<{ page: PageView; siteId: string; stage: Stage; cuts: ReadonlySet<number>; locked: string; busy: boolean }>();
const emit = defineEmits<{ propose: [operation: Operation]; cuts: [sections: number[]] }>();

const LEVELS = [2, 3, 4, 5, 6];
const identify = reactive({ to: 6 });
const contents = reactive({ to: 3, form: "list" as "list" | "row" });
const returns = reactive({ level: 2, to: "top" as "top" | "contents", leastWords: 0, words: "Back to top" });
const parts = reactive({ into: 4 });
const said = ref("");

const range = (to: number) => LEVELS.filter((level) => level <= to);
const nameless = computed(
  () => props.page.sections.filter((found) => !found.identifier && found.level > 1 && found.level <= identify.to).length,
);
const listed = computed(() => props.page.sections.filter((found) => found.level > 1 && found.level <= contents.to).length);
const unable = computed(() => props.busy || props.locked !== "");
const page = computed(() => props.page.path);

function ask(operation: Operation): void {
  said.value = "";
  emit("propose", operation);
}

async function suggest(): Promise<void> {
  said.value = "";
  try {
    const found = await data(
      api.GET("/api/sites/{site_id}/cuts", {
        params: { path: { site_id: props.siteId }, query: { path: props.page.path, into: parts.into } },
      }),
    );
    emit("cuts", found.sections);
  } catch (error) {
    said.value = detailOf(error);
  }
}
</script>

<template>
  <div class="stage-form">
    <p v-if="locked" class="locked small" role="note">{{ locked }}</p>

    <template v-if="stage === 'headings'">
      <p>{{ pageWords(props.page) }}</p>
    </template>

    <form v-else-if="stage === 'identifiers'" @submit.prevent="ask({ operation: 'identify', page, levels: range(identify.to) })">
      <p v-if="nameless"><strong>{{ nameless }}</strong> {{ nameless === 1 ? "section has" : "sections have" }} no identifier; what each would get is shown dashed.</p>
      <p v-else>{{ props.page.sections.length ? "Every section of these levels has its identifier." : "There are no sections yet." }}</p>
      <label>Levels 2 to <select v-model.number="identify.to" class="field"><option v-for="level in LEVELS" :key="level">{{ level }}</option></select></label>
      <button class="button main" :disabled="unable || !nameless">Give identifiers</button>
    </form>

    <form v-else-if="stage === 'contents'" @submit.prevent="ask({ operation: 'contents', page, levels: range(contents.to), form: contents.form, left_out: [] })">
      <p v-if="props.page.has_contents">The page has contents. Refreshing keeps what you wrote around them.</p>
      <p v-else>A list of jump links before the first section: <strong>{{ listed }}</strong> {{ listed === 1 ? "entry" : "entries" }}.</p>
      <label>Levels 2 to <select v-model.number="contents.to" class="field"><option v-for="level in LEVELS" :key="level">{{ level }}</option></select></label>
      <label>as <select v-model="contents.form" class="field"><option value="list">nested list</option><option value="row">one row</option></select></label>
      <button class="button main" :disabled="unable || !listed">{{ props.page.has_contents ? "Refresh contents" : "Make contents" }}</button>
      <button v-if="props.page.has_contents" type="button" class="button" :disabled="unable" @click="ask({ operation: 'no-contents', page })">Take out</button>
    </form>

    <form v-else-if="stage === 'returns'" @submit.prevent="ask({ operation: 'returns', page, level: returns.level, to: returns.to, least_words: returns.leastWords, words: returns.words })">
      <label>After each section of level <select v-model.number="returns.level" class="field"><option v-for="level in [1, ...LEVELS]" :key="level">{{ level }}</option></select></label>
      <label>with at least <input v-model.number="returns.leastWords" class="field short" type="number" min="0"> words</label>
      <label>to the <select v-model="returns.to" class="field"><option value="top">top</option><option value="contents" :disabled="!props.page.has_contents">contents</option></select></label>
      <label>saying <input v-model="returns.words" class="field words" maxlength="60"></label>
      <button class="button main" :disabled="unable">Put ways back</button>
      <button v-if="props.page.ways_back" type="button" class="button" :disabled="unable" @click="ask({ operation: 'no-returns', page })">Take out</button>
    </form>

    <form v-else-if="stage === 'parts'" @submit.prevent="ask({ operation: 'parts', page, sections: [...cuts] })">
      <template v-if="props.page.in_parts">
        <p>This page is one of several parts already. Undo that change to cut it another way.</p>
      </template>
      <template v-else>
        <label>Best cuts for <input v-model.number="parts.into" class="field short" type="number" min="2" max="50"> parts</label>
        <button type="button" class="button" :disabled="unable" @click="suggest">Propose</button>
        <p class="soft">or tick in the ledger where a part begins.</p>
        <button class="button main" :disabled="unable || !cuts.size">Cut into {{ cuts.size + 1 }} {{ cuts.size ? "parts" : "part" }}</button>
        <button v-if="cuts.size" type="button" class="button quiet" @click="emit('cuts', [])">Clear</button>
      </template>
    </form>

    <p v-else>{{ props.page.findings.length ? `${props.page.findings.length} things on this page do not hold. Choose one to go there.` : "Nothing on this page that we know to look for fails to hold." }}</p>
    <p v-if="said" role="alert" class="wrong small">{{ said }}</p>
  </div>
</template>

<script lang="ts">
/** Return a page's length in words a reader knows. */
function pageWords(page: PageView): string {
  const count = page.sections.length;
  const estimated = page.estimated ? "about " : "";
  return (
    `${count} ${count === 1 ? "section" : "sections"}, ${page.words.toLocaleString()} words, ` +
    `${Math.max(Math.round(page.minutes), 1)} minutes to read, ${estimated}${page.windows.toFixed(1)} windows long` +
    `${page.estimated ? " (estimated from its words)" : ""}.`
  );
}
</script>

<style scoped>
.stage-form {
  padding: 8px 12px;
  border-bottom: 1px solid var(--line);
}

form {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 10px;
}

form p {
  flex: 1 1 200px;
}

label {
  display: inline-flex;
  align-items: center;
  gap: 6px;
}

.words {
  width: 120px;
}

.locked,
.wrong {
  color: var(--wrong);
  padding-bottom: 4px;
}
</style>
