<script setup lang="ts">
/** The outline as the user of a screen reader hears it. */
import { onMounted, ref } from "vue";
import { detailOf, type SpokenHeading } from "../api/client";
import { useChoices } from "../stores/choices";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";

const choices = useChoices();
const dialogs = useDialogs();
const page = usePage();
const heard = ref<SpokenHeading[]>([]);
const problem = ref("");

onMounted(async () => {
  try {
    heard.value = await choices.heard();
  } catch (error) {
    problem.value = detailOf(error);
  }
});

/** How many levels a heading leaves out below the one before; 0 for none. */
const leap = (at: number) => Math.max((heard.value[at]?.level ?? 1) - (heard.value[at - 1]?.level ?? 0) - 1, 0);

function go(one: SpokenHeading): void {
  if (one.section !== null) page.select(one.section);
  dialogs.close();
}
</script>

<template>
  <el-dialog
    :model-value="true"
    title="As a screen reader says it"
    width="560"
    align-center
    append-to-body
    @close="dialogs.close()"
  >
    <p class="soft small">Going from heading to heading, this is what is heard, the page's furniture included.</p>
    <p v-if="problem" role="alert">{{ problem }}</p>
    <ol>
      <li v-for="(one, at) in heard" :key="at">
        <button type="button" @click="go(one)">
          <span class="say">Heading level {{ one.level }}</span> {{ one.text || "— nothing is said" }}
          <span v-if="one.section === null" class="soft small">(furniture)</span>
          <span v-if="leap(at)" class="leap small">level {{ one.level - leap(at) }} is left out</span>
          <span v-if="!one.text" class="leap small">it has no words</span>
        </button>
      </li>
    </ol>
  </el-dialog>
</template>

<style scoped>
ol {
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
  max-height: 58vh;
  overflow: auto;
}

button {
  width: 100%;
  padding: 4px 6px;
  border: 0;
  background: none;
  text-align: left;
  font-family: var(--read);
  cursor: pointer;
}

button:hover {
  background: var(--post-wash);
}

.say {
  font: 600 12px var(--ui);
  color: var(--ink-soft);
}

.leap {
  font-family: var(--ui);
  color: var(--wait);
  font-weight: 600;
}
</style>
