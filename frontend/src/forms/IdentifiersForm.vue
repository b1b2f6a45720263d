<script setup lang="ts">
/** What can be asked for at the stage of identifiers. */
import { computed, reactive } from "vue";
import type { Operation, PageView } from "../api/client";
import PickOne from "../components/PickOne.vue";
import { counted } from "../text/count";
import ToolMenu, { type Tool } from "./ToolMenu.vue";
import { useDialogs } from "../stores/dialogs";

const props = defineProps<{ page: PageView; unable: boolean; levels: readonly number[] }>();
const emit = defineEmits<{ propose: [operation: Operation]; point: [] }>();

const dialogs = useDialogs();
const chosen = reactive({ to: 6 });
const range = computed(() => props.levels.filter((level) => level <= chosen.to));
const nameless = computed(
  () => props.page.sections.filter((found) => !found.identifier && range.value.includes(found.level)).length,
);
const levelChoices = computed(() => props.levels.map((value) => ({ value, words: `to h${value}` })));
const structure = computed(() => props.page.structure);

const tools = computed<Tool[]>(() => [
  { words: "Identifier for any place on the page…", does: () => emit("point") },
  {
    words: "Identifier for the top of the content…",
    does: () => dialogs.show({ name: "place", places: [], start: "top" }),
  },
  {
    words: "Identifier for the end of the content…",
    does: () => dialogs.show({ name: "place", places: [], start: "bottom" }),
  },
  {
    words: "Modernise old anchors, keep empty ones",
    does: () => emit("propose", { operation: "anchors", page: props.page.path, keep: true }),
    off: !structure.value.anchors,
  },
  { words: "Naming rules…", does: () => dialogs.show({ name: "rules" }), apart: true, always: true },
]);
</script>

<template>
  <form
    class="stage-line"
    @submit.prevent="emit('propose', { operation: 'identify', page: page.path, levels: range })"
  >
    <p v-if="nameless">
      <strong>{{ nameless }}</strong> {{ nameless === 1 ? "section has" : "sections have" }} no identifier.
    </p>
    <p v-else>{{ page.sections.length ? "All have identifiers." : "No sections yet." }}</p>
    <PickOne v-model="chosen.to" :choices="levelChoices" label="Levels that get identifiers" :width="76" />
    <el-button
      v-if="structure.twice.length"
      size="small"
      :disabled="unable"
      title="Identifiers that more than one element has"
      @click="dialogs.show({ name: 'twice' })"
      >{{ structure.twice.length }} twice…</el-button
    >
    <el-button
      v-if="structure.anchors"
      size="small"
      :disabled="unable"
      title="The names of old anchors become identifiers of the headings that they mark; no link breaks"
      @click="emit('propose', { operation: 'anchors', page: page.path, keep: false })"
      >Modernise {{ counted(structure.anchors, "old anchor") }}</el-button
    >
    <ToolMenu :tools="tools" :unable="unable" />
    <el-button size="small" type="primary" native-type="submit" :disabled="unable || !nameless"
      >Give identifiers</el-button
    >
  </form>
</template>
