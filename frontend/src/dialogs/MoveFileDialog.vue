<script setup lang="ts">
/** Another name or folder for a page or another file; what leads there follows. */
import { computed, ref } from "vue";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";
import { useSite } from "../stores/site";
import { useTray } from "../stores/tray";
import AskDialog from "./AskDialog.vue";

const props = defineProps<{ path: string; isPage: boolean }>();
const page = usePage();
const site = useSite();
const tray = useTray();
const dialogs = useDialogs();
const to = ref(props.path);
const forward = ref(false);
const problem = ref("");
const able = computed(() => to.value.trim() !== "" && to.value.trim() !== props.path);

async function go(): Promise<void> {
  if (!able.value) return;
  const done = await tray.propose({
    operation: "move-files",
    page: page.path || (site.view?.first[0] ?? ""),
    moves: { [props.path]: to.value.trim() },
    forward: forward.value,
  });
  if (done) dialogs.close();
  else problem.value = tray.problem;
}

/** Begin with the name chosen, without its folder and ending: that is what is typed over most often. */
function choose(event: FocusEvent): void {
  const field = event.target as HTMLInputElement;
  const start = field.value.lastIndexOf("/") + 1;
  const dot = field.value.lastIndexOf(".");
  field.setSelectionRange(start, dot > start ? dot : field.value.length);
}
</script>

<template>
  <AskDialog title="Rename or move" does="Show the edits" :able="able" :problem="problem" @go="go">
    <el-form-item label="Path within the site">
      <el-input
        v-model="to"
        class="code"
        spellcheck="false"
        maxlength="400"
        autofocus
        @focus="choose"
        @input="problem = ''"
      />
    </el-form-item>
    <el-checkbox v-if="isPage" v-model="forward">Leave a page at {{ path }} that leads on</el-checkbox>
    <p class="soft small">
      Links, pictures and style sheets on all pages follow. A slash makes a folder, as in guides/boilers.html.
    </p>
  </AskDialog>
</template>
