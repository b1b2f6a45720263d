/** The tray: the edits that wait to be read and applied. */
import { defineStore } from "pinia";
import { useStorage } from "@vueuse/core";
import { computed, ref, shallowRef } from "vue";
import {
  api,
  data,
  detailOf,
  Problem,
  told,
  type ChangeEntry,
  type Operation,
  type PlannedChange,
  type Told,
  type WaitView,
} from "../api/client";
import { useChanges } from "./changes";
import { usePage } from "./page";
import { useSite } from "./site";

/** How often it is asked whether a change was made whose answer never came, and how long between, in milliseconds. */
const FINDING_OUT = 20;
const PAUSE = 1500;

/** Operations whose edits of one page do not need those of another. */
const MANY_PAGES = new Set(["follow-moves", "own-addresses", "recipe", "alike", "spread", "navigation", "heads"]);

/** What was discarded: pending edits, or what was typed. */
export interface Discarded {
  words: string;
  take: () => Promise<unknown>;
}

/** A key for one request, which the server knows it again by. */
function newKey(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  const hex = Array.from(bytes, (byte) => byte.toString(16).padStart(2, "0")).join("");
  return hex.replace(/^(.{8})(.{4})(.{4})(.{4})(.{12})$/, "$1-$2-$3-$4-$5");
}

