<script setup lang="ts">
/** What is before, between and behind the entries of contents. */
import { ref } from "vue";
import { useContents } from "../composables/useContents";
import { useDialogs } from "../stores/dialogs";
import AskDialog from "./AskDialog.vue";

const contents = useContents();
const dialogs = useDialogs();
const row = contents.block.value?.form === "row";
const prefix = ref("");
const suffix = ref("");
const separator = ref(" | ");

function go(): void {
  contents.ask({
    block: contents.block.value?.index ?? null,
    ...(row ? { separator: separator.value } : { prefix: prefix.value, suffix: suffix.value }),
  });
  dialogs.close();
}
</script>

<template>
  <AskDialog title="Text around the entries" does="Show the edits" @go="go">
    <el-form-item v-if="row" label="Between two entries"
      ><el-input v-model="separator" autofocus maxlength="20"
    /></el-form-item>
    <template v-else>
      <el-form-item label="Before each entry"
        ><el-input v-model="prefix" autofocus maxlength="40" placeholder="» "
      /></el-form-item>
      <el-form-item label="After each entry"><el-input v-model="suffix" maxlength="40" /></el-form-item>
    </template>
    <p class="soft small">It is written around every entry, those added later included.</p>
  </AskDialog>
</template>
