<script setup lang="ts">
/** A recipe: operations over all pages or some, written once and carried out again and again. */
import { useFileDialog, useLocalStorage } from "@vueuse/core";
import { computed, ref } from "vue";
import { api, data, detailOf, type KeptRecipe } from "../api/client";
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
const kept = ref<KeptRecipe[]>([]);
const name = computed(() => /^\s*name\s*=\s*"([^"]*)"/m.exec(text.value)?.[1]?.trim() ?? "");
const known = computed(() => kept.value.some((one) => one.name === name.value));
const path = { site_id: page.siteId };

/** Keep the list of recipes that an answer gives, or say why there is none. */
async function take(answer: Promise<KeptRecipe[]>): Promise<void> {
  try {
    kept.value = await answer;
    problem.value = "";
  } catch (error) {
    problem.value = detailOf(error);
  }
}
const load = () => take(data(api.GET("/api/sites/{site_id}/recipes", { params: { path } })));
const keep = () =>
  take(data(api.PUT("/api/sites/{site_id}/recipes", { params: { path }, body: { text: text.value } })));
const forget = () =>
  take(data(api.DELETE("/api/sites/{site_id}/recipes", { params: { path, query: { name: name.value } } })));
void load();

function takeUp(one: string): void {
  text.value = kept.value.find((recipe) => recipe.name === one)?.text ?? text.value;
}
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
    <el-form-item v-if="kept.length" label="Kept with the site">
      <el-select
        :model-value="known ? name : ''"
        placeholder="Choose a recipe"
        aria-label="Kept with the site"
        style="width: 320px"
        @change="takeUp"
      >
        <el-option v-for="one in kept" :key="one.name" :value="one.name" :label="one.name" />
      </el-select>
    </el-form-item>
    <el-form-item label="Steps, one after the other; all of them are one change">
      <el-input v-model="text" type="textarea" :rows="16" class="code" spellcheck="false" autofocus />
    </el-form-item>
    <p class="soft small">
      The edits say which pages it would change. As a file, <code>signpost run RECIPE DIR</code> carries it out over a
      folder.
    </p>
    <template #more>
      <el-button text @click="choose()">Open a file…</el-button>
      <el-button text :disabled="!able" @click="keep">{{
        known ? "Keep the changes" : "Keep with the site"
      }}</el-button>
      <el-button v-if="known" text type="danger" @click="forget">Delete</el-button>
      <el-button text @click="text = USUAL">Begin anew</el-button>
    </template>
  </AskDialog>
</template>
