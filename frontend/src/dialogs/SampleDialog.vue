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
  <AskDialog title="Put in a sample of code" does="Show the edits" :able="able" @go="go">
    <label>
      <span>The code, as it is</span>
      <textarea
        v-model="code"
        class="field code"
        spellcheck="false"
        autofocus
        placeholder='&lt;h2 id="lamps"&gt;Lamps&lt;/h2&gt;'
      />
    </label>
    <p class="soft small">It arrives escaped, in pre and code, its lines as they are.</p>
    <BlockChoice v-model="before" label="Before this block" />
  </AskDialog>
</template>
