<script setup lang="ts">
/** A heading where there is none. */
import { computed, ref } from "vue";
import type { MissingView } from "../api/client";
import { useJudgement } from "../composables/useJudgement";
import JudgementNote from "../ledger/JudgementNote.vue";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";
import { useTray } from "../stores/tray";
import PickOne from "../components/PickOne.vue";
import AskDialog from "./AskDialog.vue";
import BlockChoice from "./BlockChoice.vue";

const props = defineProps<{ missing: MissingView | null }>();
const page = usePage();
const tray = useTray();
const dialogs = useDialogs();
const before = ref<number | null>(props.missing?.start ?? null);
const level = ref(props.missing?.level ?? Math.min((page.section?.level ?? 1) + 1, 6));
const LEVELS = [1, 2, 3, 4, 5, 6].map((value) => ({ value, words: `h${value}` }));
const words = ref("");
const identifier = ref("");
const { judgement } = useJudgement(identifier, () => ({ own: "", words: words.value }));
const able = computed(
  () =>
    before.value !== null &&
    words.value.trim() !== "" &&
    (!identifier.value || judgement.value?.verdict !== "refused"),
);

function go(): void {
  if (!able.value || before.value === null) return;
  void tray.propose({
    operation: "insert-heading",
    page: page.path,
    before: before.value,
    level: level.value,
    words: words.value,
    identifier: identifier.value.trim(),
  });
  dialogs.close();
}
</script>

<template>
  <AskDialog title="Insert a heading" does="Show the edits" :able="able" @go="go">
    <p v-if="missing" class="soft">{{ missing.reason }}, line {{ missing.line }}.</p>
    <el-form-item label="Words"><el-input v-model="words" autofocus maxlength="400" /></el-form-item>
    <div class="row">
      <el-form-item label="Level">
        <PickOne v-model="level" :choices="LEVELS" label="Level" size="default" :width="90" />
      </el-form-item>
      <el-form-item label="Identifier">
        <el-input v-model="identifier" class="code" spellcheck="false" placeholder="none for now" />
      </el-form-item>
    </div>
    <JudgementNote v-if="identifier && judgement" :judgement="judgement" @take="identifier = $event" />
    <BlockChoice v-model="before" label="Before this block" :initial="missing?.start" />
  </AskDialog>
</template>
