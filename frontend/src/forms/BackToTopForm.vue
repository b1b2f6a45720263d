<script setup lang="ts">
/** Back-to-top links: after which sections, where they lead, what they say. */
import { computed, reactive, ref } from "vue";
import type { Operation, PageView } from "../api/client";
import PickOne from "../components/PickOne.vue";
import { useDialogs } from "../stores/dialogs";
import { useMeasures } from "../stores/measures";
import { counted } from "../text/count";
import ToolMenu, { type Tool } from "./ToolMenu.vue";

const props = defineProps<{ page: PageView; unable: boolean }>();
const emit = defineEmits<{ propose: [operation: Operation] }>();

const dialogs = useDialogs();
const measures = useMeasures();

const LEVELS = [1, 2, 3, 4, 5, 6];
const asking = ref(false);
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
const levelChoices = LEVELS.map((value) => ({ value, words: String(value) }));
const goals = computed(() => [
  { value: "top" as const, words: "the top, as #top" },
  { value: "mark" as const, words: "an identifier at the top" },
  { value: "contents" as const, words: "the contents", off: !props.page.has_contents },
]);
const CORNERS = [
  { value: "end" as const, words: "At the section's end" },
  { value: "heading" as const, words: "Under the heading" },
];
const tools = computed<Tool[]>(() => [
  {
    words: "Remove the links made here",
    does: () => emit("propose", { operation: "no-back-to-top", page: props.page.path }),
    off: props.page.back_links <= props.page.back_links_by_hand,
  },
  { words: "Reading style of the site…", does: () => dialogs.show({ name: "style" }), apart: true },
]);

function put(): void {
  asking.value = false;
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
  <div class="stage-line">
    <p>
      <template v-if="!reached.length">No section is of these levels and this length.</template>
      <template v-else-if="without"
        ><strong>{{ without }}</strong> of {{ counted(reached.length, "section") }} have no back-to-top
        link.</template
      >
      <template v-else>{{ reached.length === 1 ? "The section has" : "All sections have" }} a link back.</template>
      <span v-if="page.back_links_by_hand" class="soft"
        >{{ " " }}{{ counted(page.back_links_by_hand, "link") }} made by hand
        {{ chosen.alike ? "become alike" : "stay" }}.</span
      >
    </p>
    <el-button size="small" @click="asking = true">Options…</el-button>
    <ToolMenu :tools="tools" :unable="unable" />
    <el-button size="small" type="primary" :disabled="unable" @click="put">Add back-to-top links</el-button>

    <el-drawer v-model="asking" title="Back-to-top links" size="360" append-to-body>
      <el-form label-position="top" @submit.prevent="put">
        <div class="pair">
          <el-form-item label="From level">
            <PickOne v-model="chosen.from" :choices="levelChoices" label="Highest level" size="default" />
          </el-form-item>
          <el-form-item label="to level">
            <PickOne v-model="chosen.to" :choices="levelChoices" label="Lowest level" size="default" />
          </el-form-item>
        </div>
        <el-form-item label="Only for sections of at least so many windows">
          <el-input-number
            v-model="chosen.windows"
            :min="0"
            :max="50"
            :step="0.5"
            aria-label="Least length in windows"
          />
        </el-form-item>
        <el-form-item label="They lead to">
          <PickOne v-model="chosen.goal" :choices="goals" label="Where they lead" size="default" />
        </el-form-item>
        <el-form-item label="They say">
          <el-input
            v-model="chosen.words"
            maxlength="60"
            :placeholder="chosen.goal === 'contents' ? 'Back to contents' : 'Back to top'"
          />
        </el-form-item>
        <el-form-item label="Place">
          <el-radio-group v-model="chosen.corner">
            <el-radio v-for="corner in CORNERS" :key="corner.value" :value="corner.value">{{
              corner.words
            }}</el-radio>
          </el-radio-group>
        </el-form-item>
        <el-checkbox v-if="page.back_links_by_hand" v-model="chosen.alike"
          >Make those made by hand like the others</el-checkbox
        >
        <el-checkbox v-model="chosen.everywhere">On all pages of the site</el-checkbox>
        <div class="drawer-foot">
          <el-button type="primary" native-type="submit" :disabled="unable">Show the edits</el-button>
        </div>
      </el-form>
    </el-drawer>
  </div>
</template>
