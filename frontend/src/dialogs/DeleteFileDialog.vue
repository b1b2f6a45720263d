<script setup lang="ts">
/** A file that is deleted, and what becomes of the links that lead to it. */
import { computed, ref } from "vue";
import PagePicker from "../components/PagePicker.vue";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";
import { useSite } from "../stores/site";
import { useTray } from "../stores/tray";
import { counted } from "../text/count";
import AskDialog from "./AskDialog.vue";

const props = defineProps<{ path: string; linksIn: number }>();
const page = usePage();
const site = useSite();
const tray = useTray();
const dialogs = useDialogs();
const leading = ref<"on" | "unlink" | "leave">(props.linksIn ? "on" : "leave");
const goal = ref("");
const problem = ref("");
const able = computed(() => leading.value !== "on" || goal.value !== "");

async function go(): Promise<void> {
  if (!able.value) return;
  const done = await tray.propose({
    operation: "delete-file",
    page: page.path || (site.view?.first[0] ?? ""),
    path: props.path,
    leading: leading.value,
    goal: goal.value,
  });
  if (done) dialogs.close();
  else problem.value = tray.problem;
}
</script>

<template>
  <AskDialog :title="`Delete ${path}`" does="Show the edits" :able="able" :problem="problem" @go="go">
    <template v-if="linksIn">
      <p>
        {{ counted(linksIn, "link") }} on other pages {{ linksIn === 1 ? "leads" : "lead" }} to it. What shall become
        of {{ linksIn === 1 ? "it" : "them" }}?
      </p>
      <el-radio-group v-model="leading" class="leading" aria-label="Links to it">
        <el-radio value="on">Lead to another page</el-radio>
        <PagePicker
          v-if="leading === 'on'"
          v-model="goal"
          :site-id="page.siteId"
          label="Page that the links lead to"
          :without="path"
          width="100%"
        />
        <el-radio value="unlink">Keep the words, remove the links</el-radio>
        <el-radio value="leave">Leave them as they are, leading nowhere</el-radio>
      </el-radio-group>
    </template>
    <p v-else>No link of the site leads to it. You can undo this like any other change.</p>
  </AskDialog>
</template>

<style scoped>
.leading {
  display: flex;
  flex-direction: column;
  align-items: stretch;
  gap: 6px;
}
</style>
