/** The stages of the work on a page: how far each has come, and the next useful step. */
import { defineStore } from "pinia";
import { computed, shallowRef, watch } from "vue";
import type { FindingView, Operation, PageView, StageView } from "../api/client";
import { newFindings } from "../findings/groups";
import { counted } from "../text/count";
import { useDialogs } from "./dialogs";
import { useMeasures } from "./measures";
import { usePage, type Stage } from "./page";
import { useTray } from "./tray";

/** The stages in the order in which a page is usually worked on. */
export const STAGES: readonly [Stage, string][] = [
  ["headings", "Headings"],
  ["identifiers", "Identifiers"],
  ["contents", "Contents"],
  ["jumps", "Jump links"],
  ["back-to-top", "Back to top"],
  ["walk", "Landings"],
  ["parts", "Parts"],
  ["findings", "Findings"],
];

/** What a stage may ask for, the worst first. */
const WORST_FIRST = ["wrong", "todo", "optional", "done"] as const;
/** By what a step is known again, as long as it is the same. */
const keyOf = (stage: Stage, step: StageView["steps"][number]) => `${stage} ${JSON.stringify(step)}`;

export const useStages = defineStore("stages", () => {
  const page = usePage();
  const measures = useMeasures();
  const dialogs = useDialogs();
  const tray = useTray();

  /** The page as it was measured, where that is of the page that is open. */
  const measured = computed(() => (measures.view?.path === page.path ? measures.view : null));
  const findings = computed<FindingView[]>(() =>
    [...(page.view?.findings ?? []), ...(page.typing ? [] : (measured.value?.findings ?? []))].sort(
      (a, b) => a.start - b.start,
    ),
  );
  /** The findings before the page changed last, and those that came with that change. */
  const before = shallowRef<FindingView[]>([]);
  const fresh = computed(() =>
    before.value.length ? newFindings(page.view?.findings ?? [], before.value) : new Set<FindingView>(),
  );
  watch(
    () => page.saved,
    (now, was) => {
      if (now && was && now.path === was.path) {
        if (now.revision !== was.revision) before.value = was.findings;
      } else if (now?.path !== was?.path) before.value = [];
    },
  );
  const states = computed(() => {
    const found = new Map<string, StageView>();
    for (const one of [...(page.view?.stages ?? []), ...(measured.value?.stages ?? [])])
      if (one.stage !== "findings") found.set(one.stage, one);
    const counts = [page.view?.stages, page.typing ? undefined : measured.value?.stages]
      .map((stages) => stages?.find((one) => one.stage === "findings"))
      .filter((one) => one !== undefined);
    const steps = counts.filter((one) => ["todo", "wrong"].includes(one.progress)).flatMap((one) => one.steps);
    const progress = WORST_FIRST.find((one) => counts.some((stage) => stage.progress === one)) ?? "done";
    const count = findings.value.length;
    found.set("findings", {
      stage: "findings",
      progress,
      words: count ? counted(count, "finding") : (counts[0]?.words ?? "none"),
      steps,
    });
    return found;
  });
  /** What is left to be done or decided on the page, in the order of the stages. */
  const left = computed(() =>
    STAGES.flatMap(([stage, words]) => {
      const state = states.value.get(stage);
      if (!state || !["todo", "wrong"].includes(state.progress)) return [];
      return state.steps.map((step) => ({ stage, words, step, key: keyOf(stage, step) }));
    }),
  );
  /** Steps that were left for later, by their keys; what an edit makes another step is asked anew. */
  const passed = shallowRef<ReadonlySet<string>>(new Set());
  const waiting = computed(() => left.value.filter((one) => !passed.value.has(one.key)));
  /** How many steps are left for later. */
  const later = computed(() => left.value.length - waiting.value.length);
  /** The stage of the next step; what was left for later comes again at the end. */
  const next = computed<[Stage, string] | null>(() => {
    const step = waiting.value[0] ?? left.value[0];
    return step ? [step.stage, step.words] : null;
  });
  /** The step that was shown last, which can be left for later. */
  const shown = shallowRef("");
  watch(
    () => page.path,
    () => {
      passed.value = new Set();
      shown.value = "";
    },
  );

  /**
   * Go to the next thing that is to be done or decided: edits are shown, a question is opened, a place is pointed at.
   * What was shown already and is still left is left for later, so that this always leads on.
   */
  function goNext(): void {
    const view = page.view;
    if (!view || !left.value.length) return;
    const before = waiting.value[0];
    if (before && before.key === shown.value && !tray.waits) leave(before.key);
    if (!waiting.value.length) passed.value = new Set();
    const one = waiting.value[0];
    if (!one) return;
    const { stage, step } = one;
    shown.value = one.key;
    page.stage = stage;
    if (stage === "jumps") page.linksShown = "broken";
    if (step.start !== null && stage !== "contents") page.point({ start: step.start, line: step.line });
    if (view.locked) return;
    if (step.edits) void tray.propose(chosenLevels(step.edits as Operation, view));
    else if (step.form === "repair") dialogs.show({ name: "repair", code: step.code });
    else if (step.form === "adopt") dialogs.show({ name: "adopt", start: step.start ?? 0 });
    else if (step.form) dialogs.show({ name: step.form });
  }

  /** Leave the next step for later, and go to the one behind it; the last one is followed by what was left before. */
  function passNext(): void {
    const step = waiting.value[0];
    if (!step) return;
    if (tray.waits) tray.discard();
    leave(step.key);
    shown.value = "";
    if (waiting.value.length) goNext();
  }

  function leave(key: string): void {
    passed.value = new Set([...passed.value, key]);
  }

  /** Return edits that make look-alikes headings with the levels that were chosen for them. */
  function chosenLevels(edits: Operation, view: PageView): Operation {
    if (edits.operation !== "promote") return edits;
    const found = view.structure.lookalikes;
    const level = (index: string) => page.levels.get(found.find((one) => one.index === Number(index))?.text ?? "");
    const levels = Object.entries(edits.levels).map(([index, proposed]) => [index, level(index) ?? proposed]);
    return { ...edits, levels: Object.fromEntries(levels) as typeof edits.levels };
  }

  return { fresh, measured, findings, states, left, later, next, shown, goNext, passNext };
});
