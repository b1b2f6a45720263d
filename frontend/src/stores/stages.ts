/** The stages of the work on a page: how far each has come, and the next useful step. */
import { defineStore } from "pinia";
import { computed, shallowRef, watch } from "vue";
import type { FindingView, StageView } from "../api/client";
import { newFindings } from "../findings/groups";
import { ownLinks } from "../ledger/rows";
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
    for (const one of [...(page.view?.stages ?? []), ...(measured.value?.stages ?? [])]) found.set(one.stage, one);
    const count = findings.value.length;
    const arriving = page.view?.is_arriving ?? false;
    const has = (severity: string) => findings.value.some((one) => one.severity === severity);
    found.set("findings", {
      stage: "findings",
      progress: has("error") ? "wrong" : has("warning") ? "todo" : count || arriving ? "optional" : "done",
      words: count ? counted(count, "finding") : arriving ? "not looked for yet" : "none",
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
    if (view.locked) return;
    if (stage === "headings") {
      const sure = view.structure.lookalikes.filter((found) => found.sure);
      const levels = Object.fromEntries(
        sure.map((found) => [found.index, page.levels.get(found.text) ?? found.level]),
      );
      if (sure[0]) {
        page.point(sure[0]);
        void tray.propose({ operation: "promote", page: page.path, levels });
      } else if (!view.structure.lookalikes.length && view.structure.repairs[0])
        dialogs.show({ name: "repair", code: view.structure.repairs[0].code });
    } else if (stage === "identifiers") {
      const missing = view.sections.some((section) => section.level > 1 && !section.identifier);
      if (!missing && view.structure.twice.length) dialogs.show({ name: "twice" });
      else void tray.propose({ operation: "identify", page: page.path, levels: [2, 3, 4, 5, 6] });
    } else if (stage === "contents") nextContents();
    else if (stage === "jumps") {
      page.linksShown = "broken";
      const [first] = ownLinks(view).filter((link) => link.resolves === false);
      if (first) page.point(first);
    } else if (stage === "back-to-top")
      void tray.propose({
        operation: "back-to-top",
        page: page.path,
        levels: [2],
        to: "top",
        least_words: 0,
        least_windows: 0,
        words: "",
        corner: "end",
        alike: false,
        everywhere: false,
        window: null,
      });
    else if (stage === "walk") dialogs.show({ name: "landing-fixes" });
  }

  function nextContents(): void {
    const { contents, handmade } = page.view!.navigation;
    if (!contents.length && handmade[0]) {
      dialogs.show({ name: "adopt", start: handmade[0].start });
      return;
    }
    void tray.propose({
      operation: "contents",
      page: page.path,
      label: "",
      separator: "",
      spot: "lead",
      kept: [],
      block: contents[0] ? contents[0].index : "new",
    });
  }

  return { fresh, measured, findings, states, next, goNext };
});
