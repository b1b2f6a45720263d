/** What is typed in the source: saved as a change, reviewed first, discarded; and never lost by leaving the page. */
import { ElMessageBox } from "element-plus";
import { onBeforeUnmount } from "vue";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";
import { useTray } from "../stores/tray";

/** How often saving is tried where others save in between. */
const TRIES = 3;

export function useDraft() {
  const page = usePage();
  const tray = useTray();
  let saving: Promise<boolean> | null = null; // pressed once more meanwhile, it is the same

  /** Show what was typed as edits. */
  async function review(): Promise<void> {
    const text = page.draft;
    if (text === null) return;
    if (!(await propose(text))) return;
    if (tray.plan && !tray.plan.edits) page.dropDraft();
    else tray.open = tray.waits;
  }

  /** Ask what saving would do. Where others edited the same lines meanwhile, what counts is asked instead. */
  async function propose(text: string): Promise<boolean> {
    if (page.disputed) return ask();
    return tray.propose({ operation: "type", page: page.path, text, base: page.base || null });
  }

  function ask(): false {
    useDialogs().show({ name: "draft" });
    return false;
  }

  /** Save what was typed, as one change that can be undone. Returns whether nothing is left to save. */
  function save(): Promise<boolean> {
    saving ??= saveNow().finally(() => (saving = null));
    return saving;
  }

  async function saveNow(): Promise<boolean> {
    for (let tries = 0; tries < TRIES; tries++) {
      await page.bringTogether(); // what is saved is what is in the source, with what came meanwhile
      const text = page.draft;
      if (text === null) return true;
      if (!(await propose(text))) return false;
      if (!tray.plan?.edits) {
        page.dropDraft();
        return true;
      }
      if (await tray.apply()) return true;
      if (page.disputed) return ask();
    }
    return false;
  }

  /** Discard what was typed; it can be had back until something else is asked for. */
  function discard(): void {
    const { draft, base } = page;
    if (tray.request?.operation === "type") tray.drop();
    page.dropDraft();
    if (draft === null) return;
    tray.problem = "";
    tray.notice = "Discarded what you typed.";
    tray.discarded = { words: tray.notice, take: () => page.retype(draft, base) };
  }

  /** Ask what becomes of what was typed before an operation is planned, which works on what is saved. */
  async function settle(): Promise<boolean> {
    try {
      await ElMessageBox.confirm(
        "You typed in the source and have not saved it yet. It is saved first, as a change of its own.",
        "Save what you typed?",
        { confirmButtonText: "Save and go on", cancelButtonText: "Cancel" },
      );
    } catch {
      return false;
    }
    return save();
  }

  tray.settleTyped = settle;
  onBeforeUnmount(() => {
    tray.settleTyped = null;
    page.setAsideDraft();
  });

  return { save, review, discard };
}
