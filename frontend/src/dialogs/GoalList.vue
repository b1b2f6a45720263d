<script setup lang="ts">
/** Sections, identifiers and pages that a link may lead to, found as one types. */
import { watchDebounced } from "@vueuse/core";
import { nextTick, onMounted, ref, shallowRef, watch } from "vue";
import { detailOf, type GoalView } from "../api/client";
import { useChoices } from "../stores/choices";
import { usePage } from "../stores/page";

const props = defineProps<{ now: string | null }>(); // where the link leads now, as its address says
const emit = defineEmits<{ go: [goal: GoalView]; problem: [words: string] }>();
const chosen = defineModel<GoalView | null>({ required: true });
const page = usePage();
const choices = useChoices();
const shown = shallowRef<readonly GoalView[]>([]);
const more = ref(false);
const read = ref(false);
const query = ref("");
const at = ref(0);
const list = ref<HTMLElement | null>(null);
let asked = 0;
let answered = ""; // what was typed when the goals were found that are shown

/** Look for goals by what is typed. */
async function find(): Promise<void> {
  const mine = ++asked;
  try {
    const found = await choices.goals(query.value);
    if (mine !== asked) return;
    shown.value = found.goals;
    answered = query.value;
    more.value = found.more;
    read.value = true;
    emit("problem", "");
    at.value = query.value
      ? 0
      : Math.max(
          shown.value.findIndex((goal) => goal.address === props.now),
          0,
        );
  } catch (error) {
    if (mine === asked) emit("problem", detailOf(error));
  }
}

watchDebounced(query, find, { debounce: 120 });
watch(at, () =>
  nextTick(() => list.value?.querySelector("[aria-selected='true']")?.scrollIntoView({ block: "nearest" })),
);
watch([shown, at], () => (chosen.value = shown.value[at.value] ?? null));
onMounted(find);

function step(by: number): void {
  at.value = Math.min(Math.max(at.value + by, 0), shown.value.length - 1);
}

/** The goal that is chosen; where something else was typed since it was found, the first that is found by that. */
async function settle(): Promise<GoalView | null> {
  const typed = query.value;
  const goal = answered === typed ? chosen.value : (await choices.goals(typed)).goals[0];
  if (!goal) throw new Error(`No heading, identifier or page is found by “${typed}”.`);
  return goal;
}

defineExpose({ settle });
</script>

<template>
  <div class="goal-list">
    <el-input
      v-model="query"
      autofocus
      clearable
      spellcheck="false"
      autocomplete="off"
      placeholder="Type a few letters of a heading, an identifier or a page"
      aria-label="Heading, identifier or page"
      container-role="combobox"
      aria-controls="goals"
      aria-expanded="true"
      :aria-activedescendant="chosen ? `goal-${at}` : undefined"
      @keydown.down.prevent="step(1)"
      @keydown.up.prevent="step(-1)"
      @keydown.page-down.prevent="step(10)"
      @keydown.page-up.prevent="step(-10)"
    />
    <div id="goals" ref="list" class="scroller goals" role="listbox" aria-label="Where it may lead">
      <div
        v-for="(goal, row) in shown"
        :id="`goal-${row}`"
        :key="`${goal.path}-${goal.section}-${goal.identifier}-${goal.edge}`"
        role="option"
        :aria-selected="row === at"
        class="goal"
        :class="{ page: goal.level === 0 && !goal.identifier && !goal.edge }"
        @click="at = row"
        @dblclick="emit('go', goal)"
      >
        <span class="clipped words" :style="{ paddingLeft: goal.level ? `${(goal.level - 1) * 12}px` : 0 }">{{
          goal.text || "(no words)"
        }}</span>
        <span class="small soft clipped">{{ goal.path === page.path ? "" : goal.path }}</span>
        <span v-if="goal.identifier" class="plate">{{ goal.identifier }}</span>
        <span v-else-if="goal.section !== null" class="small soft">gets an identifier</span>
      </div>
      <p v-if="!shown.length" class="soft none">
        {{ read ? "No such heading, identifier or page." : "Reading the site…" }}
      </p>
      <p v-else-if="more" class="soft small none">There are more; type to find them.</p>
    </div>
  </div>
</template>

<style scoped>
.goal-list {
  display: flex;
  flex-direction: column;
  gap: 12px;
}

.goals {
  height: 38vh;
}

.short .goals {
  height: 14vh;
}

.goal {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto auto;
  gap: 10px;
  align-items: baseline;
  padding: 3px 8px;
  cursor: default;
}

.goal .words {
  font-family: var(--read);
}

.goal.page {
  border-top: 1px solid var(--line);
  background: var(--sheet-sunk);
  font-weight: 600;
}

.goal:hover {
  background: var(--sheet-sunk);
}

.goal[aria-selected="true"] {
  background: var(--post-wash);
  box-shadow: inset 3px 0 0 var(--post);
}

.none {
  padding: 8px;
}
</style>
