<script setup lang="ts">
/** What can be asked for at the stage of headings. */
import { computed, ref } from "vue";
import type { Operation, PageView } from "../api/client";
import ToolMenu, { type Tool } from "./ToolMenu.vue";
import { useHeadings } from "../composables/useHeadings";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";

const props = defineProps<{ page: PageView; unable: boolean }>();
const emit = defineEmits<{ propose: [operation: Operation] }>();

/** The scores above which look-alikes can be accepted together. */
const SCORES = [40, 50, 60, 70, 80, 90];

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
  { words: "Put in a heading…", does: () => dialogs.show({ name: "heading", missing: null }) },
  { words: "Sections from titles…", does: () => dialogs.show({ name: "skeleton" }) },
  { words: "New page from titles…", does: () => dialogs.show({ name: "new-page" }) },
  { words: "Copy this page…", does: () => dialogs.show({ name: "copy-page" }) },
  { words: "Page title…", does: () => dialogs.show({ name: "title" }) },
  { words: "Put in a sample of code…", does: () => dialogs.show({ name: "sample" }) },
  {
    words: "Put section elements around sections",
    does: ask({ operation: "wrap", page: path.value, levels: WITHIN }),
    apart: true,
  },
  {
    words: "Remove section elements",
    does: ask({ operation: "unwrap", page: path.value, levels: [1, ...WITHIN] }),
    off: !structure.value.wrapped.length,
  },
  {
    words: "Put rules before level 2 sections",
    does: ask({ operation: "separators", page: path.value, levels: [2] }),
  },
  {
    words: "Remove rules before sections",
    does: ask({ operation: "no-separators", page: path.value, levels: [1, ...WITHIN] }),
  },
  { words: "Put comments behind far end tags", does: ask({ operation: "end-notes", page: path.value }) },
  { words: "Remove those comments", does: ask({ operation: "no-end-notes", page: path.value }) },
  {
    words: "What is content, what is furniture…",
    does: () => dialogs.show({ name: "regions" }),
    apart: true,
    always: true,
  },
  ...structure.value.refused.map((key): Tool => ({
    words: `Offer “${key}” again`,
    does: () => void headings.refuse(key, false),
    always: true,
  })),
]);
</script>

<template>
  <div class="headings-form">
    <p class="line soft">
      <span>{{ page.sections.length }} {{ page.sections.length === 1 ? "section" : "sections" }}.</span>
      <span v-if="!state.marked.size && page.sections.length"
        >Enter or a double click edits one, dragging moves it.</span
      >
      <template v-else-if="state.marked.size"
        ><strong class="marks">{{ state.marked.size }} marked</strong>
        <button type="button" class="button quiet" @click="state.unmark()">Unmark</button></template
      >
      <label class="follow" title="Whether subsections follow when a level changes"
        ><input v-model="state.wholeSections" type="checkbox" /> subsections follow</label
      >
    </p>
    <div class="tools">
      <template v-if="structure.lookalikes.length">
        <button type="button" class="button main" :disabled="unable || !sure.length" @click="headings.accept(sure)">
          Make {{ sure.length }} {{ sure.length === 1 ? "heading" : "headings" }}
        </button>
        <label
          >at least
          <select v-model.number="least" class="field" aria-label="Least score of a look-alike">
            <option v-for="score in SCORES" :key="score" :value="score">{{ score }} % sure</option>
          </select></label
        >
      </template>
      <button
        v-for="repair in structure.repairs"
        :key="repair.code"
        type="button"
        class="button"
        :disabled="unable"
        :title="repair.title"
        @click="dialogs.show({ name: 'repair', code: repair.code })"
      >
        {{
          { gaps: "Close the gaps…", "several-h1": "One first heading…", "no-h1": "A first heading…" }[repair.code]
        }}
      </button>
      <button
        v-if="structure.raw_samples.length"
        type="button"
        class="button"
        :disabled="unable"
        :title="`A sample on line ${structure.raw_samples.join(', ')} holds markup that was left as markup`"
        @click="emit('propose', { operation: 'escape-samples', page: path })"
      >
        Escape {{ structure.raw_samples.length }} raw {{ structure.raw_samples.length === 1 ? "sample" : "samples" }}
      </button>
      <button type="button" class="button" @click="dialogs.show({ name: 'spoken-headings' })">
        Outline as read aloud…
      </button>
      <ToolMenu :tools="tools" :unable="unable" />
    </div>
  </div>
</template>

<style scoped>
.headings-form {
  display: flex;
  flex-direction: column;
  gap: 6px;
}

.line {
  display: flex;
  gap: 8px;
  align-items: center;
}

.line .button {
  min-height: 22px;
  padding: 0 6px;
}

.follow {
  flex: none;
  margin-left: auto;
  white-space: nowrap;
}

.marks {
  color: var(--plate);
}

label {
  display: inline-flex;
  align-items: center;
  gap: 5px;
}
</style>
