/** A page in parts: those it has, or would have with the cuts that its author tries out. */
import { useDebounceFn } from "@vueuse/core";
import { defineStore } from "pinia";
import { computed, ref, shallowRef } from "vue";
import { api, data, detailOf, Problem, type Operation, type PartsView, type ProposalView } from "../api/client";
import { useMeasures } from "./measures";
import { usePage } from "./page";
import { useTray } from "./tray";

/** A cut that is tried out. */
export interface Cut {
  at: number; // offset into the whole page
  title: string; // "" for the words of the heading there
  path: string; // "" for the name that the pattern gives
}
export type Wish = "parts" | "words" | "minutes" | "windows" | "level";
export type PartOptions = PartsView["options"];

/** How long an edit of a cut pauses before its parts are worked out, in milliseconds. */
const PAUSE = 120;

export const useParts = defineStore("parts", () => {
  const page = usePage();
  const measures = useMeasures();
  const tray = useTray();
  const view = shallowRef<PartsView | null>(null);
  const cuts = ref<Cut[]>([]);
  const kept = ref<Set<number>>(new Set()); // cuts that stay where they are while others are proposed
  const proposals = shallowRef<ProposalView[]>([]);
  const options = ref<PartOptions | null>(null); // as they will be
  const problem = ref("");
  const busy = ref(false);
  const opened = ref<Set<number>>(new Set()); // sections whose blocks are shown, to be cut before
  const alone = ref(false); // whether the parts are listed without their sections
  const wanted = ref<{ path: string; section: number } | null>(null); // to be selected once its page is open
  let asked = 0;
  let touched = 0; // goes up with whatever is tried out
  let last = ""; // the page that was read last

  const body = (tried: boolean) => ({
    page: page.path,
    window: { ...measures.window },
    pattern: tried ? (options.value?.pattern ?? "") : "",
  });
  const there = computed(() => view.value?.parts ?? []);
  const inParts = computed(() => view.value?.in_parts ?? false);
  const existing = shallowRef<Cut[]>([]); // the cuts that the page has
  const changed = computed(
    () => JSON.stringify(cuts.value) !== JSON.stringify(existing.value) || optionsChanged.value,
  );
  const first = shallowRef<PartOptions | null>(null); // the options as they are
  const optionsChanged = computed(() => JSON.stringify(options.value) !== JSON.stringify(first.value));

  /** The section of the whole page that is selected, by index; -1 for none. */
  const selected = computed(
    () =>
      view.value?.sections.find((one) => one.page === page.path && one.section === page.selected)?.index ??
      (inParts.value ? -1 : page.selected),
  );

  /** Read the page's parts as they are, and forget what was tried out. */
  async function load(): Promise<void> {
    const before = touched;
    const found = await read(null);
    if (!found || before !== touched) return; // what was tried out meanwhile stays
    proposals.value = [];
    kept.value = new Set();
    if (found.home !== last) opened.value = new Set();
    last = found.home;
    if (!found.sections.length) opened.value = new Set([-1]);
    takeOptions(found);
    existing.value = found.in_parts ? cutsOf(found) : [];
    cuts.value = existing.value.map((cut) => ({ ...cut }));
  }

  function takeOptions(found: PartsView): void {
    first.value = found.options;
    options.value = { ...found.options };
  }

  const cutsOf = (found: PartsView): Cut[] =>
    found.parts.slice(1).map((part) => ({ at: part.at, title: part.titled, path: "" }));

  async function read(tried: Cut[] | null): Promise<PartsView | null> {
    const mine = ++asked;
    busy.value = true;
    try {
      const found = await data(
        api.POST("/api/sites/{site_id}/parts", {
          params: { path: { site_id: page.siteId } },
          body: { ...body(tried !== null), cuts: tried },
        }),
      );
      if (mine !== asked) return null;
      view.value = found;
      problem.value = "";
      if (!options.value) takeOptions(found);
      return found;
    } catch (error) {
      if (mine === asked) problem.value = detailOf(error);
      return null;
    } finally {
      if (mine === asked) busy.value = false;
    }
  }

  const preview = useDebounceFn(() => read(cuts.value), PAUSE);

  function change(next: Cut[]): void {
    touched++;
    cuts.value = next.sort((a, b) => a.at - b.at);
    void preview();
  }

  /** Cut before a place, or not any more. */
  function toggle(at: number): void {
    proposals.value = [];
    kept.value.delete(at);
    const without = cuts.value.filter((cut) => cut.at !== at);
    change(without.length < cuts.value.length ? without : [...without, { at, title: "", path: "" }]);
  }

  /** Cut before what begins at an offset of the page; what is wrong with that is told. */
  async function cutBefore(start: number): Promise<void> {
    touched++;
    proposals.value = [];
    const found = await read([...cuts.value, { at: start, title: "", path: "" }]);
    if (!found) return;
    const said = new Map(cuts.value.map((cut) => [cut.at, cut]));
    cuts.value = found.parts.slice(1).map((part) => said.get(part.at) ?? { at: part.at, title: "", path: "" });
  }

  function move(from: number, to: number): void {
    if (from === to || cuts.value.some((cut) => cut.at === to)) return;
    if (kept.value.delete(from)) kept.value.add(to);
    change(cuts.value.map((cut) => (cut.at === from ? { at: to, title: "", path: cut.path } : cut)));
  }

  /** Move a cut to the next place where the page can be cut, or the one before. */
  function step(at: number, by: 1 | -1): number {
    const places = (view.value?.places ?? []).filter((place) => place.section !== null || opened.value.size > 0);
    const free = places.map((place) => place.at).filter((place) => !cuts.value.some((cut) => cut.at === place));
    const to = by > 0 ? free.find((place) => place > at) : free.filter((place) => place < at).at(-1);
    if (to === undefined) return at;
    move(at, to);
    return to;
  }

  function say(at: number, said: Partial<Cut>): void {
    change(cuts.value.map((cut) => (cut.at === at ? { ...cut, ...said } : cut)));
  }

  function keep(at: number): void {
    const next = new Set(kept.value);
    if (!next.delete(at)) next.add(at);
    kept.value = next;
  }

  function open(section: number): void {
    const next = new Set(opened.value);
    if (!next.delete(section)) next.add(section);
    opened.value = next;
  }

  function clear(): void {
    proposals.value = [];
    kept.value = new Set();
    options.value = first.value ? { ...first.value } : null;
    change(existing.value.map((cut) => ({ ...cut })));
  }

  /** Ask for ways to cut the page; the best is tried out at once. */
  async function propose(by: Wish, value: number): Promise<void> {
    try {
      proposals.value = await data(
        api.POST("/api/sites/{site_id}/parts/proposals", {
          params: { path: { site_id: page.siteId } },
          body: { page: page.path, window: { ...measures.window }, by, value, fixed: [...kept.value] },
        }),
      );
      problem.value = "";
      if (proposals.value[0]) take(proposals.value[0]);
      else problem.value = "There is no such heading to cut before. Choose another level.";
    } catch (error) {
      problem.value = detailOf(error);
    }
  }

  function take(proposal: ProposalView): void {
    const said = new Map(cuts.value.map((cut) => [cut.at, cut]));
    change(proposal.cuts.map((at) => said.get(at) ?? { at, title: "", path: "" }));
  }

  const isTaken = (proposal: ProposalView) =>
    proposal.cuts.length === cuts.value.length && proposal.cuts.every((at, index) => cuts.value[index]?.at === at);

  function choose(next: Partial<PartOptions>): void {
    if (!options.value) return;
    touched++;
    options.value = { ...options.value, ...next };
    if (next.pattern !== undefined) void preview();
  }

  /** The options as an operation is asked for them. */
  const asAsked = () => ({
    links: options.value?.links as NonNullable<Extract<Operation, { operation: "parts" }>["links"]>,
    contents: options.value?.contents as NonNullable<Extract<Operation, { operation: "parts" }>["contents"]>,
    forward: options.value?.forward as NonNullable<Extract<Operation, { operation: "parts" }>["forward"]>,
    pattern: options.value?.pattern ?? "",
    raise_levels: options.value?.raise_levels ?? false,
  });

  const ask = (operation: Operation) => tray.propose(operation);
  const cut = () => ask({ operation: "parts", page: page.path, sections: [], cuts: [...cuts.value], ...asAsked() });
  const join = () => ask({ operation: "join", page: page.path });
  const refresh = () => ask({ operation: "refresh-parts", page: page.path, ...asAsked() });

  /** Put a part one place up or down. */
  function shift(number: number, by: 1 | -1): void {
    const order = there.value.map((part) => part.number);
    const at = number - 1;
    if (at < 1 || at + by < 1 || at + by >= order.length) return;
    [order[at], order[at + by]] = [order[at + by]!, order[at]!];
    void ask({ operation: "reorder-parts", page: page.path, order });
  }

  /** Keep the pattern of file names and the limits for all pages of the site; say what is wrong, or "". */
  async function saveForSite(limits: PartsView["limits"]): Promise<void> {
    try {
      await data<unknown>(
        api.PUT("/api/sites/{site_id}/parts/settings", {
          params: { path: { site_id: page.siteId } },
          body: { names: options.value?.pattern ?? "", limits: { ...limits } },
        }),
      );
      await read(cuts.value);
    } catch (error) {
      problem.value = error instanceof Problem ? error.message : detailOf(error);
    }
  }

  /** Measure the parts that were not yet, so that their lengths are no estimates. */
  async function measureAll(): Promise<void> {
    const mine = asked;
    if (!view.value?.in_parts) return;
    try {
      if ((await measures.measurePages(view.value.paths)) && mine === asked) await read(null);
    } catch {
      // A part went away meanwhile; the lengths stay estimates.
    }
  }

  return {
    view,
    cuts,
    kept,
    proposals,
    options,
    problem,
    busy,
    opened,
    wanted,
    alone,
    there,
    inParts,
    changed,
    selected,
    load,
    toggle,
    cutBefore,
    move,
    step,
    say,
    keep,
    open,
    clear,
    propose,
    take,
    isTaken,
    choose,
    cut,
    join,
    refresh,
    shift,
    saveForSite,
    measureAll,
  };
});
