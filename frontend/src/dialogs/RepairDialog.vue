<script setup lang="ts">
/** A repair of the levels, before and after side by side. */
import { computed } from "vue";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";
import { useTray } from "../stores/tray";
import AskDialog from "./AskDialog.vue";

const props = defineProps<{ code: string }>();
const page = usePage();
const tray = useTray();
const dialogs = useDialogs();
const repair = computed(() => page.view?.structure.repairs.find((found) => found.code === props.code) ?? null);
const changed = computed(() => repair.value?.rows.filter((row) => row.before !== row.after).length ?? 0);

function go(): void {
  void tray.propose({ operation: "repair", page: page.path, code: props.code as "gaps" | "several-h1" | "no-h1" });
  dialogs.close();
}
</script>

<template>
  <AskDialog v-if="repair" :title="repair.title" :does="`Show the edits`" :width="760" @go="go">
    <p>
      {{ repair.does }} <span class="soft">{{ changed }} of {{ repair.rows.length }} headings change.</span>
    </p>
    <div class="sides scroller" tabindex="0" aria-label="Levels before and after">
      <table>
        <thead>
          <tr>
            <th scope="col">Before</th>
            <th scope="col">After</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(row, at) in repair.rows" :key="at" :class="{ changed: row.before !== row.after }">
            <td :style="{ paddingLeft: `${Math.max(row.before - 1, 0) * 16 + 8}px` }">
              <template v-if="row.before"
                ><b>h{{ row.before }}</b> {{ row.text }}</template
              >
            </td>
            <td :style="{ paddingLeft: `${(row.after - 1) * 16 + 8}px` }">
              <b>h{{ row.after }}</b> {{ row.text
              }}<span v-if="row.before !== row.after" class="unseen"> (changed)</span>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  </AskDialog>
</template>

<style scoped>
.sides {
  max-height: 52vh;
}

table {
  width: 100%;
  border-collapse: collapse;
  table-layout: fixed;
}

th {
  position: sticky;
  top: 0;
  background: var(--sheet-sunk);
  text-align: left;
  padding: 4px 8px;
  font-size: var(--small);
}

td {
  padding: 3px 8px;
  font-family: var(--read);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

td + td {
  border-left: 1px solid var(--line);
}

b {
  font: 600 11.5px var(--ui);
  color: var(--ink-soft);
}

.changed td {
  background: var(--wait-wash);
}

.changed td + td b {
  color: var(--wait);
}
</style>
