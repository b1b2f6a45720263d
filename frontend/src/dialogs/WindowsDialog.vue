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
    does="Save"
    :able="rows.length > 0 && rows.every((row) => row.name.trim() !== '')"
    :width="680"
    :problem="problem"
    @go="go"
  >
    <p class="soft">
      Pages are measured in these windows, in CSS pixels. The text size is the one that readers set in their browser,
      in percent.
    </p>
    <table>
      <thead>
        <tr>
          <th scope="col">Name</th>
          <th scope="col">Width</th>
          <th scope="col">Height</th>
          <th scope="col">Text</th>
          <th scope="col" class="number">This page</th>
          <th scope="col" class="number">Too low</th>
          <th scope="col" class="number">Covered</th>
          <th><span class="unseen">Remove</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(row, index) in rows" :key="index">
          <td><el-input v-model="row.name" size="small" maxlength="40" aria-label="Name" /></td>
          <td>
            <el-input-number
              v-model="row.window.width"
              size="small"
              controls-position="right"
              :min="200"
              :max="8000"
              :step="10"
              aria-label="Width, in pixels"
            />
          </td>
          <td>
            <el-input-number
              v-model="row.window.height"
              size="small"
              controls-position="right"
              :min="200"
              :max="8000"
              :step="10"
              aria-label="Height, in pixels"
            />
          </td>
          <td>
            <el-input-number
              v-model="row.window.text_size"
              size="small"
              controls-position="right"
              :min="50"
              :max="300"
              :step="10"
              aria-label="Text size, in percent"
            />
          </td>
          <td class="number">
            {{ summaryOf(row)?.state === "measured" ? `${summaryOf(row)?.windows.toFixed(1)} windows` : "" }}
          </td>
          <td class="number">{{ summaryOf(row)?.state === "measured" ? summaryOf(row)?.short : "" }}</td>
          <td class="number">{{ summaryOf(row)?.state === "measured" ? summaryOf(row)?.covered : "" }}</td>
          <td>
            <el-button
              text
              :disabled="rows.length === 1"
              :aria-label="`Remove ${row.name}`"
              @click="rows.splice(index, 1)"
            >
              Remove
            </el-button>
          </td>
        </tr>
      </tbody>
    </table>
    <p><el-button :disabled="rows.length >= MOST" @click="add">Add a window</el-button></p>
    <div class="limits">
      <el-form-item label="Too long from, words">
        <el-input-number v-model="limits.most_words" :min="0" :max="100000" :step="50" controls-position="right" />
      </el-form-item>
      <el-form-item label="Too long from, windows">
        <el-input-number v-model="limits.most_windows" :min="0" :max="1000" :step="0.5" controls-position="right" />
      </el-form-item>
      <el-form-item label="Too short below, words">
        <el-input-number v-model="limits.least_words" :min="0" :max="100000" :step="10" controls-position="right" />
      </el-form-item>
    </div>
    <p class="soft small">0 means no limit.</p>
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

.limits {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 12px;
  padding-top: 12px;
  border-top: 1px solid var(--line);
}
</style>
