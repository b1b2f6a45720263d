<script setup lang="ts">
/** Contents: made, brought up to date, moved, removed; a list made by hand is adopted. */
import { computed, reactive, watch } from "vue";
import type { Operation, PageView } from "../api/client";
import { kindOf, useContents, type Kind } from "../composables/useContents";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";
import ToolMenu, { type Tool } from "./ToolMenu.vue";

const props = defineProps<{ page: PageView; unable: boolean }>();
const emit = defineEmits<{ propose: [operation: Operation] }>();
const state = usePage();
const dialogs = useDialogs();
const contents = useContents();

const LEVELS = [2, 3, 4, 5, 6];
const KINDS: [Kind, string][] = [
  ["bullets", "nested list"],
  ["ordered", "numbered list"],
  ["numbered", "list with 2.3"],
  ["row", "one row"],
];
const chosen = reactive<{ to: number; kind: Kind; spot: "lead" | "top" | "side" }>({
  to: 3,
  kind: "bullets",
  spot: "lead",
});
const block = contents.block;
const handmade = computed(() => props.page.navigation.handmade);
const levels = computed(() => {
  const lowest = Math.min(block.value?.levels[0] ?? 2, chosen.to);
  return LEVELS.filter((level) => level >= Math.max(lowest, 2) && level <= chosen.to);
});
const listed = computed(() => props.page.sections.filter((found) => levels.value.includes(found.level)).length);
const changed = computed(
  () =>
    block.value !== null && (kindOf(block.value) !== chosen.kind || Math.max(...block.value.levels) !== chosen.to),
);
const faults = computed(() => {
  const wrong = (block.value?.entries ?? []).filter((entry) =>
    ["stale", "gone", "open"].includes(entry.state),
  ).length;
  const doubted = (block.value?.entries ?? []).filter((entry) => entry.state === "doubted").length;
  const said = [];
  if (wrong) said.push(`${wrong} out of date`);
  if (block.value?.missing.length) said.push(`${block.value.missing.length} missing`);
  if (doubted) said.push(`${doubted} shortened before the heading changed`);
  return said.join(", ");
});

watch(
  block,
  (now) => {
    if (!now) return;
    chosen.kind = kindOf(now);
    chosen.to = Math.max(...now.levels, 2);
  },
  { immediate: true },
);

const where = (home: number | null) =>
  home === null ? "the whole page" : `“${props.page.sections[home]?.text ?? ""}”`;
const section = computed(() => state.section);
const parts = computed(() => section.value && props.page.sections.some((one) => one.parent === section.value?.index));

function make(): void {
  contents.ask({ levels: levels.value, ...contents.shape(chosen.kind), spot: chosen.spot, block: "new" });
}

function change(): void {
  if (!block.value) return;
  contents.ask({ block: block.value.index, levels: levels.value, ...contents.shape(chosen.kind) });
}

const tools = computed<Tool[]>(() => [
  ...(block.value
    ? [
        { words: "Move after the lead", does: () => move("lead") },
        { words: "Move to the top", does: () => move("top") },
        { words: "Move to the side", does: () => move("side"), off: block.value.beside },
        {
          words: "Words around entries…",
          does: () => dialogs.show({ name: "entry-style" }),
          off: block.value.adopted,
        },
        {
          words: "Move before a block…",
          does: () => dialogs.show({ name: "contents-place", block: block.value?.index ?? 0 }),
        },
        {
          words: block.value.adopted ? "Make the list your own again" : "Remove these contents",
          does: () =>
            emit("propose", { operation: "no-contents", page: props.page.path, block: block.value?.index ?? 0 }),
          apart: true,
        },
      ]
    : [{ words: "Put before a block…", does: () => dialogs.show({ name: "contents-place", block: "new" }) }]),
  {
    words: section.value
      ? `List the parts of “${section.value.text.slice(0, 30)}” below it`
      : "List a section's parts below it",
    does: () => contents.ask({ home: section.value?.index ?? 0 }),
    off: !parts.value,
    apart: true,
  },
  ...handmade.value.map((one) => ({
    words: `Adopt the list on line ${one.line}…`,
    does: () => dialogs.show({ name: "adopt", start: one.start }),
  })),
  { words: "Entries for many terms…", does: () => dialogs.show({ name: "entries" }), apart: true },
  { words: "Reading style of the site…", does: () => dialogs.show({ name: "style" }) },
  ...(block.value || handmade.value.length
    ? [{ words: block.value ? "Other contents for the page" : "Make contents beside it", does: make }]
    : []),
]);

