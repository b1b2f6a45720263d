<script setup lang="ts">
/** The tray: how many edits wait, in which files, their diff; apply them or drop them. */
import { computed, nextTick, ref, watch } from "vue";
import { useChanges } from "../stores/changes";
import { useTray } from "../stores/tray";
import DiffView from "./DiffView.vue";
import SignIcon from "./SignIcon.vue";

const tray = useTray();
const changes = useChanges();
const applyButton = ref<HTMLButtonElement | null>(null);

const summary = computed(() => {
  const plan = tray.plan;
  if (!plan) return "";
  const files = plan.files.length;
  const edits = `${plan.edits} ${plan.edits === 1 ? "edit" : "edits"}`;
  return `${edits} in ${files === 1 ? plan.files[0]!.path : `${files} files`}`;
});
/** A rename that waits: its old identifier may stay beside the new one. */
const renaming = computed(() => (tray.request?.operation === "rename" ? tray.request : null));
const said = computed(() => tray.problem || changes.problem || tray.said || changes.said);
const wrong = computed(() => Boolean(tray.problem || changes.problem));

watch(
  () => tray.plan,
  (plan) => {
    if (plan?.edits && document.activeElement?.closest(".stage-form"))
      void nextTick(() => applyButton.value?.focus());
  },
);
</script>

<template>
  <section
    class="tray"
    :class="{ open: tray.open && tray.waits, waits: tray.waits }"
    aria-label="Tray: edits that wait"
  >
    <div v-if="tray.open && tray.plan && tray.waits" class="diff" tabindex="0" aria-label="Diff">
      <DiffView :plan="tray.plan" />
    </div>
    <div class="row">
      <template v-if="tray.waits && tray.plan">
        <p class="title">
          <strong>{{ tray.plan.title }}</strong> <span class="soft">{{ summary }}</span>
        </p>
        <ul v-if="tray.plan.notes.length" class="notes small">
          <li v-for="note in tray.plan.notes" :key="note">{{ note }}</li>
        </ul>
        <label v-if="renaming" class="keep small" title="Links from elsewhere to the old identifier go on working">
          <input
            type="checkbox"
            :checked="renaming.keep_old"
            :disabled="tray.busy"
            @change="tray.propose({ ...renaming, keep_old: !renaming.keep_old })"
          />
          keep “{{ renaming.old }}” too
        </label>
        <span v-if="wrong" role="alert" class="wrong small">{{ said }}</span>
        <el-button :aria-expanded="tray.open" @click="tray.open = !tray.open">
          {{ tray.open ? "Hide the diff" : "Read the diff" }} <kbd>d</kbd>
        </el-button>
        <el-button :disabled="tray.busy" @click="tray.drop()">Drop <kbd>Esc</kbd></el-button>
        <el-button type="primary" ref="applyButton" :disabled="tray.busy" @click="tray.apply()">
          Apply <kbd>Ctrl Enter</kbd>
        </el-button>
      </template>
      <template v-else>
        <p class="idle" :class="{ wrong }" :role="wrong ? 'alert' : 'status'">
          <SignIcon v-if="wrong" name="wrong" />
          <template v-if="said">{{ said }}</template>
          <template v-else-if="tray.plan?.notes.length">{{ tray.plan.notes.join(" ") }}</template>
          <template v-else-if="tray.busy">Working it out…</template>
          <span v-else class="soft"
            >No edits wait. What you ask for above is shown here first, and applied when you say so.</span
          >
        </p>
        <slot />
      </template>
    </div>
  </section>
</template>

<style scoped>
.tray {
  flex: none;
  display: flex;
  flex-direction: column;
  background: var(--sheet);
  border-top: 1px solid var(--line);
  max-height: 62vh;
}

.tray.waits {
  border-top: 2px solid var(--wait);
  background: var(--wait-wash);
}

.diff {
  overflow: auto;
  padding: 10px 12px 0;
  height: 46vh;
  background: var(--ground);
}

.row {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 44px;
  padding: 6px 12px;
}

.title,
.idle {
  flex: 1;
  min-width: 0;
}

.idle {
  display: flex;
  align-items: center;
  gap: 6px;
}

.notes {
  margin: 0;
  padding: 0 0 0 16px;
  max-width: 40%;
  color: var(--wait);
}

.keep {
  display: inline-flex;
  align-items: center;
  gap: 5px;
  white-space: nowrap;
}

.wrong {
  color: var(--wrong);
}
</style>
