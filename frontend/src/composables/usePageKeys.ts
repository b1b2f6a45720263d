/** The keys of a page's desk. */
import { useBench } from "../stores/bench";
import { useChanges } from "../stores/changes";
import { usePage, type Stage } from "../stores/page";
import { useTray } from "../stores/tray";
import { useWalk } from "../stores/walk";
import type { ChangeEntry } from "../api/client";
import type { useChoosing } from "./useChoosing";
import { useHeadings } from "./useHeadings";
import { shownKey, useKeys, type KeyBinding, type Scope } from "./useKeys";

/** How a section is moved by one step. */
const MOVES = [
  ["Shift+ArrowUp", "move the section up", "up"],
  ["Shift+ArrowDown", "move the section down", "down"],
  ["Shift+ArrowLeft", "move it out of the section it is in", "out"],
  ["Shift+ArrowRight", "move it into the section above", "in"],
] as const;

type Ungrouped = Omit<KeyBinding, "group">;

/** What the keys do on a desk. */
export interface DeskActions {
  stages: readonly Stage[];
  unable: () => boolean; // whether no operation can be asked for
  locked: () => boolean; // whether the page cannot be edited
  choosing: ReturnType<typeof useChoosing>;
  save: () => Promise<unknown>;
  turn: (entry: ChangeEntry | null) => Promise<void>;
  step: (does: () => void) => Promise<void>;
  nextPane: (back: boolean) => void;
  openAddress: () => void;
  showHelp: () => void;
  nextStep: () => void;
  passStep: () => void;
  zoom: () => void;
  editSelected: () => void;
  move: (by: number) => void; // to another row of the ledger
}

export function usePageKeys(desk: DeskActions): void {
  useKeys(pageBindings(desk));
}

/** Return all keys of a desk, in the order in which its help lists them. */
function pageBindings(desk: DeskActions): KeyBinding[] {
  const page = usePage();
  const tray = useTray();
  const bench = useBench();
  const changes = useChanges();
  const walk = useWalk();
  const headings = useHeadings();
  const key = (names: string, words: string, run: KeyBinding["run"], scope: Scope = "not-typing"): Ungrouped => ({
    keys: names.split(" ").map((name) => (name === "Space" ? " " : name)),
    words,
    scope,
    run,
  });
  const grouped = (group: string, bindings: Ungrouped[]) => bindings.map((binding) => ({ ...binding, group }));

  /** A key that works on headings, at their stage alone. */
  const onHeadings = (does: () => void) => () => {
    if (page.stage !== "headings" || desk.unable()) return false;
    does();
  };
  const unlocked = (does: () => void) => () => {
    if (!desk.locked()) does();
  };

  return [
    ...grouped("Move about", [
      key("ArrowDown j", "next section", () => desk.move(1)),
      key("ArrowUp k", "previous section", () => desk.move(-1)),
      ...desk.stages.map((stage, at) => ({
        ...key(`Alt+${at + 1}`, at === 0 ? "stage of work" : "", () => void (page.stage = stage), "anywhere"),
        shown: `${shownKey("Alt+1")} to ${desk.stages.length}`,
      })),
      key("Alt+n", "next useful step", () => desk.nextStep(), "anywhere"),
      key("Alt+m", "leave it for later, and go on", () => desk.passStep(), "anywhere"),
      key("F6", "next pane", () => desk.nextPane(false), "anywhere"),
      key("Shift+F6", "previous pane", () => desk.nextPane(true), "anywhere"),
      key("z", "selected section alone on the road", () => desk.zoom()),
      key("e", "show the source", () => bench.show("source")),
      key("p", "show the page", () => bench.show("page")),
      key("?", "these keys", () => desk.showHelp()),
    ]),
    ...grouped("Sections", [
      key("Enter", "edit the heading, its entry or its identifier", (event) => {
        if (event.target !== document.body) return false;
        desk.editSelected();
      }),
      ...[1, 2, 3, 4, 5, 6].map((level) => ({
        ...key(
          String(level),
          level === 1 ? "level of the heading" : "",
          onHeadings(() => headings.setLevel(level)),
        ),
        shown: "1 to 6",
      })),
      key(
        "<",
        "raise the heading by a level",
        onHeadings(() => headings.shift(-1)),
      ),
      key(
        ">",
        "lower the heading by a level",
        onHeadings(() => headings.shift(1)),
      ),
      ...MOVES.map(([name, words, way]) =>
        key(
          name,
          words,
          onHeadings(() => headings.move(way)),
        ),
      ),
    ]),
    ...grouped("Identifiers and links", [
      key("c", "copy the section's address", () => desk.openAddress()),
      key(
        "i",
        "identifier for a place on the page",
        unlocked(() => void desk.choosing.point()),
      ),
      key(
        "Alt+i",
        "identifier for the place at the cursor",
        unlocked(() => void desk.choosing.point()),
        "anywhere",
      ),
      key(
        "l",
        "jump link from words on the page",
        unlocked(() => void desk.choosing.link()),
      ),
      key(
        "Alt+l",
        "jump link from the words selected",
        unlocked(() => void desk.choosing.link()),
        "anywhere",
      ),
      key("n", "follow the next jump link", () => void desk.step(() => walk.go(1))),
      key("Shift+n", "follow the previous one", () => void desk.step(() => walk.go(-1))),
      key("x", "follow the next that lands badly", () => void desk.step(() => walk.goTrouble(1))),
      key("Shift+x", "follow the previous that lands badly", () => void desk.step(() => walk.goTrouble(-1))),
      key("b", "back to where the jump began", () => void desk.step(() => walk.back())),
    ]),
    ...grouped("Edits", [
      key("d", "show or hide the diff", () => void (tray.open = !tray.open)),
      key("Mod+Enter", "apply the pending edits; in a dialog, its main button", () => void tray.apply(), "anywhere"),
      key("Escape", "discard the pending edits", () => {
        if (!desk.choosing.leave()) tray.discard();
      }),
      key("Mod+s", "save the source", () => void desk.save(), "anywhere"),
      key("Mod+z", "undo the last change", () => void desk.turn(changes.undoable)),
      key("Mod+Shift+z Mod+y", "redo", () => void desk.turn(changes.redoable)),
    ]),
  ];
}
