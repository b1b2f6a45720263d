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
const NO_STEP: StageView["step"] = { edits: null, form: "", code: "", start: null, line: 0 };

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
    const progress = WORST_FIRST.find((one) => counts.some((stage) => stage.progress === one)) ?? "done";
    const count = findings.value.length;
    found.set("findings", {
      stage: "findings",
      progress,
      words: count ? counted(count, "finding") : (counts[0]?.words ?? "none"),
      step: NO_STEP,
    });
    return found;
  });
  const next = computed(
    () => STAGES.find(([stage]) => ["todo", "wrong"].includes(states.value.get(stage)?.progress ?? "done")) ?? null,
  );

  /** Open the next stage that has something left, and show its edits where they need no choice. */
  function goNext(): void {
    const view = page.view;
    if (!next.value || !view) return;
    const [stage] = next.value;
    page.stage = stage;
    if (stage === "jumps") page.linksShown = "broken";
    const step = states.value.get(stage)?.step ?? NO_STEP;
    if (step.start !== null && stage !== "contents") page.point({ start: step.start, line: step.line });
    if (view.locked) return;
    if (step.edits) void tray.propose(chosenLevels(step.edits as Operation, view));
    else if (step.form === "repair") dialogs.show({ name: "repair", code: step.code });
    else if (step.form === "adopt") dialogs.show({ name: "adopt", start: step.start ?? 0 });
    else if (step.form) dialogs.show({ name: step.form });
  }

  /** Return edits that make look-alikes headings with the levels that were chosen for them. */
  function chosenLevels(edits: Operation, view: PageView): Operation {
    if (edits.operation !== "promote") return edits;
    const found = view.structure.lookalikes;
    const level = (index: string) => page.levels.get(found.find((one) => one.index === Number(index))?.text ?? "");
    const levels = Object.entries(edits.levels).map(([index, proposed]) => [index, level(index) ?? proposed]);
    return { ...edits, levels: Object.fromEntries(levels) as typeof edits.levels };
  }

  return { fresh, measured, findings, states, next, goNext };
});
