<script setup lang="ts">
/** What was typed here, and what was saved elsewhere meanwhile in the same lines: which counts is decided place by place. */
import { ref } from "vue";
import MergePlaces from "../compare/MergePlaces.vue";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";
import { counted } from "../text/count";

const page = usePage();
const dialogs = useDialogs();
const text = ref("");
const open = ref(0);

function take(): void {
  if (page.disputed) page.goOnFrom(page.disputed.revision, text.value);
  dialogs.close();
}
</script>

<template>
  <el-dialog
    :model-value="true"
    title="The same lines were saved elsewhere"
    width="min(1040px, 94vw)"
    align-center
    append-to-body
    @close="dialogs.close()"
  >
    <p v-if="page.disputed?.knows_base === false">
      It is not kept any more what you began from, so each difference is shown.
    </p>
    <MergePlaces
      v-if="page.disputed"
      v-model="text"
      :pieces="page.disputed.pieces"
      :knows-base="page.disputed.knows_base"
      ours="Yours"
      theirs="From elsewhere"
      @open="open = $event"
    />
    <template #footer>
      <span class="foot">
        <span class="soft small grow">{{
          open
            ? `${counted(open, "place")} to decide`
            : "Nothing is saved yet: you see the whole in the source first."
        }}</span>
        <el-button @click="dialogs.close()">Decide later</el-button>
        <el-button type="primary" :disabled="open > 0" @click="take">Put them together</el-button>
      </span>
    </template>
  </el-dialog>
</template>

<style scoped>
p {
  margin: 0 0 8px;
}

.foot {
  display: flex;
  align-items: center;
  gap: 10px;
}

.grow {
  flex: 1;
  text-align: left;
}
</style>
