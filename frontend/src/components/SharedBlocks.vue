<script setup lang="ts">
/** Menus, headers and footers that several pages have copies of, and how to make those alike that differ. */
import { watchDebounced } from "@vueuse/core";
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
const only = ref(""); // a class, for blocks that are no header, menu or footer
let asked = 0;

async function load(): Promise<void> {
  const mine = ++asked;
  try {
    const params = { path: { site_id: props.siteId }, query: { only: only.value.trim() } };
    const found = await data(api.GET("/api/sites/{site_id}/shared", { params }));
    if (mine === asked) blocks.value = found;
  } catch (error) {
    if (mine === asked) problem.value = detailOf(error);
  }
}

watch(
  () => [open.value, props.siteId, props.turn],
  () => open.value && void load(),
);

watchDebounced(only, () => open.value && void load(), { debounce: 300 });

/** Put a block on the pages that have none. */
function spread(block: SharedView): void {
  if (block.usual)
    void tray.propose({
      operation: "spread",
      page: site.view?.first[0] ?? "",
      block: block.name,
      model: block.usual,
      pages: block.lacking,
    });
}

function makeAlike(block: string, model = ""): void {
  void tray.propose({ operation: "alike", page: site.view?.first[0] ?? "", block, model });
}
</script>

<template>
  <details class="between" @toggle="open = ($event.target as HTMLDetailsElement).open">
    <summary>Shared blocks</summary>
    <el-alert v-if="problem" :title="problem" type="error" :closable="false" />
    <p v-else-if="!blocks" class="soft small">Comparing the pages…</p>
    <p v-else-if="!blocks.length" class="soft small">
      {{
        only
          ? `No two pages have an element of class “${only}”.`
          : "No three pages have a header, menu or footer alike."
      }}
    </p>
    <el-input
      v-if="open"
      v-model="only"
      size="small"
      clearable
      class="only"
      placeholder="Another block, by its class"
      aria-label="Another block, by its class"
    />
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
      <p v-if="block.usual && block.lacking.length" class="row small">
        <span class="soft"
          >{{ counted(block.lacking.length, "page") }} {{ block.lacking.length === 1 ? "has" : "have" }} none:
          {{ block.lacking.slice(0, 3).join(", ") }}{{ block.lacking.length > 3 ? ", …" : "" }}</span
        ><span class="fill" />
        <el-button text size="small" :disabled="tray.busy" @click="spread(block)">Put it on them too</el-button>
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
          <table v-if="copy.changes.length" class="changes" :aria-label="`How ${copy.page} differs`">
            <tbody>
              <tr v-for="(change, at) in copy.changes" :key="at">
                <td>
                  <code>{{ change.has || "nothing" }}</code>
                </td>
                <td>
                  <span class="soft small">most pages:</span> <code>{{ change.usual || "nothing" }}</code>
                </td>
              </tr>
            </tbody>
          </table>
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
  flex-wrap: wrap;
  align-items: baseline;
  gap: 2px 10px;
}

.only {
  width: 220px;
  margin: 4px 0;
}

.changes {
  flex: 0 0 100%;
  table-layout: fixed;
  border-collapse: collapse;
  margin-bottom: 8px;
}

.changes td {
  padding: 3px 8px;
  border: 1px solid var(--line);
  vertical-align: top;
}

.changes td:first-child {
  background: var(--wait-wash);
}

.changes code {
  white-space: pre-wrap;
  overflow-wrap: anywhere;
  font-size: 12px;
}
</style>
