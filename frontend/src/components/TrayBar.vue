<script setup lang="ts">
/** The tray: how many edits are pending, in which files, their diff; apply them or discard them. */
import { computed, nextTick, ref, watch } from "vue";
import { MAC } from "../composables/useKeys";
import { useBench } from "../stores/bench";
import { useChanges } from "../stores/changes";
import { usePage } from "../stores/page";
import { useTray } from "../stores/tray";
import { counted } from "../text/count";
import DiffView from "./DiffView.vue";
import PaneSplitter from "./PaneSplitter.vue";
import SignIcon from "./SignIcon.vue";

/** How many kinds and pages are named. */
const SHOWN = 3;

const emit = defineEmits<{ undo: [] }>();
const tray = useTray();
const changes = useChanges();
const page = usePage();
const bench = useBench();
const applyButton = ref<{ ref?: HTMLElement } | null>(null);

const summary = computed(() => {
  const plan = tray.plan;
  if (!plan) return "";
  const files = plan.files.length;
  return `${counted(plan.edits, "edit")} in ${files === 1 ? plan.files[0]!.path : counted(files, "file")}`;
});
/** What the edits are for, and on which pages, whether the diff is shown or not. */
const kinds = computed(() => {
  const plan = tray.plan;
  if (!plan || (plan.kinds.length < 2 && plan.files.length < 2)) return "";
  const first = <T,>(some: readonly T[], words: (one: T) => string) =>
    some.slice(0, SHOWN).map(words).join(", ") + (some.length > SHOWN ? ` and ${some.length - SHOWN} more` : "");
  const what = first(plan.kinds, (one) => `${one.edits.toLocaleString()} × ${one.reason}`);
  const where = first(plan.files, (one) => `${one.path} ${one.edits.toLocaleString()}`);
  return plan.files.length > 1 ? `${what} · ${where}` : what;
});
/** A rename that is pending: its old identifier may stay beside the new one. */
const renaming = computed(() => (tray.request?.operation === "rename" ? tray.request : null));
/** What is being done, and how far that has come. */
const working = computed(() => {
  const how = tray.progress;
  return how
    ? `${how.what}: ${counted(how.done, "page")} of ${how.total.toLocaleString()}…`
    : "Working out the edits…";
});
const notice = computed(() => tray.problem || changes.problem || tray.notice);
const wrong = computed(() => Boolean(tray.problem || changes.problem));
const canUndo = computed(() => tray.notice.startsWith("Applied") && changes.undoable !== null && !page.typing);

watch(
  () => tray.plan,
  (plan) => {
    const active = document.activeElement;
    if (plan?.edits && (active === document.body || active?.closest(".stage-form, .strip")))
      void nextTick(() => applyButton.value?.ref?.focus());
  },
);

/** What asked for the edits: it loses the focus while it is disabled, and gets it back once they are settled. */
let asker: HTMLElement | null = null;
watch(
  () => tray.busy || tray.waits,
  async (at) => {
    const active = document.activeElement;
    if (at) asker = active instanceof HTMLElement && active !== document.body ? active : null;
    else if (asker) {
      await nextTick();
      if (document.activeElement === document.body && asker.isConnected) asker.focus();
    }
  },
);
</script>

<template>
  <section class="tray" :class="{ waits: tray.waits }" aria-label="Tray: pending edits">
    <div v-if="tray.open && tray.plan && tray.waits" class="rising">
      <PaneSplitter v-model="bench.diffHeight" label="Room for the diff" :least="120" :most="900" stacked after />
      <div class="diff" tabindex="0" aria-label="Diff" :style="{ maxHeight: `min(${bench.diffHeight}px, 80vh)` }">
        <DiffView :plan="tray.plan" />
      </div>
    </div>
    <div class="row">
      <template v-if="tray.waits && tray.plan">
        <p class="title">
          <strong>{{ tray.plan.title }}</strong> <span class="soft">{{ summary }}</span>
          <span v-if="kinds" class="kinds soft small">{{ kinds }}</span>
        </p>
        <ul v-if="tray.plan.notes.length" class="notes small">
          <li v-for="note in tray.plan.notes" :key="note">{{ note }}</li>
        </ul>
        <div v-if="tray.question" class="question small">
          <p>{{ tray.question.words }}</p>
          <el-radio-group
            size="small"
            :model-value="tray.answer ?? undefined"
            :disabled="tray.busy"
            :aria-label="tray.question.words"
            @change="tray.say(String($event))"
          >
            <el-radio v-for="choice in tray.question.choices" :key="choice" :value="choice">{{ choice }}</el-radio>
          </el-radio-group>
        </div>
        <el-checkbox
          v-if="renaming"
          size="small"
          title="Links from elsewhere to the old identifier keep working"
          :model-value="renaming.keep_old"
          :disabled="tray.busy"
          @change="tray.propose({ ...renaming, keep_old: !renaming.keep_old })"
          >Keep “{{ renaming.old }}” too</el-checkbox
        >
        <span v-if="wrong" role="alert" class="wrong small">{{ notice }}</span>
        <el-button :aria-expanded="tray.open" title="d" @click="tray.open = !tray.open">{{
          tray.open ? "Hide the diff" : "Show the diff"
        }}</el-button>
        <el-button :disabled="tray.busy" title="Esc" @click="tray.discard()">Discard</el-button>
        <el-button
          ref="applyButton"
          type="primary"
          :disabled="tray.busy || Boolean(tray.plan.question) || !tray.plan.edits"
          :title="MAC ? '⌘ Enter' : 'Ctrl Enter'"
          @click="tray.apply()"
          >Apply</el-button
        >
      </template>
      <p v-else class="title idle" :class="{ wrong }" :role="wrong ? 'alert' : 'status'">
        <SignIcon v-if="wrong" name="wrong" />
        <template v-if="notice">{{ notice }}</template>
        <template v-else-if="tray.plan?.notes.length">{{ tray.plan.notes.join(" ") }}</template>
        <template v-else-if="tray.busy"
          >{{ working }} <el-button size="small" @click="tray.stop()">Stop</el-button></template
        >
        <span v-else class="soft">No pending edits. Changes appear here for review.</span>
        <el-button v-if="tray.discarded" size="small" @click="tray.takeBack()">Take it back</el-button>
        <el-button v-else-if="canUndo" size="small" @click="emit('undo')">Undo</el-button>
      </p>
    </div>
  </section>
</template>

<style scoped>
.tray {
  position: relative;
  flex: none;
  background: var(--sheet);
  border-top: 1px solid var(--line);
}

.tray.waits {
  border-top: 2px solid var(--wait);
  background: var(--wait-wash);
}

/* it rises over the panes, as far as it needs */
.rising {
  position: absolute;
  right: 0;
  bottom: 100%;
  left: 0;
  z-index: 10;
  box-shadow: var(--shadow);
}

.diff {
  overflow: auto;
  padding: 10px 12px 0;
  background: var(--ground);
  border-top: 2px solid var(--wait);
}

.row {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 40px;
  padding: 4px 12px;
}

.title {
  flex: 1;
  min-width: 0;
}

.kinds {
  display: block;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.idle {
  display: flex;
  align-items: center;
  gap: 8px;
}

.question {
  max-width: 50%;
  color: var(--wait);
}

.notes li:only-child {
  list-style: none;
}

.notes {
  margin: 0;
  padding: 0 0 0 16px;
  max-width: 40%;
  color: var(--wait);
}
</style>
