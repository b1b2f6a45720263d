<script setup lang="ts">
/** The page's title, or a copy of the page under another one. What was typed stays where it is refused. */
import { computed, ref } from "vue";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";
import { useTray } from "../stores/tray";
import AskDialog from "./AskDialog.vue";

const props = defineProps<{ copies: boolean }>();
const page = usePage();
const tray = useTray();
const dialogs = useDialogs();
const title = ref(props.copies ? "" : (page.view?.title ?? ""));
const path = ref(page.path.includes("/") ? page.path.slice(0, page.path.lastIndexOf("/") + 1) : "");
const problem = ref("");
const able = computed(() => title.value.trim() !== "" && (!props.copies || path.value.trim() !== ""));
const heading = computed(() => page.view?.sections.find((section) => section.level === 1)?.text ?? "");

async function go(): Promise<void> {
  if (!able.value) return;
  const words = title.value.trim();
  const done = await tray.propose(
    props.copies
      ? { operation: "copy-page", page: page.path, path: path.value.trim(), title: words }
      : { operation: "title", page: page.path, words },
  );
  if (done) dialogs.close();
  else problem.value = tray.problem;
}
</script>

<template>
  <AskDialog
    :title="copies ? `Copy ${page.path}` : 'Page title'"
    does="Show the edits"
    :able="able"
    :problem="problem"
    @go="go"
  >
    <el-form-item :label="copies ? 'Title of the copy' : 'Title'"
      ><el-input v-model="title" autofocus maxlength="400"
    /></el-form-item>
    <el-form-item v-if="copies" label="File name"
      ><el-input v-model="path" class="code" spellcheck="false" placeholder="boilers.html" maxlength="400"
    /></el-form-item>
    <p v-if="!copies && heading && heading === page.view?.title" class="soft small">
      The heading “{{ heading }}” is the same as the title, so it changes too.
    </p>
    <p v-if="copies" class="soft small">
      Everything is copied. Relative addresses are adjusted to the copy's folder, and links to the page itself lead to
      the copy.
    </p>
  </AskDialog>
</template>
