/** The page on the desk: what is known of it, what is selected, what its author is typing. */
import { defineStore } from "pinia";
import { computed, ref, shallowRef } from "vue";
import { forgetDraft, keepDraft, keptDraft, type KeptDraft } from "../bench/keptDrafts";
import { api, data, detailOf, Problem, type MergedDraft, type PageView } from "../api/client";

import type { LinksShown } from "../ledger/rows";

export type Stage = "headings" | "identifiers" | "contents" | "jumps" | "back-to-top" | "walk" | "parts" | "findings";
export type Status = "loading" | "ready" | "failed";

/** How long typing pauses before the outline follows, in milliseconds. */
const PAUSE = 250;

export const usePage = defineStore("page", () => {
  const siteId = ref("");
  const path = ref("");
  const status = ref<Status>("loading");
  const problem = ref("");
  const saved = shallowRef<PageView | null>(null);
  const draft = ref<string | null>(null);
  const drafted = shallowRef<PageView | null>(null);
  const base = ref(""); // the revision that the draft goes on from
  const disputed = shallowRef<MergedDraft | null>(null); // what came meanwhile into lines that were typed in too
  const cameLines = ref(0); // how many lines of the source are marked for that
  const came = ref(0); // goes up where lines came in from elsewhere, which the source marks
  const fromElsewhere = ref(false); // whether what the page is read again for was done elsewhere
  const selected = ref(-1);
  const goal = ref(""); // the fragment that the page is opened at; "" for its top
  const stage = ref<Stage>("headings");
  const marked = ref<Set<number>>(new Set()); // sections that a key works on together
  const looks = ref(0); // goes up where the page may look otherwise though its bytes are the same
  const block = ref(0); // which of the page's contents is worked on
  const linksShown = ref<LinksShown>("all");
  const kept = shallowRef<KeptDraft | null>(null); // what was typed here once and not saved, for its author to take back
  const cursorLine = ref(0); // where the cursor in the source was last, 1-based; 0 where it never was
  const levels = ref<Map<string, number>>(new Map()); // levels chosen for look-alikes, by their words
  const pointed = shallowRef<{ start: number; line: number } | null>(null); // what is no section and was chosen in the ledger
  const wholeSections = ref(true); // whether subsections follow when a level changes
  let asked = 0;
  let timer = 0;

  const view = computed(() => drafted.value ?? saved.value);
  const section = computed(() => view.value?.sections[selected.value] ?? null);
  const typing = computed(() => draft.value !== null);

  /** Open a page, or read the open one again. */
  async function load(site: string, page: string): Promise<void> {
    const mine = ++asked;
    if (site !== siteId.value || page !== path.value) {
      siteId.value = site;
      path.value = page;
      saved.value = null;
      selected.value = -1;
      marked.value = new Set();
      block.value = 0;
      levels.value = new Map();
      pointed.value = null;
      kept.value = null;
      cursorLine.value = 0;
      cameLines.value = 0;
      status.value = "loading";
      setAsideDraft();
    }
    const before = saved.value?.revision;
    try {
      const found = await data(
        api.GET("/api/sites/{site_id}/page", { params: { path: { site_id: site }, query: { path: page } } }),
      );
      if (mine !== asked) return;
      saved.value = found;
      if (status.value === "loading" && draft.value === null) kept.value = keptDraft(site, page);
      status.value = "ready";
      problem.value = "";
      marked.value = new Set([...marked.value].filter((index) => index < found.sections.length));
      if (selected.value >= found.sections.length) selected.value = found.sections.length - 1;
      if (fromElsewhere.value && before && found.revision !== before) came.value++;
      if (draft.value !== null && base.value !== found.revision) await bringTogether();
    } catch (error) {
      if (mine !== asked) return;
      problem.value = detailOf(error);
      status.value = "failed";
    }
  }

  /** Read the open page again; where none is, nothing. */
  const reload = async () => {
    if (path.value) await load(siteId.value, path.value);
  };

  /** Close the page, on the way to the desk of its site or of another one. */
  function leave(site: string): void {
    asked++;
    setAsideDraft();
    siteId.value = site;
    path.value = "";
    saved.value = null;
    selected.value = -1;
  }

  /** Read the page again because somebody else did something; the source marks what came in. */
  async function reloadFromElsewhere(): Promise<void> {
    fromElsewhere.value = true;
    try {
      await reload();
    } finally {
      fromElsewhere.value = false;
    }
  }

  /** Bring what is typed together with the page as it is now; where both edited the same lines, it waits. */
  async function bringTogether(baseText?: string): Promise<void> {
    const text = draft.value;
    if (text === null) return;
    try {
      const found = await data(
        api.POST("/api/sites/{site_id}/draft/merged", {
          params: { path: { site_id: siteId.value } },
          body: { path: path.value, text, base: base.value, base_text: baseText ?? null },
        }),
      );
      if (draft.value !== text) return void (await bringTogether(baseText)); // typed on meanwhile
      if (found.text === null) disputed.value = found;
      else goOnFrom(found.revision, found.text);
    } catch (error) {
      if (error instanceof Problem && error.status === 404) return; // the page is gone, and says so
      problem.value = detailOf(error);
    }
  }

  /** Let the draft go on from a revision of the page, with the text that was put together. */
  function goOnFrom(revision: string, text: string): void {
    disputed.value = null;
    base.value = revision;
    if (text !== draft.value) came.value++;
    type(text);
  }

  /** Keep what the author typed, and let the outline follow after a pause. */
  function type(text: string): void {
    if (draft.value === null) base.value ||= saved.value?.revision ?? "";
    draft.value = text;
    kept.value = null;
    keepDraft(siteId.value, path.value, base.value, text);
    window.clearTimeout(timer);
    timer = window.setTimeout(followDraft, PAUSE);
  }

  async function followDraft(): Promise<void> {
    const text = draft.value;
    if (text === null) return;
    try {
      const found = await data(
        api.POST("/api/sites/{site_id}/draft", {
          params: { path: { site_id: siteId.value } },
          body: { path: path.value, text },
        }),
      );
      if (draft.value === text) drafted.value = found;
    } catch {
      // The outline stays as it was; saving will say what is wrong.
    }
  }

  /** Leave the page with what was typed kept in the browser, to be offered when it is opened again. */
  function setAsideDraft(): void {
    window.clearTimeout(timer);
    draft.value = null;
    drafted.value = null;
    disputed.value = null;
    base.value = "";
  }

  function dropDraft(): void {
    forgetDraft(siteId.value, path.value, kept.value?.key);
    forgetDraft(siteId.value, path.value);
    kept.value = null;
    setAsideDraft();
  }

  /** Take back what was typed once and not saved; it goes on from the revision that it was typed on. */
  async function takeBack(): Promise<void> {
    const found = kept.value;
    if (!found) return;
    base.value = found.base;
    type(found.text);
    forgetDraft(siteId.value, path.value, found.key);
    keepDraft(siteId.value, path.value, base.value, found.text);
    if (base.value !== saved.value?.revision) await bringTogether();
  }

  /** What was discarded is a draft again. */
  async function retype(text: string, revision: string): Promise<void> {
    base.value = revision;
    type(text);
    if (base.value !== saved.value?.revision) await bringTogether();
  }

  /** A draft was saved: it is forgotten; what was typed since then goes on from it. */
  async function settleDraft(text: string): Promise<void> {
    if (draft.value === text) dropDraft();
    else if (draft.value !== null) await bringTogether(text);
  }

  function select(index: number): void {
    const last = (view.value?.sections.length ?? 0) - 1;
    selected.value = Math.min(Math.max(index, -1), last);
  }

  function toggleMark(index: number): void {
    const next = new Set(marked.value);
    if (!next.delete(index)) next.add(index);
    marked.value = next;
  }

  /** Mark all sections from the selected one to another, or none. */
  function markTo(index: number): void {
    const from = Math.max(selected.value, 0);
    const next = new Set(marked.value);
    for (let at = Math.min(from, index); at <= Math.max(from, index); at++) next.add(at);
    marked.value = next;
  }

  function unmark(): void {
    marked.value = new Set();
  }

  /** Show on the page and in its source what is no section. */
  function point({ start, line }: { start: number; line: number }): void {
    pointed.value = { start, line };
  }

  return {
    siteId,
    path,
    status,
    problem,
    saved,
    view,
    draft,
    base,
    disputed,
    came,
    cameLines,
    bringTogether,
    goOnFrom,
    retype,
    reloadFromElsewhere,
    typing,
    selected,
    goal,
    section,
    stage,
    marked,
    wholeSections,
    looks,
    block,
    linksShown,
    load,
    leave,
    reload,
    type,
    dropDraft,
    setAsideDraft,
    takeBack,
    kept,
    cursorLine,
    settleDraft,
    levels,
    pointed,
    point,
    select,
    toggleMark,
    markTo,
    unmark,
  };
});
