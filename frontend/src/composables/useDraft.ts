/** What is typed in the source: saved as a change, reviewed first, discarded; and never lost by leaving the page. */
import { ElMessageBox } from "element-plus";
import { onBeforeUnmount } from "vue";
import { usePage } from "../stores/page";
import { useTray } from "../stores/tray";

export function useDraft() {
  const page = usePage();
  const tray = useTray();

  /** Show what was typed as edits. */
  async function review(): Promise<void> {
    const text = page.draft;
    if (text === null) return;
    await tray.propose({ operation: "type", page: page.path, text });
    if (tray.plan && !tray.plan.edits) page.dropDraft();
    else tray.open = tray.waits;
  }

  /** Save what was typed, as one change that can be undone. Returns whether nothing is left to save. */
  async function save(): Promise<boolean> {
    const text = page.draft;
    if (text === null) return true;
    if (!(await tray.propose({ operation: "type", page: page.path, text }))) return false;
    if (tray.plan?.edits) return tray.apply();
    page.dropDraft();
    return true;
  }

  function discard(): void {
    if (tray.request?.operation === "type") tray.drop();
    page.dropDraft();
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
