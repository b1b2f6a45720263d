<script setup lang="ts">
/** What can be asked for at the stage of identifiers. */
import { computed, reactive } from "vue";
import type { Operation, PageView } from "../api/client";
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
const structure = computed(() => props.page.structure);

const tools = computed<Tool[]>(() => [
  { words: "Point to any place on the page…", does: () => emit("point") },
  { words: "Mark the very top…", does: () => dialogs.show({ name: "place", places: [], start: "top" }) },
  { words: "Mark the very bottom…", does: () => dialogs.show({ name: "place", places: [], start: "bottom" }) },
  {
    words: "Modernise old anchors, leave the empty ones",
    does: () => emit("propose", { operation: "anchors", page: props.page.path, keep: true }),
    off: !structure.value.anchors,
  },
  { words: "How identifiers are made…", does: () => dialogs.show({ name: "rules" }), apart: true, always: true },
]);
</script>

<template>
  <form
    class="identifiers-form"
    @submit.prevent="emit('propose', { operation: 'identify', page: page.path, levels: range })"
  >
    <p v-if="nameless">
      <strong>{{ nameless }}</strong> {{ nameless === 1 ? "section has" : "sections have" }} no identifier; what each
      would get is shown dashed.
    </p>
    <p v-else>
      {{ page.sections.length ? "Every section of these levels has its identifier." : "There are no sections yet." }}
    </p>
    <div class="tools">
      <label
        >Levels 2 to
        <select v-model.number="chosen.to" class="field">
          <option v-for="level in levels" :key="level">{{ level }}</option>
        </select></label
      >
      <button class="button main" :disabled="unable || !nameless">Give identifiers</button>
      <button
        v-if="structure.anchors"
        type="button"
        class="button"
        :disabled="unable"
        title="The names of old anchors become the id of the heading they mark; the words stay, so links do"
        @click="emit('propose', { operation: 'anchors', page: page.path, keep: false })"
      >
        Modernise {{ structure.anchors }} old {{ structure.anchors === 1 ? "anchor" : "anchors" }}
      </button>
      <button
        v-if="structure.twice.length"
        type="button"
        class="button"
        :disabled="unable"
        @click="dialogs.show({ name: 'twice' })"
      >
        {{ structure.twice.length }} used twice…
      </button>
      <ToolMenu :tools="tools" :unable="unable" />
    </div>
  </form>
</template>

<style scoped>
form.identifiers-form {
  display: flex;
  flex-direction: column;
  align-items: stretch;
  gap: 6px;
}
</style>
