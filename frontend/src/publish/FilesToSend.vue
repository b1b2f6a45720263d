<script setup lang="ts">
/** The files that a publication would send, replace or delete; each opens to show how it differs from what is there. */
import { reactive } from "vue";
import { api, data, detailOf, type PublishPlan } from "../api/client";
import DiffLines from "../components/DiffLines.vue";
import { usePage } from "../stores/page";
import { sizeOf } from "../text/count";

type Step = PublishPlan["steps"][number];

const props = defineProps<{ steps: readonly Step[]; target: string }>();
const DOES: Record<Step["does"], string> = {
  send: "new",
  replace: "replaced",
  delete: "deleted there",
  foreign: "not from here; stays",
};
const page = usePage();
const diffs = reactive(new Map<string, string>()); // "" for a file that is no text
const problem = reactive(new Map<string, string>());

async function show(step: Step, opened: Step[] | boolean): Promise<void> {
  const isOpen = typeof opened === "boolean" ? opened : opened.some((one) => one.path === step.path);
  if (!isOpen || diffs.has(step.path)) return;
  try {
    const params = { path: { site_id: page.siteId }, query: { name: props.target, path: step.path } };
    const found = api.GET("/api/sites/{site_id}/targets/diff", { params, parseAs: "text" });
    diffs.set(step.path, await data<string>(found));
  } catch (error) {
    problem.set(step.path, detailOf(error));
  }
}

const SEEN: Record<Step["seen"], string> = {
  "": "",
  missing: "gone there",
  altered: "changed there",
  torn: "there in part only",
};
const wordsOf = (step: Step) => {
  if (!step.seen) return DOES[step.does];
  return `${SEEN[step.seen]}; ${step.does === "foreign" ? "stays" : step.does === "delete" ? "deleted there" : "sent again"}`;
};
const diffOf = (step: Step) => diffs.get(step.path) ?? "";
const sayOf = (step: Step) => problem.get(step.path) ?? (diffs.has(step.path) ? "No text to compare." : "Comparing…");
</script>

<template>
  <el-table :data="[...steps]" row-key="path" size="small" max-height="300" @expand-change="show">
    <el-table-column type="expand" label="Diff" width="48">
      <template #default="{ row }: { row: Step }">
        <DiffLines v-if="diffOf(row)" :diff="diffOf(row)" note="; they are sent all the same" />
        <p v-else class="soft small said">{{ sayOf(row) }}</p>
      </template>
    </el-table-column>
    <el-table-column label="File" prop="path" min-width="240" />
    <el-table-column label="There" width="170">
      <template #default="{ row }: { row: Step }"
        ><span :class="{ wait: row.does === 'foreign' || row.does === 'delete' }">{{ wordsOf(row) }}</span></template
      >
    </el-table-column>
    <el-table-column label="Size" width="110" align="right">
      <template #default="{ row }: { row: Step }">{{ row.size ? sizeOf(row.size) : "" }}</template>
    </el-table-column>
  </el-table>
</template>

<style scoped>
.said {
  padding: 4px 16px;
}
</style>
