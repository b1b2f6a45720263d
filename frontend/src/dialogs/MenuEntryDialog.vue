<script setup lang="ts">
/** A section of the page in a menu that pages share. */
import { computed, ref, shallowRef } from "vue";
import { api, data, detailOf, type SiteNavigation } from "../api/client";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";
import { useTray } from "../stores/tray";
import { counted } from "../text/count";
import AskDialog from "./AskDialog.vue";

const props = defineProps<{ section: number }>();
const page = usePage();
const tray = useTray();
const dialogs = useDialogs();
const menus = shallowRef<SiteNavigation["menus"] | null>(null);
const block = ref("");
const heading = computed(() => page.view?.sections[props.section]?.text ?? "");
const words = ref(heading.value);
const problem = ref("");

async function load(): Promise<void> {
  try {
    const params = { path: { site_id: page.siteId } };
    menus.value = (await data(api.GET("/api/sites/{site_id}/navigation", { params }))).menus;
    block.value = menus.value[0]?.block ?? "";
    if (!block.value) problem.value = "No menu is the same on several pages. Make one first, on the site's desk.";
  } catch (error) {
    problem.value = detailOf(error);
  }
}
void load();

async function go(): Promise<void> {
  const done = await tray.propose({
    operation: "menu-section",
    page: page.path,
    block: block.value,
    section: props.section,
    words: words.value === heading.value ? "" : words.value,
  });
  if (done) dialogs.close();
  else problem.value = tray.problem;
}
</script>

<template>
  <AskDialog title="Add to a menu" does="Show the edits" :able="block !== ''" :problem="problem" @go="go">
    <p>
      An entry that leads to “<strong>{{ heading }}</strong
      >”, on all pages that have the menu.
    </p>
    <el-form-item label="Menu">
      <el-select v-model="block" :loading="menus === null" aria-label="Menu">
        <el-option
          v-for="one in menus ?? []"
          :key="one.block"
          :value="one.block"
          :label="`${one.block}, on ${counted(one.pages, 'page')}`"
        />
      </el-select>
    </el-form-item>
    <el-form-item label="Words of the entry"><el-input v-model="words" maxlength="400" /></el-form-item>
  </AskDialog>
</template>