export const useTray = defineStore("tray", () => {
  const request = shallowRef<Operation | null>(null);
  const plan = shallowRef<PlannedChange | null>(null);
  const busy = ref(false);
  const progress = shallowRef<Told | null>(null); // of edits that are being worked out
  const problem = ref("");
  const notice = ref(""); // what was done last, for everyone to see and hear
  const question = shallowRef<PlannedChange["question"]>(null); // what the plan's author is asked, or was
  const open = ref(false); // whether the diff is shown
  const discarded = shallowRef<Discarded | null>(null); // what was discarded last, for its author to take back
  const read = useStorage<string[]>("signpost-kinds-read", []); // operations whose edits were shown once
  const waits = computed(() => plan.value !== null && (plan.value.edits > 0 || (without.value?.length ?? 0) > 0));
  /** Saves what its author typed in the source, before an operation is planned on what is saved; false to stop. */
  const settleTyped = shallowRef<(() => Promise<boolean>) | null>(null);
  let asked = 0;
  let planning: AbortController | null = null;

  /** Stop working out edits; the server stops as well. */
  function stop(): void {
    asked++;
    planning?.abort();
    busy.value = false;
    progress.value = null;
    notice.value = "Stopped. Nothing was changed.";
  }

  /** Ask what an operation would do; it waits in the tray then. False where it was refused. */
  async function propose(wanted: Operation): Promise<boolean> {
    const page = usePage();
    const operation = MANY_PAGES.has(wanted.operation) ? ({ without: [], ...wanted } as Operation) : wanted;
    if (page.typing && operation.operation !== "type" && settleTyped.value && !(await settleTyped.value()))
      return false;
    const mine = ++asked;
    busy.value = true;
    problem.value = "";
    notice.value = "";
    planning = new AbortController();
    try {
      const asking = { params: { path: { site_id: page.siteId } }, body: operation, signal: planning.signal };
      const found =
        operation.operation === "recipe"
          ? await told<PlannedChange>(
              api.POST("/api/sites/{site_id}/plans/told", { ...asking, parseAs: "stream" }),
              (how) => (progress.value = how),
            )
          : await data(api.POST("/api/sites/{site_id}/plans", asking));
      if (mine !== asked) return false;
      request.value = operation;
      plan.value = found;
      discarded.value = null;
      if (found.edits && operation.operation !== "type" && !read.value.includes(operation.operation)) {
        read.value = [...read.value, operation.operation];
        open.value = true; // the first edits of a kind are read before they are applied
      }
      question.value = found.question ?? (answerTo(operation) === null ? null : question.value);
      if (!found.edits) notice.value = found.notes.length ? "" : "Nothing to change.";
      return true;
    } catch (error) {
      if (mine !== asked) return false;
      drop();
      problem.value = detailOf(error);
      return false;
    } finally {
      if (mine === asked) {
        busy.value = false;
        progress.value = null;
        planning = null;
      }
    }
  }

  /** What an operation says to the question; null for nothing. */
  const answerTo = (operation: Operation | null): string | null =>
    operation && "frame" in operation ? (operation.frame ?? null) : null;
  const answer = computed(() => answerTo(request.value));

  /** Answer the question; the plan is made anew. */
  async function say(choice: string): Promise<void> {
    const operation = request.value;
    if (operation?.operation === "parts" || operation?.operation === "join")
      await propose({ ...operation, frame: choice });
  }

  /** The pages that the operation shall leave as they are; null where its edits belong together. */
  const without = computed((): string[] | null => {
    const operation = request.value;
    if (!operation) return null;
    if (operation.operation === "fix") return operation.everywhere ? (operation.without ?? []) : null;
    return MANY_PAGES.has(operation.operation) && "without" in operation ? (operation.without ?? []) : null;
  });

  /** Leave a page as it is, or take it in again; the plan is made anew, and the diff stays open. */
  async function leave(path: string, out: boolean): Promise<void> {
    const operation = request.value;
    if (!operation || without.value === null) return;
    const rest = without.value.filter((one) => one !== path);
    await propose({ ...operation, without: out ? [...rest, path] : rest } as Operation);
  }

  /** Apply what waits, as one change. Where the page changed meanwhile, the new plan is shown instead. */
  async function apply(): Promise<boolean> {
    const operation = request.value;
    const planned = plan.value;
    if (!operation || !planned?.edits || planned.question || busy.value) return false;
    const page = usePage();
    busy.value = true;
    problem.value = "";
    const key = newKey();
    let made: ChangeEntry;
    try {
      made = await data(
        api.POST("/api/sites/{site_id}/changes", {
          params: { path: { site_id: page.siteId }, header: { "if-match": planned.tag, "idempotency-key": key } },
          body: operation,
        }),
      );
    } catch (error) {
      const broke = error instanceof Problem && (error.status === 0 || error.status === 503);
      if (broke && (await wasMade(page.siteId, key))) return settle(operation, planned);
      busy.value = false;
      if (problem.value) return false; // it was told already what came of it
      if (error instanceof Problem && error.status === 409) {
        await propose(operation);
        await page.reload();
      }
      problem.value = detailOf(error);
      return false;
    }
    return settle(operation, planned, made.waits);
  }

  /** Find out whether a change was made although the answer never came; says so where it was not, or cannot be told. */
  async function wasMade(siteId: string, key: string): Promise<boolean> {
    notice.value = "The connection broke. Finding out whether the change was made…";
    const params = { params: { path: { site_id: siteId, key } } };
    for (let tries = 0; tries < FINDING_OUT; tries++) {
      await new Promise((done) => window.setTimeout(done, tries ? PAUSE : 0));
      try {
        await data(api.GET("/api/sites/{site_id}/changes/made-by/{key}", params));
        return true;
      } catch (error) {
        if (!(error instanceof Problem) || error.status !== 404) continue;
        problem.value = "The connection broke before anything was written. Apply it again.";
        break;
      }
    }
    notice.value = "";
    problem.value ||=
      "The server does not answer, so it cannot be told whether the change was made. Once it answers, “Changes” shows it.";
    return false;
  }

  /** A change was made: let everything follow it. */
  async function settle(operation: Operation, planned: PlannedChange, waits: WaitView[] = []): Promise<boolean> {
    const page = usePage();
    drop();
    discarded.value = null;
    if (operation.operation === "type") await page.settleDraft(operation.text);
    await follow(planned.files.find((file) => file.moved_from === page.path)?.path);
    await refresh();
    notice.value = `Applied: ${planned.title}.`;
    if (waits.length)
      problem.value = `Applied: ${planned.title}. Not in the folder yet: ${waits
        .map((one) => `${one.path} (${one.why}). ${one.remedy}`)
        .join(" ")}`;
    busy.value = false;
    return true;
  }

  /** Where the page that is open is once a change of names is undone or made again. */
  function turnedTo(entry: ChangeEntry): string | undefined {
    const { path } = usePage();
    if (entry.undone) return entry.moves[path];
    return Object.keys(entry.moves).find((old) => entry.moves[old] === path);
  }

  /** Go where the page is now that its author has open. */
  async function follow(path: string | undefined): Promise<void> {
    const { siteId, path: before } = usePage();
    if (!path || !before || path === before) return;
    const { router } = await import("../router");
    await router.replace({ name: "page", params: { siteId, path } });
  }

  /** Undo a change or make it again; said only when the page was read again, so that nothing is asked of an old one. */
  async function turn(entry: ChangeEntry): Promise<void> {
    if (busy.value && !planning) return;
    planning?.abort();
    asked++;
    drop();
    busy.value = true;
    problem.value = "";
    notice.value = entry.undone ? "Redoing…" : "Undoing…";
    const { siteId } = usePage();
    const key = newKey();
    let wrong = await useChanges().turn(siteId, entry, key);
    if (wrong?.broke) {
      problem.value = "";
      const done = await wasMade(siteId, key);
      wrong = done ? null : { words: problem.value.replace("Apply it again", "Try again"), broke: false };
    }
    if (!wrong) await follow(turnedTo(entry));
    await refresh();
    problem.value = wrong?.words ?? "";
    notice.value = wrong ? "" : `${entry.undone ? "Redone" : "Undone"}: ${entry.title}.`;
    busy.value = false;
  }

  /** Discard the pending edits; they can be had back until something else is asked for. */
  function discard(): void {
    const operation = request.value;
    if (!operation || !plan.value?.edits) return drop();
    const words = `Discarded: ${plan.value.title}.`;
    const shown = open.value;
    drop();
    problem.value = "";
    notice.value = words;
    discarded.value = {
      words,
      take: async () => {
        if (await propose(operation)) open.value = shown;
      },
    };
  }

  /** Have back what was discarded last. */
  async function takeBack(): Promise<void> {
    const one = discarded.value;
    discarded.value = null;
    notice.value = "";
    await one?.take();
  }

  /** Read again what a change may have touched; `elsewhere` where somebody else made it. */
  async function refresh(elsewhere = false): Promise<void> {
    const page = usePage();
    const before = page.saved?.revision;
    await Promise.all([
      elsewhere ? page.reloadFromElsewhere() : page.reload(),
      useChanges().load(page.siteId),
      useSite().load(page.siteId),
    ]);
    if (page.saved?.revision === before) page.looks++; // another file changed, perhaps one that the page loads
  }

  function drop(): void {
    request.value = null;
    plan.value = null;
    question.value = null;
    open.value = false;
  }

  return {
    request,
    plan,
    question,
    answer,
    say,
    without,
    leave,
    busy,
    progress,
    problem,
    notice,
    open,
    discarded,
    discard,
    takeBack,
    waits,
    settleTyped,
    propose,
    stop,
    apply,
    turn,
    drop,
    refresh,
  };
});
