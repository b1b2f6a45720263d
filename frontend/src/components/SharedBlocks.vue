<script setup lang="ts">
/** Menus, headers and footers that several pages have copies of, and how to make those alike that differ. */
import { ref, watch } from "vue";
import { RouterLink } from "vue-router";
import { api, data, detailOf, type SharedView } from "../api/client";
import { useSite } from "../stores/site";
import { useTray } from "../stores/tray";
import { counted } from "../text/count";

const props = defineProps<{ siteId: string; turn: number }>();
const site = useSite();
const tray = useTray();
const blocks = ref<SharedView[] | null>(null);
const problem = ref("");
const open = ref(false);
let asked = 0;

async function load(): Promise<void> {
  const mine = ++asked;
  try {
    const found = await data(api.GET("/api/sites/{site_id}/shared", { params: { path: { site_id: props.siteId } } }));
    if (mine === asked) blocks.value = found;
  } catch (error) {
    if (mine === asked) problem.value = detailOf(error);
  }
}

watch(
  () => [open.value, props.siteId, props.turn],
  () => open.value && void load(),
);

function makeAlike(block: string, model = ""): void {
  void tray.propose({ operation: "alike", page: site.view?.first[0] ?? "", block, model });
}
</script>

<template>
  <details class="between" @toggle="open = ($event.target as HTMLDetailsElement).open">
    <summary>Shared blocks</summary>
    <el-alert v-if="problem" :title="problem" type="error" :closable="false" />
    <p v-else-if="!blocks" class="soft small">Comparing the pages…</p>
    <p v-else-if="!blocks.length" class="soft small">No header, menu or footer stands on three pages or more.</p>
    <section v-for="block in blocks ?? []" :key="block.name" class="block" :aria-label="block.name">
      <p class="row">
        <code>{{ block.name }}</code>
        <span class="soft small"
          >{{ counted(block.pages, "page")
          }}{{ block.compared < block.pages ? `, ${block.compared} of them compared` : ""
          }}{{ block.differing.length ? `, ${block.alike} alike` : ", all alike"
          }}{{ block.mark ? `; its own page is marked by ${block.mark}` : "" }}</span
        >
        <span class="fill" />
        <el-button
          v-if="block.differing.length && block.usual"
          size="small"
          :disabled="tray.busy"
          @click="makeAlike(block.name)"
          >Make alike</el-button
        >
      </p>
      <ul v-if="block.differing.length">
        <li v-for="copy in block.differing" :key="copy.page">
          <RouterLink :to="{ name: 'page', params: { siteId, path: copy.page } }">{{ copy.page }}</RouterLink>
          <span class="soft small">line {{ copy.line }}</span>
          <el-button
            text
            size="small"
            :disabled="tray.busy"
            :aria-label="`Make the others like this one, on ${copy.page}`"
            @click="makeAlike(block.name, copy.page)"
            >Make the others like this one</el-button
          >
        </li>
      </ul>
    </section>
  </details>
</template>

<style scoped>
.block {
  padding: 6px 0;
}

.row {
  display: flex;
  align-items: baseline;
  gap: 10px;
}

.fill {
  flex: 1;
}

a {
  color: var(--post);
}

li {
  display: flex;
  align-items: baseline;
  gap: 10px;
}
</style>
