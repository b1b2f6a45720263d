<script setup lang="ts">
/** Contents: made, brought up to date, moved, removed; a list made by hand is adopted. */
import { computed, reactive, watch } from "vue";
import type { Operation, PageView } from "../api/client";
import { kindOf, useContents, type Kind } from "../composables/useContents";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";
import PickOne from "../components/PickOne.vue";
import { counted } from "../text/count";
import ToolMenu, { type Tool } from "./ToolMenu.vue";

const props = defineProps<{ page: PageView; unable: boolean }>();
const emit = defineEmits<{ propose: [operation: Operation] }>();
const state = usePage();
const dialogs = useDialogs();
const contents = useContents();

const LEVELS = [2, 3, 4, 5, 6];
const LEVEL_CHOICES = LEVELS.map((value) => ({ value, words: `to h${value}` }));
const KINDS: { value: Kind; words: string }[] = [
  { value: "bullets", words: "nested list" },
  { value: "ordered", words: "numbered list" },
  { value: "numbered", words: "list with 2.3" },
  { value: "row", words: "one row" },
];
const SPOTS = [
  { value: "lead" as const, words: "before the first section" },
  { value: "top" as const, words: "at the top" },
  { value: "side" as const, words: "at the side" },
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
  const found = [];
  if (wrong) found.push(`${wrong} out of date`);
  if (block.value?.missing.length) found.push(`${block.value.missing.length} missing`);
  if (doubted) found.push(`${doubted} shortened before the heading changed`);
  return found.join(", ");
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

const blockChoices = computed(() =>
  contents.blocks.value.map((one) => ({ value: one.index, words: `${where(one.home)}, line ${one.line}` })),
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
          words: "Text around entries…",
          does: () => dialogs.show({ name: "entry-style" }),
          off: block.value.adopted,
        },
        {
          words: "Move before a block…",
          does: () => dialogs.show({ name: "contents-place", block: block.value?.index ?? 0 }),
        },
        {
          words: block.value.adopted ? "Stop keeping this list up to date" : "Remove these contents",
          does: () =>
            emit("propose", { operation: "no-contents", page: props.page.path, block: block.value?.index ?? 0 }),
          apart: true,
        },
      ]
    : [{ words: "Put before a block…", does: () => dialogs.show({ name: "contents-place", block: "new" }) }]),
  {
    words: section.value
      ? `List the subsections of “${section.value.text.slice(0, 30)}” in it`
      : "List a section's subsections in it",
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
    ? [{ words: block.value ? "Make another contents list" : "Make contents, keep this list too", does: make }]
    : []),
]);

function move(spot: "lead" | "top" | "side"): void {
  if (block.value)
    emit("propose", { operation: "move-contents", page: props.page.path, block: block.value.index, spot });
}
</script>

<template>
  <form class="stage-line" @submit.prevent="block ? (changed ? change() : contents.refresh()) : make()">
    <PickOne
      v-if="contents.blocks.value.length > 1 && block"
      :model-value="block.index"
      :choices="blockChoices"
      label="Contents that are worked on"
      :width="170"
      @update:model-value="state.block = $event"
    />
    <p v-if="block && faults" class="wait"><strong>Out of date:</strong> {{ faults }}.</p>
    <p v-else-if="block?.adopted">
      Your own list on line {{ block.line }}: {{ counted(block.entries.length, "entry", "entries") }}, up to date.
    </p>
    <p v-else-if="block">
      Contents on line {{ block.line }}: {{ counted(block.entries.length, "entry", "entries") }}, up to date.
    </p>
    <p v-else-if="handmade.length">
      Your list on <strong>line {{ handmade[0]!.line }}</strong> lists
      {{ handmade[0]!.guesses.filter((one) => one.section !== null && one.sure).length }} of
      {{ counted(page.sections.length, "section") }}.
    </p>
    <p v-else>No contents yet. {{ counted(listed, "section") }} would be listed.</p>
    <template v-if="block || !handmade.length">
      <PickOne v-model="chosen.to" :choices="LEVEL_CHOICES" label="Deepest level listed" :width="80" />
      <PickOne
        v-if="!block?.adopted"
        v-model="chosen.kind"
        :choices="KINDS"
        label="Form of the contents"
        :width="126"
      />
      <PickOne v-if="!block" v-model="chosen.spot" :choices="SPOTS" label="Place of the contents" :width="120" />
    </template>
    <ToolMenu :tools="tools" :unable="unable" />
    <el-button
      v-if="!block && handmade.length"
      size="small"
      type="primary"
      :disabled="unable"
      @click="dialogs.show({ name: 'adopt', start: handmade[0]!.start })"
      >Review and adopt…</el-button
    >
    <el-button
      v-else
      size="small"
      type="primary"
      native-type="submit"
      :disabled="unable || (block ? !changed && !block.outdated : !listed)"
      >{{ !block ? "Make contents" : changed ? "Change" : "Bring up to date" }}</el-button
    >
  </form>
</template>
