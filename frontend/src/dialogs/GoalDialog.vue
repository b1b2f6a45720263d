<script setup lang="ts">
/** Where a link leads: to a section, identifier or page of the site, found as one types; or to any other address. */
import { computed, ref, shallowRef, watch } from "vue";
import { detailOf, type AddressView, type GoalView, type OriginView } from "../api/client";
import { useJumps } from "../composables/useJumps";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";
import { useTray } from "../stores/tray";
import AddressFields, { type AddressKind } from "./AddressFields.vue";
import AskDialog from "./AskDialog.vue";
import GoalList from "./GoalList.vue";
import LinkLookFields, { type Look } from "./LinkLookFields.vue";

const props = defineProps<{ origin: OriginView }>();
const page = usePage();
const tray = useTray();
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
const words = ref(state?.kind === "site" ? state.words : ""); // of the page that it leads to, to open it at
const more = ref(state?.new_window || state?.rel || state?.language || words.value ? ["more"] : []);
const button = ref(false);
const beside = ref(true);
const problem = ref("");
const goals = ref<InstanceType<typeof GoalList> | null>(null);
const chosen = shallowRef<GoalView | null>(null);
const back = ref(false);

/** Lead the link to a goal; without one, to the first that is found by what is typed, however fast that was. */
async function go(picked?: GoalView): Promise<void> {
  const settled = picked ?? goals.value?.settle();
  if (!more.value.length) dialogs.close();
  try {
    const goal = await settled;
    if (!goal) return;
    const done = await jumps.lead(props.origin, goal, {
      ...said.value,
      words: words.value,
      button: button.value,
      beside: beside.value,
      back: back.value,
    });
    if (done) dialogs.close();
    else problem.value = tray.problem;
  } catch (error) {
    problem.value = tray.problem = detailOf(error);
  }
}

/** What the link says beside its address; a relation that was not touched stays as it is. */
const said = computed(() => ({
  title: look.value.title,
  new_window: look.value.new_window,
  tells_window: look.value.tells_window,
  rel: look.value.rel === (state?.rel ?? "") ? null : look.value.rel,
  language: look.value.language,
}));

/** Lead the link to an address of another kind; what was not touched stays as it is. */
async function leadTo(address: string): Promise<void> {
  const done = await tray.propose({
    operation: "link",
    page: page.path,
    start: props.origin.start,
    end: props.origin.end,
    address,
    ...said.value,
    insists: false,
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
  dialogs.pointing = true;
  dialogs.close();
}
</script>

<template>
  <AskDialog
    :title="origin.link === null ? 'Link' : 'Change target'"
    does="Show the edits"
    :able="kind === 'site' ? chosen !== null : made !== null"
    :width="660"
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
    <GoalList
      v-if="kind === 'site'"
      ref="goals"
      :class="{ short: more.length }"
      v-model="chosen"
      :now="origin.href"
      @go="go"
      @problem="problem = $event"
    />
    <el-checkbox v-if="kind === 'site' && !origin.button" v-model="back"
      >Also link back: a line “See also” at the end of that section</el-checkbox
    >
    <template v-if="kind === 'site' && origin.link === null">
      <el-checkbox v-if="!origin.button" v-model="button">Look like a button</el-checkbox>
      <el-form-item v-else label="These words are a button">
        <el-radio-group v-model="beside">
          <el-radio :value="true">Keep it, with a link after it</el-radio>
          <el-radio :value="false">Make it a link that looks like one; its script stays</el-radio>
        </el-radio-group>
      </el-form-item>
    </template>
    <el-collapse v-if="kind === 'site' && !origin.button" v-model="more">
      <el-collapse-item name="more" title="More about this link">
        <el-form-item label="Open at these words of that page, if you want"
          ><el-input v-model="words" maxlength="300" placeholder="as they stand there"
        /></el-form-item>
        <LinkLookFields v-model="look" kind="site" :own="chosen?.path === page.path" />
      </el-collapse-item>
    </el-collapse>
    <el-form-item v-else-if="kind === 'site'" label="Tooltip (title), if you want one"
      ><el-input v-model="look.title" maxlength="200"
    /></el-form-item>
    <template #more>
      <el-button v-if="kind === 'site'" text @click="pick">Pick on the page, the road or in the ledger</el-button>
      <el-button text v-if="origin.link !== null" @click="unlink">Remove link</el-button>
    </template>
  </AskDialog>
</template>

<style scoped>
:deep(.el-collapse-item__content) {
  display: flex;
  flex-direction: column;
  gap: 10px;
  padding-bottom: 4px;
}
</style>
