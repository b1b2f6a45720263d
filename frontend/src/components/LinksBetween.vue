<script setup lang="ts">
/** The links between pages of a site, a stretch at a time. */
import { useFileDialog } from "@vueuse/core";
import { ref, watch } from "vue";
import { api, data, type PageLinks } from "../api/client";
import { useSite } from "../stores/site";
import { useTray } from "../stores/tray";

const props = defineProps<{ siteId: string; turn: number }>();
const links = ref<PageLinks[]>([]);
const after = ref<string | null>("");
const open = ref(false);
const site = useSite();
const tray = useTray();

const { open: choose, onChange } = useFileDialog({ accept: ".csv,.tsv,.json,.txt", multiple: false, reset: true });

/** Change addresses as the table says that was chosen. */
onChange(async (files) => {
  const file = files?.[0];
  if (file)
    await tray.propose({ operation: "change-links", page: site.view?.first[0] ?? "", text: await file.text() });
});

/** Write the site's own addresses relative, or in full. */
function own(full: boolean): void {
  void tray.propose({ operation: "own-addresses", page: site.view?.first[0] ?? "", full });
}

async function more(): Promise<void> {
  if (after.value === null) return;
  const found = await data(
    api.GET("/api/sites/{site_id}/links", {
      params: { path: { site_id: props.siteId }, query: { after: after.value } },
    }),
  );
  links.value = [...links.value, ...found.links];
  after.value = found.after;
}

watch(
  () => [open.value, props.siteId, props.turn],
  () => {
    links.value = [];
    after.value = "";
    if (open.value) void more();
  },
);
</script>

<template>
  <details class="between" @toggle="open = ($event.target as HTMLDetailsElement).open">
    <summary>Links between pages</summary>
    <ul>
      <li v-for="link in links" :key="`${link.from_page} ${link.to_page}`">
        <code>{{ link.from_page }}</code> → <code>{{ link.to_page }}</code>
        <span class="soft">{{ link.count }}</span>
      </li>
    </ul>
    <p class="list soft small">
      To change many addresses at once, export the table of all links, fill in the column new_address, and
      <el-button text size="small" @click="choose()">read it in again…</el-button>
    </p>
    <p v-if="site.view?.base" class="list soft small">
      Addresses that begin with {{ site.view.base }} can be
      <el-button text size="small" @click="own(false)">made relative</el-button> on all pages, and relative ones
      <el-button text size="small" @click="own(true)">written in full</el-button>.
    </p>
    <el-button v-if="open && after !== null && links.length" text size="small" @click="more">Show more</el-button>
  </details>
</template>

<style scoped>
.list {
  padding: 6px 0;
}
</style>
