<script setup lang="ts">
/** An identifier for any element, or for the very top or bottom of the content. */
import { computed, ref, watch } from "vue";
import type { Place } from "../api/client";
import { useJudgement } from "../composables/useJudgement";
import JudgementNote from "../ledger/JudgementNote.vue";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";
import { useTray } from "../stores/tray";
import AskDialog from "./AskDialog.vue";

const props = defineProps<{ places: Place[]; start: number | "top" | "bottom" }>();
const page = usePage();
const tray = useTray();
const dialogs = useDialogs();
const chosen = ref<number>(props.places[0]?.start ?? -1);
const place = computed(() => props.places.find((found) => found.start === chosen.value) ?? null);
const name = ref("");
const { judgement } = useJudgement(name, () => ({
  own: place.value?.identifier ?? "",
  words: place.value?.text ?? name.value,
}));
const able = computed(() => judgement.value !== null && judgement.value.verdict !== "refused");

watch(
  place,
  () =>
    (name.value =
      typeof props.start === "string"
        ? { top: "begin", bottom: "end" }[props.start]
        : (place.value?.identifier ?? place.value?.proposed ?? "")),
  { immediate: true },
);

function go(): void {
  if (!able.value) return;
  const start = typeof props.start === "string" ? props.start : chosen.value;
  const identifier = name.value.trim();
  const old = place.value?.identifier;
  void tray.propose(
    old
      ? { operation: "rename", page: page.path, old, new: identifier, keep_old: false }
      : { operation: "place", page: page.path, start, identifier },
  );
  dialogs.close();
}
</script>

<template>
  <AskDialog title="An identifier for this place" does="Show the edits" :able="able" @go="go">
    <p v-if="typeof start === 'string'">The very {{ start }} of the page's content.</p>
    <fieldset v-else>
      <legend>Which element?</legend>
      <label v-for="found in places" :key="found.start" class="place">
        <input v-model="chosen" type="radio" name="place" :value="found.start" />
        <code>{{ found.tag }}</code><span class="text">{{ found.text || "(no words)" }}</span>
        <span v-if="found.identifier" class="plate" title="Its identifier; another name renames it everywhere">{{
          found.identifier
        }}</span>
      </label>
    </fieldset>
    <label
      ><span>Identifier</span
      ><input v-model="name" class="field code" spellcheck="false" autocapitalize="off" autofocus maxlength="200"
    /></label>
    <JudgementNote v-if="judgement" :judgement="judgement" @take="name = $event" />
  </AskDialog>
</template>

<style scoped>
fieldset {
  border: 1px solid var(--line);
  border-radius: var(--radius);
  padding: 4px 10px 8px;
  max-height: 36vh;
  overflow: auto;
}

.place {
  display: flex;
  gap: 8px;
  align-items: baseline;
  padding: 2px 0;
}

.place .text {
  flex: 1;
  font-weight: 400;
  font-size: inherit;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
