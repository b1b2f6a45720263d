<script setup lang="ts">
/** A sample of code, pasted as it is. */
import { computed, ref } from "vue";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";
import { useTray } from "../stores/tray";
import AskDialog from "./AskDialog.vue";
import BlockChoice from "./BlockChoice.vue";

const page = usePage();
const tray = useTray();
const dialogs = useDialogs();
const before = ref<number | null>(null);
const code = ref("");
const able = computed(() => before.value !== null && code.value.trim() !== "");

function go(): void {
  if (!able.value || before.value === null) return;
  void tray.propose({ operation: "sample", page: page.path, before: before.value, code: code.value });
  dialogs.close();
}
</script>

<template>
  <AskDialog title="Insert a code sample" does="Show the edits" :able="able" @go="go">
    <el-form-item label="Code">
      <el-input
        v-model="code"
        type="textarea"
        :rows="8"
        class="code"
        spellcheck="false"
        autofocus
        placeholder='&lt;h2 id="lamps"&gt;Lamps&lt;/h2&gt;'
      />
    </el-form-item>
    <p class="soft small">It is escaped and put into pre and code elements, its lines unchanged.</p>
    <BlockChoice v-model="before" label="Before this block" />
  </AskDialog>
</template>
