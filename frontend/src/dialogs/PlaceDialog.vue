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
  <AskDialog title="Identifier for this place" does="Show the edits" :able="able" @go="go">
    <p v-if="typeof start === 'string'">The {{ start === "top" ? "top" : "end" }} of the page's content.</p>
    <el-form-item v-else label="Element">
      <el-radio-group v-model="chosen" class="places">
        <el-radio v-for="found in places" :key="found.start" :value="found.start">
          <code>{{ found.tag }}</code> {{ found.text || "(no words)" }}
          <span v-if="found.identifier" class="plate" title="Its identifier; another one renames it everywhere">{{
            found.identifier
          }}</span>
        </el-radio>
      </el-radio-group>
    </el-form-item>
    <el-form-item label="Identifier"
      ><el-input v-model="name" class="code" spellcheck="false" autocapitalize="off" autofocus maxlength="200"
    /></el-form-item>
    <JudgementNote v-if="judgement" :judgement="judgement" @take="name = $event" />
  </AskDialog>
</template>

<style scoped>
.places {
  display: flex;
  flex-direction: column;
  align-items: stretch;
  width: 100%;
  max-height: 36vh;
  overflow: auto;
}
</style>
