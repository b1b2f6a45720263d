<script setup lang="ts">
/** The windows that pages are looked at in, side by side with what this page comes to in each; and the limits of length. */
import { onBeforeUnmount, reactive, ref } from "vue";
import type { NamedWindow, WindowSummary } from "../api/client";
import { useDialogs } from "../stores/dialogs";
import { sameWindow, useMeasures } from "../stores/measures";
import AskDialog from "./AskDialog.vue";

const MOST = 8;
const measures = useMeasures();
const dialogs = useDialogs();
const rows = reactive<NamedWindow[]>(
  measures.windows.map((found) => ({ name: found.name, window: { ...found.window } })),
);
const limits = reactive({ ...measures.limits });
const problem = ref("");

const summaryOf = (row: NamedWindow): WindowSummary | undefined =>
  measures.beside.find((found) => sameWindow(found.window, row.window));
const add = () => rows.push({ name: "Mine", window: { width: 1024, height: 768, text_size: 100 } });
const zero = (value: unknown) => Number(value) || 0;

async function go(): Promise<void> {
  problem.value = await measures.save({
    windows: rows.map((row) => ({ name: row.name.trim(), window: row.window })),
    limits: {
      least_words: zero(limits.least_words),
      most_words: zero(limits.most_words),
      most_windows: zero(limits.most_windows),
    },
  });
  if (!problem.value) dialogs.close();
}

onBeforeUnmount(measures.widen());
</script>

<template>
  <AskDialog
    title="Windows and limits"
    does="Keep these"
    :able="rows.length > 0 && rows.every((row) => row.name.trim() !== '')"
    :width="680"
    :problem="problem"
    @go="go"
  >
    <p class="soft">
      The page is measured in each of these windows of your readers, in CSS pixels. The text size is what readers set
      in their browser, in percent.
    </p>
    <table>
      <thead>
        <tr>
          <th scope="col">Name</th>
          <th scope="col">Wide</th>
          <th scope="col">High</th>
          <th scope="col">Text</th>
          <th scope="col" class="number">This page</th>
          <th scope="col" class="number">Low</th>
          <th scope="col" class="number">Covered</th>
          <th><span class="unseen">Remove</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(row, index) in rows" :key="index">
          <td><input v-model="row.name" class="field" maxlength="40" aria-label="Name" /></td>
          <td>
            <input
              v-model.number="row.window.width"
              class="field short"
              type="number"
              min="200"
              max="8000"
              aria-label="Wide, in pixels"
            />
          </td>
          <td>
            <input
              v-model.number="row.window.height"
              class="field short"
              type="number"
              min="200"
              max="8000"
              aria-label="High, in pixels"
            />
          </td>
          <td>
            <input
              v-model.number="row.window.text_size"
              class="field short"
              type="number"
              min="50"
              max="300"
              aria-label="Text size, in percent"
            />
          </td>
          <td class="number">
            {{ summaryOf(row)?.state === "measured" ? `${summaryOf(row)?.windows.toFixed(1)} windows` : "" }}
          </td>
          <td class="number">{{ summaryOf(row)?.state === "measured" ? summaryOf(row)?.short : "" }}</td>
          <td class="number">{{ summaryOf(row)?.state === "measured" ? summaryOf(row)?.covered : "" }}</td>
          <td>
            <button
              type="button"
              class="button quiet"
              :disabled="rows.length === 1"
              :aria-label="`Remove ${row.name}`"
              @click="rows.splice(index, 1)"
            >
              Remove
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <p><button type="button" class="button" :disabled="rows.length >= MOST" @click="add">Add a window</button></p>
    <div class="limits">
      <label
        >A section is long with more than
        <input v-model.number="limits.most_words" class="field short" type="number" min="0" max="100000" />
        words,</label
      >
      <label
        >or higher than
        <input v-model.number="limits.most_windows" class="field short" type="number" min="0" max="1000" step="0.1" />
        windows;</label
      >
      <label
        >short with fewer than
        <input v-model.number="limits.least_words" class="field short" type="number" min="0" max="100000" />
        words.</label
      >
      <p class="soft small">0 stands for no limit.</p>
    </div>
  </AskDialog>
</template>

<style scoped>
table {
  width: 100%;
  border-collapse: collapse;
}

th {
  text-align: left;
  font-size: 12px;
  color: var(--ink-soft);
  font-weight: 600;
  padding: 2px 4px;
}

td {
  padding: 2px 4px;
}

.number {
  text-align: right;
  font-variant-numeric: tabular-nums;
  white-space: nowrap;
}

td .field:not(.short) {
  width: 100%;
}

.limits {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 8px;
  align-items: center;
  padding-top: 10px;
  border-top: 1px solid var(--line);
}

.limits label {
  display: inline-flex;
  gap: 6px;
  align-items: center;
}
</style>
