<script setup lang="ts">
/** An entry for each of many terms: pasted or brought in, looked through, then put into a section or onto the page. */
import { computed, ref } from "vue";
import { detailOf, type Term } from "../api/client";
import { useChoices } from "../stores/choices";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";
import { useTray } from "../stores/tray";
import AskDialog from "./AskDialog.vue";

const page = usePage();
const tray = useTray();
const choices = useChoices();
const dialogs = useDialogs();

/** How many terms are shown for looking through; all are taken. */
const SHOWN = 400;
const text = ref("");
const terms = ref<Term[]>([]);
const dropped = ref<Set<number>>(new Set());
const home = ref<number | null>(page.section && page.section.level > 1 ? page.section.index : null);
const bar = ref<"letters" | "row" | "none">("letters");
const sort = ref(true);
const problem = ref("");
const doubles = computed(() => {
  const seen = new Set<string>();
  return new Set(
    terms.value.flatMap((term, row) => {
      const key = term.term.toLowerCase();
      if (seen.has(key)) return [row];
      seen.add(key);
      return [];
    }),
  );
});
const taken = computed(() => terms.value.filter((_, row) => !dropped.value.has(row) && !doubles.value.has(row)));

async function read(found: Promise<Term[]>): Promise<void> {
  problem.value = "";
  try {
    terms.value = await found;
    dropped.value = new Set();
  } catch (error) {
    terms.value = [];
    problem.value = detailOf(error);
  }
}

function bring(event: Event): void {
  const file = (event.target as HTMLInputElement).files?.[0];
  if (file) void read(choices.termsOfFile(file));
}

function toggle(row: number): void {
  const next = new Set(dropped.value);
  if (!next.delete(row)) next.add(row);
  dropped.value = next;
}

function go(): void {
  if (!terms.value.length) {
    void read(choices.terms(text.value));
    return;
  }
  void tray.propose({
    operation: "entries",
    page: page.path,
    terms: taken.value,
    home: home.value,
    bar: bar.value,
    sort: sort.value,
  });
  dialogs.close();
}
</script>

<template>
  <AskDialog
    title="Entries for many terms"
    :does="terms.length ? 'Show the edits' : 'Read the terms'"
    :able="terms.length ? taken.length > 0 : text.trim() !== ''"
    :width="720"
    :problem="problem"
    @go="go"
  >
    <template v-if="!terms.length">
      <label
        ><span>Terms, one a line; or a table with a column “term”, and “label”, “identifier”, “text” if you like</span
        ><textarea v-model="text" class="field code" autofocus spellcheck="false" />
      </label>
      <label class="file"
        ><span>or a file: text, CSV, TSV, XLSX</span
        ><input type="file" accept=".txt,.csv,.tsv,.xlsx" aria-label="File of terms" @change="bring"
      /></label>
    </template>
    <template v-else>
      <p>
        <strong>{{ taken.length }}</strong> {{ taken.length === 1 ? "term" : "terms"
        }}<template v-if="doubles.size">, {{ doubles.size }} given twice left out</template>.
        <span class="soft"
          >Untick what you do not want. What is there already is brought up to date; what you wrote under it
          stays.</span
        >
      </p>
      <div class="scroller list" tabindex="0" aria-label="Terms">
        <label
          v-for="(term, row) in terms.slice(0, SHOWN)"
          :key="row"
          class="term"
          :class="{ off: doubles.has(row) || dropped.has(row) }"
        >
          <input
            type="checkbox"
            :checked="!dropped.has(row) && !doubles.has(row)"
            :disabled="doubles.has(row)"
            @change="toggle(row)"
          />
          <span class="clipped">{{ term.label || term.term }}</span>
          <span v-if="term.identifier" class="plate">{{ term.identifier }}</span>
          <span class="small soft clipped text">{{ doubles.has(row) ? "given twice" : term.text }}</span>
        </label>
        <p v-if="terms.length > SHOWN" class="small soft">and {{ terms.length - SHOWN }} more</p>
      </div>
      <div class="row">
        <label
          >In
          <select v-model="home" class="field where" aria-label="Section that holds the entries">
            <option :value="null">the page, at level 2</option>
            <option v-for="section in page.view?.sections ?? []" :key="section.index" :value="section.index">
              “{{ section.text }}”
            </option>
          </select></label
        >
        <label
          >above them
          <select v-model="bar" class="field" aria-label="What stands above the entries">
            <option value="letters">a bar of letters</option>
            <option value="row">a row of all</option>
            <option value="none">nothing</option>
          </select></label
        >
        <label><input v-model="sort" type="checkbox" /> sorted</label>
      </div>
    </template>
    <template #more
      ><button v-if="terms.length" type="button" class="button quiet" @click="terms = []">Other terms</button
      ><span class="fill"
    /></template>
  </AskDialog>
</template>

<style scoped>
.list {
  max-height: 40vh;
}

.term {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr) auto minmax(0, 1.4fr);
  gap: 8px;
  align-items: center;
  padding: 2px 8px;
  border-bottom: 1px solid var(--line);
  font-family: var(--read);
}

.term .text {
  grid-column: 4;
}

.term.off {
  color: var(--ink-soft);
  text-decoration: line-through;
}

.where {
  max-width: 260px;
}

.fill {
  flex: 1;
}
</style>
