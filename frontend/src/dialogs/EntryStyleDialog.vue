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
  <AskDialog title="Words around the entries" does="Show the edits" @go="go">
    <label v-if="row"
      ><span>Between two entries</span><input v-model="separator" class="field" autofocus maxlength="20"
    /></label>
    <template v-else>
      <label
        ><span>Before each entry</span
        ><input v-model="prefix" class="field" autofocus maxlength="40" placeholder="» "
      /></label>
      <label><span>Behind each entry</span><input v-model="suffix" class="field" maxlength="40" /></label>
    </template>
    <p class="soft small">They are written around every entry, and around those that come later.</p>
  </AskDialog>
</template>
