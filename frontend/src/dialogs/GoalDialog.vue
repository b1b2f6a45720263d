<script setup lang="ts">
/** Where a link leads: to a section, identifier or page of the site, found as one types; or to any other address. */
import { watchDebounced } from "@vueuse/core";
import { computed, nextTick, onMounted, ref, shallowRef, watch } from "vue";
import { detailOf, type AddressView, type GoalView, type OriginView } from "../api/client";
import { useJumps } from "../composables/useJumps";
import { useChoices } from "../stores/choices";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";
import { useTray } from "../stores/tray";
import AddressFields, { type AddressKind } from "./AddressFields.vue";
import AskDialog from "./AskDialog.vue";
import LinkLookFields, { type Look } from "./LinkLookFields.vue";

const props = defineProps<{ origin: OriginView }>();
const page = usePage();
const tray = useTray();
const choices = useChoices();
const dialogs = useDialogs();
const jumps = useJumps();

const KINDS: { value: "site" | AddressKind; label: string }[] = [
  { value: "site", label: "This site" },
  { value: "outside", label: "Another site" },
  { value: "mail", label: "E-mail" },
  { value: "phone", label: "Telephone" },
  { value: "file", label: "File" },
];
const state = props.origin.state;
const kinds = computed(() => (props.origin.button ? KINDS.slice(0, 1) : KINDS));
const kind = ref<"site" | AddressKind>((state?.kind as "site" | AddressKind | undefined) ?? "site");
const made = shallowRef<AddressView | null>(null); // the address of another kind, once it is one
const look = ref<Look>({
  title: state?.title ?? "",
  new_window: state?.new_window ?? false,
  tells_window: false,
  rel: state?.rel ?? "",
  language: state?.language ?? "",
  download: state?.download ?? false,
});
watch(kind, () => (made.value = null));
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

/** Lead the link to an address of another kind; what was not touched stays as it is. */
async function leadTo(address: string): Promise<void> {
  const done = await tray.propose({
    operation: "link",
    page: page.path,
    start: props.origin.start,
    end: props.origin.end,
    address,
    title: look.value.title,
    new_window: look.value.new_window,
    tells_window: look.value.tells_window,
    rel: look.value.rel === (state?.rel ?? "") ? null : look.value.rel,
    language: look.value.language,
    download: look.value.download,
  });
  if (done) dialogs.close();
  else problem.value = tray.problem;
}

function submit(): void {
  if (kind.value === "site") void go();
  else if (made.value) void leadTo(made.value.address);
}

function unlink(): void {
  if (props.origin.link !== null)
    void tray.propose({ operation: "no-jump", page: page.path, start: props.origin.link });
  dialogs.close();
}

/** Let the link say other words; where it leads is asked again after that. */
function saySo(words: string): void {
  if (props.origin.link !== null)
    void tray.propose({ operation: "link-words", page: page.path, start: props.origin.link, words });
  dialogs.close();
}

function pick(): void {
  dialogs.picking = props.origin;
  dialogs.close();
}
</script>

<template>
  <AskDialog
    :title="origin.link === null ? 'Link' : 'Change target'"
    does="Show the edits"
    :able="kind === 'site' ? chosen !== null : made !== null"
    :width="620"
    :problem="problem"
    @go="submit"
  >
    <p>
      “<strong>{{ origin.text }}</strong
      >”<template v-if="origin.href">
        leads to <code>{{ origin.href }}</code> now; it will lead</template
      ><template v-else> will lead</template> to
    </p>
    <el-segmented v-if="kinds.length > 1" v-model="kind" :options="kinds" aria-label="Where it leads" />
    <template v-if="kind !== 'site'">
      <AddressFields :key="kind" v-model="made" :kind="kind" :state="state" />
      <p v-if="kind === 'file' && made?.words" class="soft small">
        Words that tell readers what they get: “{{ made.words }}”.
        <el-button v-if="origin.link !== null" text size="small" @click="saySo(made.words)"
          >Let the link say so</el-button
        >
      </p>
      <LinkLookFields v-model="look" :kind="kind" />
    </template>
    <el-input
      v-if="kind === 'site'"
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
    <div
      v-if="kind === 'site'"
      id="goals"
      ref="list"
      class="scroller goals"
      role="listbox"
      aria-label="Where it may lead"
    >
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
    <template v-if="kind === 'site' && origin.link === null">
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
      <el-button v-if="kind === 'site'" text @click="pick">Pick on the road or in the ledger</el-button>
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
