<script setup lang="ts">
/** The bar above a page's desk: where one is, undo and redo, the changes, exporting files. */
import { ref } from "vue";
import type { ChangeEntry } from "../api/client";
import { useChanges } from "../stores/changes";
import { usePage } from "../stores/page";
import { useSite } from "../stores/site";
import AppBar from "./AppBar.vue";
import LinkButton from "./LinkButton.vue";
import ChangeList from "./ChangeList.vue";
import PageFacts from "./PageFacts.vue";
import SignIcon from "./SignIcon.vue";
import TakeOut from "./TakeOut.vue";

defineProps<{ siteId: string; path: string }>();
const emit = defineEmits<{ turn: [entry: ChangeEntry | null]; help: [] }>();

const changes = useChanges();
const page = usePage();
const site = useSite();
const listing = ref(false);
</script>

<template>
  <AppBar>
    <template #trail>
      <el-breadcrumb>
        <el-breadcrumb-item :to="{ name: 'site', params: { siteId } }">{{ site.name || "Site" }}</el-breadcrumb-item>
        <el-breadcrumb-item
          ><h1>{{ path }}</h1></el-breadcrumb-item
        >
      </el-breadcrumb>
      <PageFacts v-if="page.view" :page="page.view" />
    </template>
    <el-button
      text
      class="undo"
      :disabled="!changes.undoable || page.typing"
      :title="changes.undoable ? `Undo: ${changes.undoable.title}` : 'Nothing to undo'"
      @click="emit('turn', changes.undoable)"
    >
      <SignIcon name="undo" /> Undo
    </el-button>
    <el-button
      text
      :disabled="!changes.redoable || page.typing"
      :title="changes.redoable ? `Redo: ${changes.redoable.title}` : 'Nothing to redo'"
      @click="emit('turn', changes.redoable)"
    >
      <SignIcon name="redo" /> Redo
    </el-button>
    <el-button text @click="listing = true"><SignIcon name="list" /> Changes</el-button>
    <TakeOut :site-id="siteId" :changed="site.view?.changed ?? 0" />
    <el-button text class="icon" aria-label="Keyboard" title="Keyboard (?)" @click="emit('help')">
      <SignIcon name="keys" />
    </el-button>
  </AppBar>
  <el-drawer v-model="listing" title="Changes" size="460" append-to-body>
    <ChangeList :site-id="siteId" :path="path" @turn="emit('turn', $event)" />
    <p class="compare">
      <LinkButton :to="{ name: 'compare', params: { siteId }, query: { right: path } }"
        >Compare revisions…</LinkButton
      >
    </p>
  </el-drawer>
</template>

<style scoped>
.compare {
  padding-top: 12px;
}
</style>
