import { detailOf } from "../api/client";
import { useBench } from "../stores/bench";
import { useChoices } from "../stores/choices";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";
import { useTray } from "../stores/tray";
import { useJumps } from "./useJumps";

type At = { start?: number; line?: number; column?: number };
type Selection = { line: number; column: number; end_line: number; end_column: number };

/** What the source bench tells of its cursor. */
interface Cursor {
  place: () => At | null | undefined;
  selection: () => Selection | null | undefined;
}

/** Choosing on the bench: a place to give an identifier to, words to make a jump link of, a section to lead one to. */
export function useChoosing(cursor: Cursor) {
  const bench = useBench();
  const page = usePage();
  const tray = useTray();
  const choices = useChoices();
  const dialogs = useDialogs();
  const jumps = useJumps();

  /** Whether the author works in the source: it has the keyboard, or it alone is in sight. */
  const inSource = () =>
    bench.layout === "source" ||
    (bench.showsSource && document.activeElement?.closest(".cm-editor") instanceof Element);

  async function choosePlace(at: At): Promise<void> {
    dialogs.pointing = false;
    if (dialogs.placing && at.start !== undefined) {
      const take = dialogs.placing;
      dialogs.placing = null;
      take(at.start);
      return;
    }
    try {
      const places = await choices.placesAt(at);
      if (dialogs.picking && places[0]) {
        void jumps.lead(dialogs.picking, { path: page.path, element: places[0].start });
        dialogs.picking = null;
        return;
      }
      if (places.length) dialogs.show({ name: "place", places, start: places[0]!.start });
      else tray.problem = "Nothing there can have an identifier. Choose a place in the body of the page.";
    } catch (error) {
      tray.problem = detailOf(error);
    }
  }

  async function point(): Promise<void> {
    dialogs.linking = false;
    if (!inSource()) {
      dialogs.pointing = !dialogs.pointing;
      return;
    }
    const at = cursor.place();
    if (at) await choosePlace(at);
  }

  /** Make a jump link of what is chosen in the source, or of what is chosen next on the page. */
  async function link(): Promise<void> {
    dialogs.pointing = false;
    if (!inSource()) {
      dialogs.linking = !dialogs.linking;
      return;
    }
    const chosen = cursor.selection();
    if (chosen) await jumps.begin(choices.originAt(chosen));
  }

  /** Select a section, and let what waits for a target lead to it. */
  function choose(index: number): void {
    page.select(index);
    const origin = dialogs.picking;
    if (!origin || index < 0) return;
    dialogs.picking = null;
    dialogs.pointing = false;
    void jumps.lead(origin, { path: page.path, section: index });
  }

  /** Leave what was begun; say whether there was anything. */
  function leave(): boolean {
    const begun = dialogs.pointing || dialogs.linking || dialogs.picking !== null;
    dialogs.placing = null;
    dialogs.pointing = dialogs.linking = false;
    dialogs.picking = null;
    return begun;
  }

  return { choosePlace, point, link, choose, leave };
}
