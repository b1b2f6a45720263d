<script setup lang="ts">
/** What can be asked for at each stage of work. */
import { computed, reactive, ref } from "vue";
import { detailOf, type Operation, type PageView } from "../api/client";
import { useChoices } from "../stores/choices";
import type { Stage } from "../stores/page";
import ContentsForm from "./ContentsForm.vue";
import HeadingsForm from "./HeadingsForm.vue";
import IdentifiersForm from "./IdentifiersForm.vue";
import JumpsForm from "./JumpsForm.vue";
import ReturnsForm from "./ReturnsForm.vue";

const props = defineProps<{ page: PageView; stage: Stage; cuts: ReadonlySet<number>; locked: string; busy: boolean }>();
const emit = defineEmits<{ propose: [operation: Operation]; cuts: [sections: number[]]; point: []; link: [] }>();

const choices = useChoices();

const LEVELS = [2, 3, 4, 5, 6];
const parts = reactive({ into: 4 });
const said = ref("");

const unable = computed(() => props.busy || props.locked !== "");
const page = computed(() => props.page.path);

function ask(operation: Operation): void {
  said.value = "";
  emit("propose", operation);
}

async function suggest(): Promise<void> {
  said.value = "";
  try {
    emit("cuts", await choices.cuts(parts.into));
  } catch (error) {
    said.value = detailOf(error);
  }
}
</script>

<template>
  <div class="stage-form">
    <p v-if="locked" class="locked small" role="note">{{ locked }}</p>

    <HeadingsForm v-if="stage === 'headings'" :page="props.page" :unable="unable" @propose="ask" />
    <IdentifiersForm v-else-if="stage === 'identifiers'" :page="props.page" :unable="unable" :levels="LEVELS" @propose="ask" @point="emit('point')" />

    <ContentsForm v-else-if="stage === 'contents'" :page="props.page" :unable="unable" @propose="ask" />
    <JumpsForm v-else-if="stage === 'jumps'" :page="props.page" :unable="unable" @link="emit('link')" />
    <ReturnsForm v-else-if="stage === 'returns'" :page="props.page" :unable="unable" @propose="ask" />

    <form v-else-if="stage === 'parts'" @submit.prevent="ask({ operation: 'parts', page, sections: [...cuts] })">
      <template v-if="props.page.in_parts">
        <p>This page is one of several parts already. Undo that change to cut it another way.</p>
      </template>
      <template v-else>
        <label>Best cuts for <input v-model.number="parts.into" class="field short" type="number" min="2" max="50"> parts</label>
        <button type="button" class="button" :disabled="unable" @click="suggest">Propose</button>
        <p class="soft">or tick in the ledger where a part begins.</p>
        <button class="button main" :disabled="unable || !cuts.size">Cut into {{ cuts.size + 1 }} {{ cuts.size ? "parts" : "part" }}</button>
        <button v-if="cuts.size" type="button" class="button quiet" @click="emit('cuts', [])">Clear</button>
      </template>
    </form>

    <p v-else>{{ props.page.findings.length ? `${props.page.findings.length} things on this page do not hold. Choose one to go there.` : "Nothing on this page that we know to look for fails to hold." }}</p>
    <p v-if="said" role="alert" class="wrong small">{{ said }}</p>
  </div>
</template>

<style scoped>
.stage-form {
  padding: 8px 12px;
  border-bottom: 1px solid var(--line);
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

.locked,
.wrong {
  color: var(--wrong);
  padding-bottom: 4px;
}
</style>
