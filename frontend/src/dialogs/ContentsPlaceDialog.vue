<script setup lang="ts">
/** The block that contents are before. */
import { ref } from "vue";
import { useContents } from "../composables/useContents";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";
import { useTray } from "../stores/tray";
import AskDialog from "./AskDialog.vue";
import BlockChoice from "./BlockChoice.vue";

const props = defineProps<{ block: number | "new" }>();
const page = usePage();
const tray = useTray();
const dialogs = useDialogs();
const contents = useContents();
const before = ref<number | null>(null);

function go(): void {
  if (before.value === null) return;
  if (props.block === "new") contents.ask({ before: before.value, block: "new" });
  else
    void tray.propose({
      operation: "move-contents",
      page: page.path,
      block: props.block,
      spot: "lead",
      before: before.value,
    });
  dialogs.close();
}
</script>

<template>
  <AskDialog title="Place of the contents" does="Show the edits" :able="before !== null" @go="go">
    <BlockChoice v-model="before" label="Before this block" />
  </AskDialog>
</template>
