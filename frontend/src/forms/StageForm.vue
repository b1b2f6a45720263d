<script setup lang="ts">
/** What can be asked for at each stage of work. */
import { computed, reactive, ref } from "vue";
import { detailOf, type Operation, type PageView } from "../api/client";
import { useChoices } from "../stores/choices";
import type { Stage } from "../stores/page";
import HeadingsForm from "./HeadingsForm.vue";
import IdentifiersForm from "./IdentifiersForm.vue";

const props = defineProps<{ page: PageView; stage: Stage; cuts: ReadonlySet<number>; locked: string; busy: boolean }>();
const emit = defineEmits<{ propose: [operation: Operation]; cuts: [sections: number[]]; point: [] }>();

const choices = useChoices();

const LEVELS = [2, 3, 4, 5, 6];
const contents = reactive({ to: 3, form: "list" as "list" | "row" });
const returns = reactive({ level: 2, to: "top" as "top" | "contents", leastWords: 0, words: "Back to top" });
const parts = reactive({ into: 4 });
const said = ref("");

const range = (to: number) => LEVELS.filter((level) => level <= to);
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
    emit("cuts", await choices.cuts(parts.into));
  } catch (error) {
    said.value = detailOf(error);
  }
}
</script>

<template>
  <div class="stage-form">
    <p v-if="locked" class="locked small" role="note">{{ locked }}</p>

    <HeadingsForm v-if="stage === 'headings'" :page="props.page" :unable="unable" @propose="ask" />
    <IdentifiersForm v-else-if="stage === 'identifiers'" :page="props.page" :unable="unable" :levels="LEVELS" @propose="ask" @point="emit('point')" />

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
