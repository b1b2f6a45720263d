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
const said = ref("");

const beyond = computed(() => {
  const found = measures.view?.stretches ?? [];
  const long = found.filter((stretch) => stretch.beyond === "long").length;
  const short = found.filter((stretch) => stretch.beyond === "short").length;
  return [long ? `${long} too long` : "", short ? `${short} too short` : ""].filter(Boolean).join(", ");
});
const extreme = (index: number | null | undefined) =>
  index === null || index === undefined ? "" : (props.page.sections[index]?.text ?? "");

async function suggest(): Promise<void> {
  said.value = "";
  try {
    emit("cuts", await choices.cuts(into.value));
  } catch (error) {
    said.value = detailOf(error);
  }
}
</script>

<template>
  <div class="parts-form">
    <p v-if="measures.view && extreme(measures.view.longest)" class="small">
      Longest: <strong>{{ extreme(measures.view.longest) }}</strong>,
      {{ measures.stretches.get(measures.view.longest ?? -1)?.windows.toFixed(1) }} windows; shortest:
      <strong>{{ extreme(measures.view.shortest) }}</strong>,
      {{ measures.stretches.get(measures.view.shortest ?? -1)?.windows.toFixed(1) }}.
      <span v-if="beyond" class="wait">By your limits {{ beyond }}.</span>
      <button type="button" class="button quiet limits" @click="dialogs.show({ name: 'windows' })">Limits…</button>
    </p>
    <p v-if="page.in_parts">This page is one of several parts already. Undo that change to cut it another way.</p>
    <form v-else @submit.prevent="emit('propose', { operation: 'parts', page: page.path, sections: [...cuts] })">
      <label
        >Best cuts for <input v-model.number="into" class="field short" type="number" min="2" max="50" /> parts</label
      >
      <button type="button" class="button" :disabled="unable" @click="suggest">Propose</button>
      <p class="soft">or tick in the ledger where a part begins.</p>
      <button class="button main" :disabled="unable || !cuts.size">
        Cut into {{ cuts.size + 1 }} {{ cuts.size ? "parts" : "part" }}
      </button>
      <button v-if="cuts.size" type="button" class="button quiet" @click="emit('cuts', [])">Clear</button>
    </form>
    <p v-if="said" role="alert" class="wrong small">{{ said }}</p>
  </div>
</template>

<style scoped>
.parts-form {
  display: flex;
  flex-direction: column;
  gap: 6px;
}

form {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 10px;
}

form p {
  flex: 1 1 200px;
}

label {
  display: inline-flex;
  align-items: center;
  gap: 6px;
}

.limits {
  min-height: 22px;
  padding: 0 6px;
}

.wait {
  color: var(--wait);
  font-weight: 600;
}

.wrong {
  color: var(--wrong);
}
</style>
