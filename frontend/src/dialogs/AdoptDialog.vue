<script setup lang="ts">
/** A list made by hand: what its entries mean, before it becomes the page's contents. */
import { computed, ref } from "vue";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";
import { useTray } from "../stores/tray";
import AskDialog from "./AskDialog.vue";

const props = defineProps<{ start: number }>();
const page = usePage();
const tray = useTray();
const dialogs = useDialogs();

/** What becomes of an entry that means no section. */
const KEEP = -1;
const DROP = -2;
const list = computed(() => page.view?.waymarks.handmade.find((one) => one.start === props.start) ?? null);
const chosen = ref<number[]>((list.value?.guesses ?? []).map((one) => (one.sure && one.section !== null ? one.section : KEEP)));
const words = (section: number) => page.view?.sections[section]?.text ?? "";
const rest = computed(() => {
  const there = new Set(chosen.value);
  return (page.view?.sections ?? []).filter((one) => list.value?.levels.includes(one.level) && !there.has(one.index));
});
const options = (guess: { section: number | null; others: number[] }) => {
  const first = [guess.section, ...guess.others].filter((index): index is number => index !== null);
  return [...first, ...(page.view?.sections ?? []).map((one) => one.index).filter((index) => !first.includes(index))];
};

function go(): void {
  const sections = Object.fromEntries(chosen.value.map((section, row) => [row, section]));
  void tray.propose({ operation: "adopt", page: page.path, start: props.start, sections });
  dialogs.close();
}
</script>

<template>
  <AskDialog v-if="list" :title="`The list on line ${list.line}`" does="Show the edits" :width="700" @go="go">
    <p class="soft small">It becomes the page's contents: links are put right, your own shorter words stay, and what is missing is added.</p>
    <div class="scroller list" tabindex="0" aria-label="Entries of the list">
      <p v-for="(guess, row) in list.guesses" :key="row" class="entry" :class="{ asked: !guess.sure && chosen[row] === KEEP }">
        <span class="clipped" :title="guess.words">{{ guess.words }}</span>
        <span v-if="guess.leads && guess.section === null" class="small soft">leads elsewhere; it stays</span>
        <select v-else v-model.number="chosen[row]" class="field" :aria-label="`What ${guess.words} means`">
          <option :value="KEEP">{{ guess.sure ? "stays as it is" : "no section; stays as it is" }}</option>
          <option :value="DROP">is taken out</option>
          <option v-for="section in options(guess)" :key="section" :value="section">{{ words(section) }}</option>
        </select>
      </p>
    </div>
    <p v-if="rest.length" class="small"><strong>{{ rest.length }}</strong> {{ rest.length === 1 ? "section gets an entry" : "sections get entries" }}: <span class="soft">{{ rest.slice(0, 6).map((one) => one.text).join(", ") }}{{ rest.length > 6 ? ", …" : "" }}</span></p>
  </AskDialog>
</template>

<style scoped>
.list {
  max-height: 44vh;
}

.entry {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 300px;
  gap: 10px;
  align-items: center;
  padding: 3px 8px;
  border-bottom: 1px solid var(--line);
  font-family: var(--read);
}

.entry.asked {
  background: var(--wait-wash);
}

.entry select {
  min-width: 0;
}
</style>
