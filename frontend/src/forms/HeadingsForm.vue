<script setup lang="ts">
/** What can be asked for at the stage of headings. */
import { computed, ref } from "vue";
import type { Operation, PageView } from "../api/client";
import PickOne from "../components/PickOne.vue";
import { counted } from "../text/count";
import ToolMenu, { type Tool } from "./ToolMenu.vue";
import { useHeadings } from "../composables/useHeadings";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";

const props = defineProps<{ page: PageView; unable: boolean }>();
const emit = defineEmits<{ propose: [operation: Operation] }>();

/** The scores above which look-alikes can be accepted together. */
const SCORES = [40, 50, 60, 70, 80, 90].map((value) => ({ value, words: `at least ${value} % sure` }));
const REPAIRS: Record<string, string> = {
  gaps: "Close the gaps…",
  "several-h1": "One main heading…",
  "no-h1": "Add a main heading…",
};

const state = usePage();
const dialogs = useDialogs();
const headings = useHeadings();

const structure = computed(() => props.page.structure);
const least = ref(props.page.structure.sure_from);
const sure = computed(() => structure.value.lookalikes.filter((found) => found.score >= least.value));
const path = computed(() => props.page.path);
const WITHIN = [2, 3, 4, 5, 6];

const ask = (operation: Operation) => () => emit("propose", operation);

const tools = computed<Tool[]>(() => [
  ...(structure.value.raw_samples.length
    ? [
        {
          words: `Escape ${counted(structure.value.raw_samples.length, "raw code sample")}`,
          does: ask({ operation: "escape-samples", page: path.value }),
        },
      ]
    : []),
  {
    words: `${state.wholeSections ? "✓ " : ""}Subsections change level with their section`,
    does: () => (state.wholeSections = !state.wholeSections),
    always: true,
  },
  { words: "Outline as read aloud…", does: () => dialogs.show({ name: "spoken-headings" }), always: true },
  { words: "Insert a heading…", does: () => dialogs.show({ name: "heading", missing: null }) },
  {
    words: state.section ? `Duplicate “${state.section.text.slice(0, 30)}”` : "Duplicate the section",
    does: () => emit("propose", { operation: "duplicate", page: path.value, section: state.selected }),
    off: !state.section,
  },
  {
    words: state.section ? `Remove “${state.section.text.slice(0, 30)}”` : "Remove the section",
    does: () => emit("propose", { operation: "remove-section", page: path.value, section: state.selected }),
    off: !state.section,
  },
  { words: "Sections from titles…", does: () => dialogs.show({ name: "skeleton" }) },
  { words: "New page from titles…", does: () => dialogs.show({ name: "new-page" }) },
  { words: "Copy this page…", does: () => dialogs.show({ name: "copy-page" }) },
  {
    words: "Rename or move this page…",
    does: () => dialogs.show({ name: "move-file", path: path.value, isPage: true }),
  },
  { words: "Page title…", does: () => dialogs.show({ name: "title" }) },
  { words: "Insert a code sample…", does: () => dialogs.show({ name: "sample" }) },
  {
    words: "Wrap sections in section elements",
    does: ask({ operation: "wrap", page: path.value, levels: WITHIN }),
    apart: true,
  },
  {
    words: "Remove section elements",
    does: ask({ operation: "unwrap", page: path.value, levels: [1, ...WITHIN] }),
    off: !structure.value.wrapped.length,
  },
  {
    words: "Insert rules between h2 sections",
    does: ask({ operation: "separators", page: path.value, levels: [2] }),
  },
  {
    words: "Remove rules between sections",
    does: ask({ operation: "no-separators", page: path.value, levels: [1, ...WITHIN] }),
  },
  { words: "Label end tags with comments", does: ask({ operation: "end-notes", page: path.value }) },
  { words: "Remove the comments on end tags", does: ask({ operation: "no-end-notes", page: path.value }) },
  {
    words: "Correct what counts as content…",
    does: () => dialogs.show({ name: "regions" }),
    apart: true,
    always: true,
  },
  ...structure.value.refused.map((key): Tool => ({
    words: `Offer “${key}” as a heading again`,
    does: () => void headings.refuse(key, false),
    always: true,
  })),
]);
</script>

<template>
  <div class="stage-line">
    <p v-if="state.marked.size">
      <strong>{{ state.marked.size }} marked.</strong>
      <el-button size="small" text @click="state.unmark()">Unmark</el-button>
    </p>
    <p v-else-if="structure.lookalikes.length">
      <strong>{{ counted(structure.lookalikes.length, "line") }}</strong>
      {{ structure.lookalikes.length === 1 ? "looks" : "look" }} like
      {{ structure.lookalikes.length === 1 ? "a heading" : "headings" }}.
    </p>
    <p v-else>{{ counted(page.sections.length, "section") }}.</p>
    <PickOne
      v-if="structure.lookalikes.length"
      v-model="least"
      :choices="SCORES"
      label="Least score of a look-alike"
      :width="150"
    />
    <el-button
      v-for="repair in structure.repairs"
      :key="repair.code"
      size="small"
      :disabled="unable"
      :title="repair.title"
      @click="dialogs.show({ name: 'repair', code: repair.code })"
      >{{ REPAIRS[repair.code] }}</el-button
    >
    <ToolMenu :tools="tools" :unable="unable" />
    <el-button
      v-if="structure.lookalikes.length"
      size="small"
      type="primary"
      :disabled="unable || !sure.length"
      @click="headings.accept(sure)"
      >Make {{ counted(sure.length, "heading") }}</el-button
    >
  </div>
</template>