function move(spot: "lead" | "top" | "side"): void {
  if (block.value)
    emit("propose", { operation: "move-contents", page: props.page.path, block: block.value.index, spot });
}
</script>

<template>
  <div class="contents-form">
    <p v-if="contents.blocks.value.length > 1" class="tools">
      <label
        >Contents of
        <select
          :value="block?.index"
          class="field"
          aria-label="Contents that are worked on"
          @change="state.block = Number(($event.target as HTMLSelectElement).value)"
        >
          <option v-for="one in contents.blocks.value" :key="one.index" :value="one.index">
            {{ where(one.home) }}, line {{ one.line }}
          </option>
        </select></label
      >
    </p>
    <p v-if="block && faults" class="out"><strong>Out of date:</strong> {{ faults }}.</p>
    <p v-else-if="block?.adopted">
      Your own list on line {{ block.line }}: {{ block.entries.length }}
      {{ block.entries.length === 1 ? "entry" : "entries" }}, up to date. It keeps its own sections, order and words.
    </p>
    <p v-else-if="block">
      Contents on line {{ block.line }}: {{ block.entries.length }}
      {{ block.entries.length === 1 ? "entry" : "entries" }}, all true to their sections.
      <span class="soft">Enter gives an entry words of your own; Space leaves it out.</span>
    </p>
    <p v-else-if="handmade.length">
      Your list on <strong>line {{ handmade[0]!.line }}</strong> lists
      {{ handmade[0]!.guesses.filter((one) => one.section !== null && one.sure).length }} of
      {{ page.sections.length }} sections. Adopting it corrects dead links and adds what is missing; your entries stay
      as they are.
    </p>
    <p v-else>
      A list of jump links to the sections: <strong>{{ listed }}</strong> {{ listed === 1 ? "entry" : "entries" }}.
    </p>
    <form class="tools" @submit.prevent="block ? (changed ? change() : contents.refresh()) : make()">
      <button
        v-if="!block && handmade.length"
        type="button"
        class="button main"
        :disabled="unable"
        @click="dialogs.show({ name: 'adopt', start: handmade[0]!.start })"
      >
        Review and adopt…
      </button>
      <template v-if="block || !handmade.length">
        <label
          >Levels to
          <select v-model.number="chosen.to" class="field" aria-label="Deepest level listed">
            <option v-for="level in LEVELS" :key="level">{{ level }}</option>
          </select></label
        >
        <label v-if="!block?.adopted"
          >as
          <select v-model="chosen.kind" class="field" aria-label="Form of the contents">
            <option v-for="[kind, words] in KINDS" :key="kind" :value="kind">{{ words }}</option>
          </select></label
        >
        <label v-if="!block"
          >at
          <select v-model="chosen.spot" class="field" aria-label="Place of the contents">
            <option value="lead">the lead's end</option>
            <option value="top">the top</option>
            <option value="side">the side</option>
          </select></label
        >
        <button class="button main" :disabled="unable || (block ? !changed && !block.outdated : !listed)">
          {{ !block ? "Make contents" : changed ? "Change" : "Bring up to date" }}
        </button>
      </template>
      <ToolMenu :tools="tools" :unable="unable" />
    </form>
  </div>
</template>

<style scoped>
.contents-form {
  display: flex;
  flex-direction: column;
  gap: 6px;
}

.out {
  color: var(--wait);
}
</style>
