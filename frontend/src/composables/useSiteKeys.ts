/** The keys of a site's desk: those of its tray. */
import { useChanges } from "../stores/changes";
import { useTray } from "../stores/tray";
import { useKeys, type KeyBinding } from "./useKeys";

export function useSiteKeys(): void {
  const tray = useTray();
  const changes = useChanges();
  const key = (keys: string[], words: string, run: () => void, scope: KeyBinding["scope"]): KeyBinding => ({
    keys,
    words,
    scope,
    group: "Edits",
    run,
  });
  const turn = (entry: typeof changes.undoable) => {
    if (entry) void tray.turn(entry);
  };
  useKeys([
    key(["d"], "show or hide the diff", () => (tray.open = !tray.open), "not-typing"),
    key(["Mod+Enter"], "apply the pending edits", () => void tray.apply(), "anywhere"),
    key(["Escape"], "discard the pending edits", () => tray.discard(), "not-typing"),
    key(["Mod+z"], "undo the last change", () => turn(changes.undoable), "not-typing"),
    key(["Mod+Shift+z", "Mod+y"], "redo", () => turn(changes.redoable), "not-typing"),
  ]);
}
