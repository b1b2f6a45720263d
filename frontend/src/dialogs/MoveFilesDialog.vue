<script setup lang="ts">
/** Several pages into another folder at once; what leads to them follows. */
import { computed, ref } from "vue";
import { useDialogs } from "../stores/dialogs";
import { useSite } from "../stores/site";
import { useTray } from "../stores/tray";
import { counted } from "../text/count";
import AskDialog from "./AskDialog.vue";

const props = defineProps<{ paths: string[] }>();
const site = useSite();
const tray = useTray();
const dialogs = useDialogs();
const folder = ref("");
const forward = ref(false);
const problem = ref("");
const moves = computed(() => {
  const into = folder.value.trim().replace(/^[./]+|\/+$/g, "");
  const pairs = props.paths.map((path) => [path, `${into ? `${into}/` : ""}${path.split("/").at(-1)}`] as const);
  return Object.fromEntries(pairs.filter(([old, path]) => old !== path));
});
const able = computed(() => Object.keys(moves.value).length > 0);

async function go(): Promise<void> {
  if (!able.value) return;
  const done = await tray.propose({
    operation: "move-files",
    page: site.view?.first[0] ?? "",
    moves: moves.value,
    forward: forward.value,
  });
  if (done) dialogs.close();
  else problem.value = tray.problem;
}
</script>

<template>
  <AskDialog
    :title="`Move ${counted(paths.length, 'page')}`"
    does="Show the edits"
    :able="able"
    :problem="problem"
    @go="go"
  >
    <el-form-item label="Into the folder; empty for the site's own">
      <el-input
        v-model="folder"
        class="code"
        spellcheck="false"
        maxlength="300"
        autofocus
        placeholder="guides"
        @input="problem = ''"
      />
    </el-form-item>
    <el-checkbox v-model="forward">Leave a page at each old address that leads on</el-checkbox>
    <p class="soft small">{{ paths.slice(0, 6).join(", ") }}{{ paths.length > 6 ? ", …" : "" }}</p>
  </AskDialog>
</template>
