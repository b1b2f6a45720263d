<script setup lang="ts">
/** An entry for each of many terms: pasted or brought in, looked through, then put into a section or onto the page. */
import { computed, ref } from "vue";
import type { UploadFile } from "element-plus";
import { detailOf, type Term } from "../api/client";
import { useChoices } from "../stores/choices";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";
import { counted } from "../text/count";
import { useTray } from "../stores/tray";
import PickOne from "../components/PickOne.vue";
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
const doubles = computed(() => new Set(terms.value.flatMap((term, row) => (term.repeated ? [row] : []))));
const BARS = [
  { value: "letters" as const, words: "a bar of letters" },
  { value: "row" as const, words: "a row of all terms" },
  { value: "none" as const, words: "nothing" },
];
const homes = computed(() => [
  { value: null, words: "the page, at level 2" },
  ...(page.view?.sections ?? []).map((section) => ({ value: section.index, words: section.text })),
]);
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

function bring(chosen: UploadFile): void {
  if (chosen.raw) void read(choices.termsOfFile(chosen.raw));
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
    terms: taken.value.map(({ term, label, identifier, text: words }) => ({ term, label, identifier, text: words })),
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
      <el-form-item label="Terms, one a line; or a table with the columns term, label, identifier, text">
        <el-input v-model="text" type="textarea" :rows="8" class="code" autofocus spellcheck="false" />
      </el-form-item>
      <el-upload
        drag
        :auto-upload="false"
        :show-file-list="false"
        accept=".txt,.csv,.tsv,.xlsx"
        aria-label="File of terms"
        @change="bring"
      >
        Drop a file here, or choose one: text, CSV, TSV or XLSX
      </el-upload>
    </template>
    <template v-else>
      <p>
        <strong>{{ counted(taken.length, "term") }}</strong><template v-if="doubles.size"
          >, {{ doubles.size }} repeated and left out</template
        >.
        <span class="soft">Entries that are there already are updated; what you wrote under them stays.</span>
      </p>
      <div class="scroller list" tabindex="0" aria-label="Terms">
        <el-checkbox
          v-for="(term, row) in terms.slice(0, SHOWN)"
          :key="row"
          class="term"
          :class="{ off: doubles.has(row) || dropped.has(row) }"
          :model-value="!dropped.has(row) && !doubles.has(row)"
          :disabled="doubles.has(row)"
          @change="toggle(row)"
        >
          <span class="clipped">{{ term.label || term.term }}</span>
          <span v-if="term.identifier" class="plate">{{ term.identifier }}</span>
          <span class="small soft clipped">{{ doubles.has(row) ? "repeated" : term.text }}</span>
        </el-checkbox>
        <p v-if="terms.length > SHOWN" class="small soft">and {{ terms.length - SHOWN }} more</p>
      </div>
      <div class="row">
        <el-form-item label="Put them into">
          <PickOne v-model="home" :choices="homes" label="Section for the entries" size="default" :width="240" />
        </el-form-item>
        <el-form-item label="Above them">
          <PickOne v-model="bar" :choices="BARS" label="Above the entries" size="default" :width="170" />
        </el-form-item>
        <el-checkbox v-model="sort">sorted</el-checkbox>
      </div>
    </template>
    <template #more><el-button v-if="terms.length" text @click="terms = []">Other terms</el-button></template>
  </AskDialog>
</template>

<style scoped>
.list {
  max-height: 40vh;
}

.term {
  display: flex;
  height: auto;
  margin: 0;
  padding: 3px 8px;
  border-bottom: 1px solid var(--line);
  font-family: var(--read);
}

.term :deep(.el-checkbox__label) {
  display: grid;
  flex: 1;
  grid-template-columns: minmax(0, 1fr) auto minmax(0, 1.4fr);
  gap: 8px;
  min-width: 0;
}

.term.off {
  text-decoration: line-through;
}
</style>
