<script setup lang="ts">
/** Back-to-top links: after which sections, where they lead, what they say. */
import { computed, reactive } from "vue";
import type { Operation, PageView } from "../api/client";
import { useDialogs } from "../stores/dialogs";
import { useMeasures } from "../stores/measures";

const props = defineProps<{ page: PageView; unable: boolean }>();
const emit = defineEmits<{ propose: [operation: Operation] }>();

const dialogs = useDialogs();
const measures = useMeasures();

const LEVELS = [1, 2, 3, 4, 5, 6];
const chosen = reactive({
  from: 2,
  to: 2,
  windows: 0,
  goal: "top" as "top" | "mark" | "contents",
  words: "",
  corner: "end" as "end" | "heading",
  everywhere: false,
  alike: false,
});
const levels = computed(() =>
  LEVELS.filter((level) => level >= chosen.from && level <= Math.max(chosen.to, chosen.from)),
);
const reached = computed(() =>
  props.page.sections.filter(
    (one) => levels.value.includes(one.level) && (measures.stretches.get(one.index)?.windows ?? 0) >= chosen.windows,
  ),
);
const without = computed(() => reached.value.filter((one) => !one.back_link).length);

function put(): void {
  emit("propose", {
    operation: "back-to-top",
    page: props.page.path,
    levels: levels.value,
    to: chosen.goal,
    least_words: 0,
    least_windows: chosen.windows,
    words: chosen.words.trim(),
    corner: chosen.corner,
    alike: chosen.alike,
    everywhere: chosen.everywhere,
    window: chosen.windows ? { ...measures.window } : null,
  });
}
</script>

<template>
  <form class="returns-form" @submit.prevent="put">
    <p>
      <strong>{{ reached.length }}</strong> {{ reached.length === 1 ? "section is" : "sections are" }} of these levels
      and that long; {{ without ? `${without} without a way back` : "each has its way back" }}.
      <span v-if="page.back_links_by_hand" class="soft"
        >{{ page.back_links_by_hand }} made by hand {{ page.back_links_by_hand === 1 ? "counts" : "count" }} and
        {{ page.back_links_by_hand === 1 ? "stays" : "stay" }} as
        {{ page.back_links_by_hand === 1 ? "it is" : "they are" }}.</span
      >
    </p>
    <div class="tools">
      <label
        >Levels
        <select v-model.number="chosen.from" class="field" aria-label="Highest level">
          <option v-for="level in LEVELS" :key="level">{{ level }}</option>
        </select>
        to
        <select v-model.number="chosen.to" class="field" aria-label="Lowest level">
          <option v-for="level in LEVELS" :key="level" :disabled="level < chosen.from">{{ level }}</option>
        </select></label
      >
      <label
        >from
        <input
          v-model.number="chosen.windows"
          class="field short"
          type="number"
          min="0"
          max="50"
          step="0.5"
          aria-label="Least length in windows"
        />
        windows on</label
      >
      <label
        >to
        <select v-model="chosen.goal" class="field" aria-label="Where they lead">
          <option value="top">#top</option>
          <option value="mark">an identifier at the top</option>
          <option value="contents" :disabled="!page.has_contents">the contents</option>
        </select></label
      >
      <label
        >at the
        <select v-model="chosen.corner" class="field" aria-label="Where they stand">
          <option value="end">section's end</option>
          <option value="heading">heading</option>
        </select></label
      >
      <label
        >saying
        <input
          v-model="chosen.words"
          class="field words"
          maxlength="60"
          :placeholder="chosen.goal === 'contents' ? 'Back to contents' : 'Back to top'"
      /></label>
      <label v-if="page.back_links_by_hand"><input v-model="chosen.alike" type="checkbox" /> make all alike</label>
      <label><input v-model="chosen.everywhere" type="checkbox" /> on all pages</label>
      <button class="button main" :disabled="unable">Add back-to-top links</button>
      <button
        v-if="page.back_links > page.back_links_by_hand"
        type="button"
        class="button"
        :disabled="unable"
        @click="emit('propose', { operation: 'no-back-to-top', page: page.path })"
      >
        Remove
      </button>
      <button type="button" class="button quiet" :disabled="unable" @click="dialogs.show({ name: 'style' })">
        Reading style…
      </button>
    </div>
  </form>
</template>

<style scoped>
.returns-form {
  display: flex;
  flex-direction: column;
  gap: 6px;
}

.words {
  width: 120px;
}
</style>
