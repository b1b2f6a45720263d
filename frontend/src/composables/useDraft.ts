/** What is typed in the source: saved as edits, dropped, and never lost by leaving the page. */
import { onBeforeUnmount, onMounted } from "vue";
import { onBeforeRouteLeave, onBeforeRouteUpdate } from "vue-router";
import { usePage } from "../stores/page";
import { useTray } from "../stores/tray";

export function useDraft() {
  const page = usePage();
  const tray = useTray();

  /** Show what was typed as edits; where they are shown already, apply them. */
  async function save(): Promise<void> {
    const text = page.draft;
    if (text === null) return;
    const waiting = tray.request;
    if (waiting?.operation === "type" && waiting.text === text && tray.waits) {
      await tray.apply();
      return;
    }
    await tray.propose({ operation: "type", page: page.path, text });
    if (tray.plan && !tray.plan.edits) page.dropDraft();
  }

  function dropTyped(): void {
    if (tray.request?.operation === "type") tray.drop();
    page.dropDraft();
  }

  const leaving = () => !page.typing || window.confirm("What you typed in the source is not saved yet. Leave it?");
  onBeforeRouteLeave(leaving);
  onBeforeRouteUpdate((to, from) => to.params.path === from.params.path || leaving());
  const beforeUnload = (event: BeforeUnloadEvent) => page.typing && event.preventDefault();
  onMounted(() => window.addEventListener("beforeunload", beforeUnload));
  onBeforeUnmount(() => {
    window.removeEventListener("beforeunload", beforeUnload);
    page.dropDraft();
  });

  return { save, dropTyped };
}
