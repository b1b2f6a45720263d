<script setup lang="ts">
/** Where a jump link leads: a section, identifier or page of the site, found as one types. */
import { watchDebounced } from "@vueuse/core";
import { computed, nextTick, onMounted, ref, shallowRef, watch } from "vue";
import { detailOf, type GoalView, type OriginView } from "../api/client";
import { useJumps } from "../composables/useJumps";
import { useChoices } from "../stores/choices";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";
import { useTray } from "../stores/tray";
import AskDialog from "./AskDialog.vue";

const props = defineProps<{ origin: OriginView }>();
const page = usePage();
const tray = useTray();
const choices = useChoices();
const dialogs = useDialogs();
const jumps = useJumps();

const shown = shallowRef<readonly GoalView[]>([]);
const more = ref(false);
const read = ref(false);
const query = ref("");
const at = ref(0);
const title = ref("");
const button = ref(false);
const beside = ref(true);
const problem = ref("");
const list = ref<HTMLElement | null>(null);
const chosen = computed(() => shown.value[at.value] ?? null);
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
    problem.value = "";
    at.value = query.value
      ? 0
      : Math.max(
          shown.value.findIndex((goal) => goal.address === props.origin.href),
          0,
        );
  } catch (error) {
    if (mine === asked) problem.value = detailOf(error);
  }
}

watchDebounced(query, find, { debounce: 120 });
watch(at, () =>
  nextTick(() => list.value?.querySelector("[aria-selected='true']")?.scrollIntoView({ block: "nearest" })),
);
onMounted(find);

function step(by: number): void {
  at.value = Math.min(Math.max(at.value + by, 0), shown.value.length - 1);
}

/** Lead the link to a goal; without one, to the first that is found by what is typed, however fast that was. */
async function go(picked?: GoalView): Promise<void> {
  const typed = query.value;
  const known = picked ?? (answered === typed ? chosen.value : null);
  dialogs.close();
  try {
    const goal = known ?? (await choices.goals(typed)).goals[0];
    if (goal) jumps.lead(props.origin, goal, { title: title.value, button: button.value, beside: beside.value });
    else tray.problem = `No heading, identifier or page is found by “${typed}”.`;
  } catch (error) {
    tray.problem = detailOf(error);
  }
}

function unlink(): void {
  if (props.origin.link !== null)
    void tray.propose({ operation: "no-jump", page: page.path, start: props.origin.link });
  dialogs.close();
}

function pick(): void {
  dialogs.picking = props.origin;
  dialogs.close();
}
</script>

<template>
  <AskDialog
    :title="origin.link === null ? 'Jump link' : 'Change target'"
    does="Show the edits"
    :able="chosen !== null"
    :width="620"
    :problem="problem"
    @go="go()"
  >
    <p>
      “<strong>{{ origin.text }}</strong
      >”<template v-if="origin.href">
        leads to <code>{{ origin.href }}</code> now; it will lead</template
      ><template v-else> will lead</template> to
    </p>
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
        :key="`${goal.path}-${goal.section}-${goal.identifier}`"
        role="option"
        :aria-selected="row === at"
        class="goal"
        :class="{ page: goal.level === 0 && !goal.identifier }"
        @click="at = row"
        @dblclick="go(goal)"
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
    <template v-if="origin.link === null">
      <el-form-item label="Tooltip (title), if you want one"
        ><el-input v-model="title" maxlength="200"
      /></el-form-item>
      <el-checkbox v-if="!origin.button" v-model="button">Look like a button</el-checkbox>
      <el-form-item v-else label="These words are a button">
        <el-radio-group v-model="beside">
          <el-radio :value="true">Keep it, with a link after it</el-radio>
          <el-radio :value="false">Make it a link that looks like one; its script stays</el-radio>
        </el-radio-group>
      </el-form-item>
    </template>
    <template #more>
      <el-button text @click="pick">Pick on the road or in the ledger</el-button>
      <el-button text v-if="origin.link !== null" @click="unlink">Remove link</el-button>
    </template>
  </AskDialog>
</template>

<style scoped>
.goals {
  height: 38vh;
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
