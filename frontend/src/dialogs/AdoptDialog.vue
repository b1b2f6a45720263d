<script setup lang="ts">
/** A list made by hand: what its entries mean, before it becomes the page's contents. */
import { computed, ref } from "vue";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";
import { useTray } from "../stores/tray";
import PickOne, { type Choice } from "../components/PickOne.vue";
import AskDialog from "./AskDialog.vue";

const props = defineProps<{ start: number }>();
const page = usePage();
const tray = useTray();
const dialogs = useDialogs();

/** What becomes of an entry that means no section. */
const KEEP = "keep";
const DROP = "drop";
type Fate = number | typeof KEEP | typeof DROP;
const list = computed(() => page.view?.navigation.handmade.find((one) => one.start === props.start) ?? null);
const chosen = ref<Fate[]>(
  (list.value?.guesses ?? []).map((one) => (one.sure && one.section !== null ? one.section : KEEP)),
);
const words = (section: number) => page.view?.sections[section]?.text ?? "";
const rest = computed(() => {
  const there = new Set(chosen.value);
  return (list.value?.missing ?? []).filter((index) => !there.has(index));
});
const fates = computed(() => {
  const found = list.value?.guesses ?? [];
  const led = found.filter(
    (guess, row) => typeof chosen.value[row] === "number" && !(guess.leads && guess.section === chosen.value[row]),
  ).length;
  const dead = found.filter((guess, row) => chosen.value[row] === KEEP && !guess.leads).length;
  const gone = chosen.value.filter((fate) => fate === DROP).length;
  return { led, dead, gone, kept: found.length - led - dead - gone };
});
const choicesOf = (guess: { section: number | null; others: number[]; leads: boolean }): Choice<Fate>[] => {
  const first = [guess.section, ...guess.others].filter((index): index is number => index !== null);
  const rest = (page.view?.sections ?? []).map((one) => one.index).filter((index) => !first.includes(index));
  return [
    { value: KEEP, words: guess.leads ? "keep as it is" : "keep, though it leads nowhere" },
    { value: DROP, words: "remove this entry" },
    ...[...first, ...rest].map((section) => ({ value: section, words: words(section) })),
  ];
};

function go(): void {
  const sections = Object.fromEntries(chosen.value.map((section, row) => [row, section]));
  void tray.propose({ operation: "adopt", page: page.path, start: props.start, sections });
  dialogs.close();
}
</script>

<template>
  <AskDialog v-if="list" :title="`The list on line ${list.line}`" does="Show the edits" :width="700" @go="go">
    <p class="soft small">
      The list becomes the page's contents and is kept up to date. Your entries, their words and their order stay;
      dead links are corrected, and sections without an entry get one. You can stop this at any time.
    </p>
    <div class="scroller list" tabindex="0" aria-label="Entries of the list">
      <p class="entry head small soft"><span>Entry</span><span>Leads to</span></p>
      <p
        v-for="(guess, row) in list.guesses"
        :key="row"
        class="entry"
        :class="{ asked: !guess.sure && chosen[row] === KEEP }"
      >
        <span class="clipped" :title="guess.words">{{ guess.words }}</span>
        <span v-if="guess.leads && guess.section === null" class="small soft">leads elsewhere; kept as it is</span>
        <PickOne v-else v-model="chosen[row]!" :choices="choicesOf(guess)" :label="`What ${guess.words} means`" />
      </p>
    </div>
    <p class="small">
      <strong>{{ fates.kept }}</strong> {{ fates.kept === 1 ? "entry stays" : "entries stay"
      }}<template v-if="fates.led"
        >, <strong>{{ fates.led }}</strong> {{ fates.led === 1 ? "link is" : "links are" }} corrected</template
      ><template v-if="fates.dead"
        >, <strong>{{ fates.dead }}</strong> {{ fates.dead === 1 ? "leads" : "lead" }} nowhere</template
      ><template v-if="fates.gone"
        >, <strong>{{ fates.gone }}</strong> {{ fates.gone === 1 ? "is" : "are" }} removed</template
      >.
      <template v-if="rest.length"
        ><strong>{{ rest.length }}</strong>
        {{ rest.length === 1 ? "section gets an entry" : "sections get entries" }}:
        <span class="soft"
          >{{ rest.slice(0, 6).map(words).join(", ") }}{{ rest.length > 6 ? ", …" : "" }}</span
        ></template
      >
    </p>
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
</style>
