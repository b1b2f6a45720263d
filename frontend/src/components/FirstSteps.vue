<script setup lang="ts">
/** A short path for someone who opens a desk for the first time: sections, a finding, its fix, the diff, undo. */
import { useEventListener, useStorage } from "@vueuse/core";
import { computed, nextTick, onMounted, ref, watch } from "vue";
import { usePage } from "../stores/page";
import { useStages } from "../stores/stages";
import { useTray } from "../stores/tray";

interface Step {
  target: string;
  title: string;
  words: string;
  placement: "right" | "left" | "top" | "bottom";
  prepare?: () => void | Promise<unknown>; // brings to sight what the step is about
}

const page = usePage();
const stages = useStages();
const tray = useTray();
const seen = useStorage("signpost-first-steps", false);
const open = ref(false);
const at = ref(0);

/** The stage that was open before; it is opened again at the end. */
const begun = page.stage;
/** A finding that can be fixed by choosing another target. */
const fixable = computed(() => stages.findings.find((finding) => finding.choices.length > 0) ?? null);
const steps = computed<Step[]>(() => [
  {
    target: "[data-pane='ledger']",
    title: "The sections of the page",
    words: "The ledger lists every heading. Select one: the page, its source and the road on the left go there too.",
    placement: "right",
  },
  {
    target: ".strip",
    title: "What is done, and what is left",
    words:
      "Each stage of the work says how far the page has come. The button at the right does the next useful step.",
    placement: "bottom",
  },
  ...(fixable.value ? withFix(fixable.value) : []),
  {
    target: ".undo",
    title: "Every change can be undone",
    words: "A change is applied as a whole, in all files it touches, and undone to the byte.",
    placement: "bottom",
    prepare: () => tray.drop(),
  },
]);

function withFix(finding: { title: string; start: number; rule: string }): Step[] {
  return [
    {
      target: "[data-pane='ledger']",
      title: "A finding",
      words: `${finding.title}. Each finding says what is wrong, where, and what can be done about it.`,
      placement: "right",
      prepare: () => void (page.stage = "findings"),
    },
    {
      target: ".tray",
      title: "Its fix, before anything changes",
      words: "Edits wait in the tray with their diff. Nothing is written until you press Apply.",
      placement: "top",
      prepare: async () => {
        const { rule, start } = finding;
        await tray.propose({ operation: "fix", page: page.path, rule, start, choice: 0, everywhere: false });
        tray.open = tray.waits;
      },
    },
  ];
}

function finish(): void {
  open.value = false;
  seen.value = true;
  tray.drop();
  page.stage = begun;
}

watch(at, (step) => void steps.value[step]?.prepare?.());
// each step starts on the button that leads on, so that Enter is enough
useEventListener(document, "focusin", ({ target }) => {
  if (target instanceof HTMLElement && target.matches(".el-tour__content"))
    target.querySelector<HTMLElement>(".el-button--primary")?.focus();
});
onMounted(() => {
  if (!seen.value) void nextTick(() => (open.value = page.view !== null));
});
</script>

<template>
  <el-tour
    v-if="open"
    v-model="open"
    v-model:current="at"
    :mask="{ color: 'rgb(17 23 21 / 35%)' }"
    @close="finish"
    @finish="finish"
  >
    <el-tour-step
      v-for="step in steps"
      :key="step.title"
      :target="step.target"
      :title="step.title"
      :placement="step.placement"
      >{{ step.words }}</el-tour-step
    >
  </el-tour>
</template>
