<script setup lang="ts">
/** How long the page and its sections are, and where it is cut into parts. */
import { computed, ref } from "vue";
import { detailOf, type Operation, type PageView } from "../api/client";
import { useChoices } from "../stores/choices";
import { useDialogs } from "../stores/dialogs";
import { useMeasures } from "../stores/measures";

const props = defineProps<{ page: PageView; cuts: ReadonlySet<number>; unable: boolean }>();
const emit = defineEmits<{ propose: [operation: Operation]; cuts: [sections: number[]] }>();
const choices = useChoices();
const dialogs = useDialogs();
const measures = useMeasures();
const into = ref(4);
const problem = ref("");

const beyond = computed(() => {
  const found = measures.view?.stretches ?? [];
  const long = found.filter((stretch) => stretch.beyond === "long").length;
  const short = found.filter((stretch) => stretch.beyond === "short").length;
  return [long ? `${long} too long` : "", short ? `${short} too short` : ""].filter(Boolean).join(", ");
});
const extreme = (index: number | null | undefined) =>
  index === null || index === undefined ? "" : (props.page.sections[index]?.text ?? "");

async function suggest(): Promise<void> {
  problem.value = "";
  try {
    emit("cuts", await choices.cuts(into.value));
  } catch (error) {
    problem.value = detailOf(error);
  }
}
</script>

<template>
  <div>
    <form
      class="stage-line"
      @submit.prevent="emit('propose', { operation: 'parts', page: page.path, sections: [...cuts] })"
    >
      <p v-if="page.in_parts" class="whole">
        This page is one of several parts. Undo that change to cut it differently.
      </p>
      <p v-else-if="cuts.size">
        <strong>{{ cuts.size + 1 }} parts.</strong> Tick in the ledger where a part begins.
      </p>
      <p v-else-if="measures.view && extreme(measures.view.longest)" class="whole clipped">
        Longest: <strong>{{ extreme(measures.view.longest) }}</strong>,
        {{ measures.stretches.get(measures.view.longest ?? -1)?.windows.toFixed(1) }} windows.
        <span v-if="beyond" class="wait">{{ beyond }}.</span>
      </p>
      <p v-else>Tick in the ledger where a part begins.</p>
      <template v-if="!page.in_parts">
        <el-input-number
          v-model="into"
          size="small"
          :min="2"
          :max="50"
          controls-position="right"
          aria-label="Number of parts"
        />
        <el-button size="small" :disabled="unable" @click="suggest">Propose cuts</el-button>
        <el-button v-if="cuts.size" size="small" @click="emit('cuts', [])">Clear</el-button>
        <el-button size="small" @click="dialogs.show({ name: 'windows' })">Limits…</el-button>
        <el-button size="small" type="primary" native-type="submit" :disabled="unable || !cuts.size"
          >Cut into {{ cuts.size ? `${cuts.size + 1} parts` : "parts" }}</el-button
        >
      </template>
    </form>
    <p v-if="problem" role="alert" class="wrong small">{{ problem }}</p>
  </div>
</template>
