<script setup lang="ts">
/** Titles of sections, made into headings with identifiers and contents: inside the page, or as a new one. */
import { computed, ref } from "vue";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";
import { useTray } from "../stores/tray";
import AskDialog from "./AskDialog.vue";
import BlockChoice from "./BlockChoice.vue";

const props = defineProps<{ asPage: boolean }>();
const page = usePage();
const tray = useTray();
const dialogs = useDialogs();
const titles = ref("");
const contents = ref(true);
const before = ref<number | null>(null);
const path = ref(page.path.includes("/") ? page.path.slice(0, page.path.lastIndexOf("/") + 1) : "");
const title = ref("");
const takeFrame = ref(true);
const problem = ref("");
const able = computed(
  () => titles.value.trim() !== "" && (!props.asPage || (title.value.trim() !== "" && path.value.trim() !== "")),
);

async function go(): Promise<void> {
  if (!able.value) return;
  const common = { page: page.path, titles: titles.value, contents: contents.value };
  const done = await tray.propose(
    props.asPage
      ? { ...common, operation: "new-page", path: path.value.trim(), title: title.value, take_frame: takeFrame.value }
      : { ...common, operation: "skeleton", before: before.value, highest: 2 },
  );
  if (done) dialogs.close();
  else problem.value = tray.problem;
}

/** Let Tab indent, as authors expect while they type an outline; Escape and then Tab leaves the field. */
function indent(event: KeyboardEvent): void {
  const field = event.target as HTMLTextAreaElement;
  event.preventDefault();
  field.setRangeText("  ", field.selectionStart, field.selectionEnd, "end");
  titles.value = field.value;
}
</script>

<template>
  <AskDialog
    :title="asPage ? 'New page' : 'Sections from titles'"
    does="Show the edits"
    :able="able"
    :problem="problem"
    @go="go"
  >
    <template v-if="asPage">
      <el-form-item label="Title of the page"><el-input v-model="title" autofocus maxlength="400" /></el-form-item>
      <el-form-item label="File name"
        ><el-input v-model="path" class="code" spellcheck="false" placeholder="boilers.html" maxlength="400"
      /></el-form-item>
    </template>
    <el-form-item label="Titles, one a line; indent subsections by two spaces">
      <el-input
        v-model="titles"
        type="textarea"
        :rows="8"
        :autofocus="!asPage"
        placeholder="Lighting up&#10;  In winter&#10;Putting out"
        @keydown.tab.exact="indent"
      />
    </el-form-item>
    <el-checkbox v-model="contents">With contents</el-checkbox>
    <el-checkbox v-if="asPage" v-model="takeFrame"
      >With the head, header, navigation and footer of {{ page.path }}</el-checkbox
    >
    <BlockChoice v-if="!asPage" v-model="before" label="Place" end />
  </AskDialog>
</template>
