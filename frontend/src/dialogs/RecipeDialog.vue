<script setup lang="ts">
/** A recipe: operations over all pages or some, written once and carried out again and again. */
import { useFileDialog, useLocalStorage } from "@vueuse/core";
import { computed, ref } from "vue";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";
import { useSite } from "../stores/site";
import { useTray } from "../stores/tray";
import AskDialog from "./AskDialog.vue";

const USUAL = `name = "Put in order"

[[step]]
do = "identify"          # headings, identify, contents, returns, titles, shared, fix
levels = [2, 3]

[[step]]
do = "contents"          # those that are there; make = true for all pages

[[step]]
do = "returns"
pages = ["*", "!index.html"]

[[step]]
do = "shared"

[[step]]
do = "fix"
`;
const page = usePage();
const site = useSite();
const tray = useTray();
const dialogs = useDialogs();
const text = useLocalStorage(`signpost-recipe-${page.siteId}`, USUAL);
const problem = ref("");
const able = computed(() => text.value.trim() !== "");

async function go(): Promise<void> {
  const done = await tray.propose({ operation: "recipe", page: site.view?.first[0] ?? "", text: text.value });
  if (done) dialogs.close();
  else problem.value = tray.problem;
}

const { open: choose, onChange } = useFileDialog({ accept: ".toml,.txt", multiple: false, reset: true });
onChange(async (files) => {
  const file = files?.[0];
  if (file) text.value = await file.text();
});
</script>

<template>
  <AskDialog title="Recipe" does="Show the edits" :able="able" :width="680" :problem="problem" @go="go">
    <el-form-item label="Steps, one after the other; all of them are one change">
      <el-input v-model="text" type="textarea" :rows="16" class="code" spellcheck="false" autofocus />
    </el-form-item>
    <p class="soft small">
      It is kept in this browser. As a file, <code>signpost run RECIPE DIR</code> carries it out over a folder.
    </p>
    <template #more>
      <el-button text @click="choose()">Open a file…</el-button>
      <el-button text @click="text = USUAL">Begin anew</el-button>
    </template>
  </AskDialog>
</template>
