/** What is done to contents: the block that is worked on, its entries by section, and what is asked for. */
import { computed } from "vue";
import type { ContentsView, EntryView, Operation } from "../api/client";
import { usePage } from "../stores/page";
import { useTray } from "../stores/tray";

export type EntryState = EntryView["state"] | "missing" | "left-out" | "none";
export type Kind = "bullets" | "ordered" | "numbered" | "row";
type ContentsOperation = Extract<Operation, { operation: "contents" }>;

/** What an entry's state is called beside it; "" where there is nothing to say. */
export const STATE_WORDS: Record<string, string> = {
  right: "",
  stale: "out of date",
  shortened: "own words",
  doubted: "heading changed",
  gone: "leads nowhere",
  open: "leads nowhere",
  missing: "no entry",
  "left-out": "left out",
  none: "",
};

export const kindOf = (block: ContentsView): Kind =>
  block.form === "row" ? "row" : block.numbered ? "numbered" : block.ordered ? "ordered" : "bullets";

export function useContents() {
  const page = usePage();
  const tray = useTray();

  const blocks = computed(() => page.view?.navigation.contents ?? []);
  const block = computed(() => blocks.value.find((one) => one.index === page.block) ?? blocks.value[0] ?? null);
  const entries = computed(
    () =>
      new Map(
        (block.value?.entries ?? []).flatMap((entry) =>
          entry.section === null ? [] : [[entry.section, entry] as const],
        ),
      ),
  );
  const missing = computed(() => new Set(block.value?.missing ?? []));
  const leftOut = computed(() => new Set(block.value?.left_out ?? []));

  function stateOf(section: number): EntryState {
    const entry = entries.value.get(section);
    if (entry) return entry.state;
    if (missing.value.has(section)) return "missing";
    const identifier = page.view?.sections[section]?.identifier;
    return identifier && leftOut.value.has(identifier) ? "left-out" : "none";
  }

  /** Ask for contents; what is left out stays as it is. */
  function ask(wanted: Partial<ContentsOperation>): void {
    void tray.propose({
      operation: "contents",
      page: page.path,
      label: "",
      separator: "",
      spot: "lead",
      kept: [],
      ...wanted,
    });
  }

  const shape = (kind: Kind) => ({
    form: kind === "row" ? ("row" as const) : ("list" as const),
    ordered: kind === "row" ? null : kind === "ordered",
    numbered: kind === "numbered",
  });

  function refresh(): void {
    if (block.value) ask({ block: block.value.index });
  }

  /** Leave a section out of the contents, or take it in again. */
  function toggle(section: number): void {
    const name = page.view?.sections[section]?.identifier ?? page.view?.sections[section]?.proposed;
    if (!block.value || !name) return;
    const names = new Set(block.value.left_out);
    if (!names.delete(name)) names.add(name);
    ask({ block: block.value.index, left_out: [...names] });
  }

  function setWords(section: number, words: string): void {
    const entry = entries.value.get(section);
    if (!block.value || !entry || entry.words === words.trim()) return;
    void tray.propose({ operation: "entry", page: page.path, block: block.value.index, section, words });
  }

  /** Say that a shortened entry is right although its heading changed. */
  function keep(section: number): void {
    if (block.value) ask({ block: block.value.index, kept: [section] });
  }

  return { blocks, block, entries, stateOf, ask, shape, refresh, toggle, setWords, keep };
}
