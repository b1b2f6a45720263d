<script setup lang="ts">
/** How a page is cut into parts; of one that was cut: brought up to date, cut anew, joined. */
import { computed, ref } from "vue";
import type { ProposalView } from "../api/client";
import PickOne from "../components/PickOne.vue";
import PartOptions from "../parts/PartOptions.vue";
import { useDialogs } from "../stores/dialogs";
import { useMeasures } from "../stores/measures";
import { useParts, type Wish } from "../stores/parts";
import { counted } from "../text/count";
import ToolMenu, { type Tool } from "./ToolMenu.vue";

const props = defineProps<{ unable: boolean }>();
const parts = useParts();
const measures = useMeasures();
const dialogs = useDialogs();
const asking = ref(false);
const by = ref<Wish>("parts");
const value = ref<Record<Wish, number>>({ parts: 4, words: 2000, minutes: 10, windows: 10, level: 2 });

const WISHES: { value: Wish; words: string }[] = [
  { value: "parts", words: "number of parts" },
  { value: "words", words: "words a part" },
  { value: "minutes", words: "minutes a part" },
  { value: "windows", words: "windows a part" },
  { value: "level", words: "each heading of level" },
];
const MOST: Record<Wish, number> = { parts: 200, words: 100000, minutes: 600, windows: 500, level: 6 };
const STEPS: Record<Wish, number> = { parts: 1, words: 250, minutes: 1, windows: 1, level: 1 };
const NAMES: Record<string, string> = {
  best: "Best",
  fewer: "One part fewer",
  more: "One part more",
  evenest: "Evenest",
  sections: "Before each main section",
  level: "Before each heading",
};

const count = computed(() => parts.cuts.length + 1);
const longest = computed(() => parts.view?.sections[measures.view?.longest ?? -1]);
const beyond = computed(() => {
  const found = parts.cuts.length || parts.inParts ? parts.there : (parts.view?.sections ?? []);
  const long = found.filter((one) => one.beyond === "long").length;
  const short = found.filter((one) => one.beyond === "short").length;
  return [long ? `${long} too long` : "", short ? `${short} too short` : ""].filter(Boolean).join(", ");
});
const untitled = computed(() => parts.there.find((part) => part.untitled));

/** How even the parts are, and what was given up for it. */
function costOf(proposal: ProposalView): string {
  if (proposal.choice === "level") return "";
  const even = `lengths differ by ${Math.round(proposal.unevenness * 100)} %`;
  return proposal.lower ? `${even}, ${counted(proposal.lower, "cut")} within a main section` : even;
}

/** Cut before the block that is clicked on the page next. */
function pointToCut(): void {
  dialogs.pointing = true;
  dialogs.placing = (start) => {
    dialogs.pointing = false;
    void parts.cutBefore(start);
  };
}

const tools = computed<Tool[]>(() => [
  { words: "Part links, names, contents…", does: () => (asking.value = true), always: true },
  { words: "Cut before a place on the page", does: pointToCut, off: parts.inParts },
  { words: "Bring the parts up to date", does: parts.refresh, off: !parts.inParts, apart: true },
  { words: "Join the parts to one page", does: parts.join, off: !parts.inParts },
  { words: "Discard these cuts", does: parts.clear, off: !parts.changed, apart: true },
  { words: "Windows and limits for sections…", does: () => dialogs.show({ name: "windows" }), always: true },
  { words: "Reading style of the site…", does: () => dialogs.show({ name: "style" }), always: true },
]);
</script>

<template>
  <div>
    <form class="stage-line" @submit.prevent="parts.cut()">
      <p>
        <template v-if="parts.inParts && !parts.changed">
          <strong>{{ counted(parts.there.length, "part") }}</strong> of “{{ parts.view?.title }}”.
          <span v-if="parts.view?.outdated" class="wait"
            >Out of date in {{ counted(parts.view.outdated, "place") }}.</span
          >
          <template v-else>Up to date.</template>
        </template>
        <template v-else-if="parts.cuts.length || parts.inParts">
          <strong>{{ counted(count, "part") }}.</strong>
          <template v-if="untitled"> Part {{ untitled.number }} needs a title.</template>
        </template>
        <template v-else-if="longest"
          >Longest: <strong>{{ longest.text }}</strong>, {{ longest.windows.toFixed(1) }} windows.</template
        >
        <template v-else-if="parts.view"
          >One page of {{ parts.view.words.toLocaleString("en") }} words,
          {{ parts.view.windows.toFixed(0) }} windows.</template
        >
        <span v-if="beyond" class="wait">{{ " " }}{{ beyond }}.</span>
      </p>
      <ToolMenu :tools="tools" :unable="props.unable" />
      <el-button
        v-if="parts.inParts && !parts.changed"
        size="small"
        type="primary"
        :disabled="props.unable || !parts.view?.outdated"
        @click="parts.refresh()"
        >Bring up to date</el-button
      >
      <el-button
        v-else
        size="small"
        type="primary"
        native-type="submit"
        :disabled="props.unable || (!parts.cuts.length && !parts.inParts) || Boolean(untitled)"
        >{{
          parts.cuts.length
            ? `Cut ${parts.inParts ? "anew " : ""}into ${counted(count, "part")}`
            : parts.inParts
              ? "Join to one page"
              : "Cut into parts"
        }}</el-button
      >
    </form>
    <form class="stage-line wish" @submit.prevent="parts.propose(by, value[by])">
      <PickOne v-model="by" :choices="WISHES" label="What the cuts are chosen by" :width="150" />
      <el-input-number
        v-model="value[by]"
        size="small"
        class="number"
        :min="by === 'parts' ? 2 : 1"
        :max="MOST[by]"
        :step="STEPS[by]"
        controls-position="right"
        :aria-label="WISHES.find((one) => one.value === by)?.words"
      />
      <el-button size="small" native-type="submit" :disabled="props.unable">Propose cuts</el-button>
    </form>
    <ul v-if="parts.proposals.length" class="ways" aria-label="Ways to cut the page">
      <li v-for="proposal in parts.proposals" :key="proposal.choice">
        <el-button
          size="small"
          :type="parts.isTaken(proposal) ? 'primary' : undefined"
          plain
          :aria-pressed="parts.isTaken(proposal)"
          @click="parts.take(proposal)"
          >{{ NAMES[proposal.choice] }}: {{ proposal.parts }}</el-button
        >
        <span class="soft small">{{ costOf(proposal) }}</span>
      </li>
    </ul>
    <p v-if="parts.problem" role="alert" class="wrong small">{{ parts.problem }}</p>
    <p v-else-if="measures.problem" class="wrong small">{{ measures.problem }}</p>
    <PartOptions v-model="asking" :unable="props.unable" />
  </div>
</template>

<style scoped>
.wish {
  padding-top: 6px;
}

.number {
  width: 96px;
}

.ways {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 4px 8px;
  margin: 8px 0 2px;
  padding: 0;
  list-style: none;
}

.ways li {
  display: grid;
  grid-column: 1 / -1;
  grid-template-columns: subgrid;
  align-items: center;
}

.ways .el-button {
  justify-content: flex-start;
}
</style>
