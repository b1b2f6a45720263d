/** The keys of a page's desk. */
import { useChanges } from "../stores/changes";
import { usePage, type Stage } from "../stores/page";
import { useTray } from "../stores/tray";
import { useWalk } from "../stores/walk";
import type { ChangeEntry } from "../api/client";
import type { useChoosing } from "./useChoosing";
import { useHeadings } from "./useHeadings";
import { useKeys } from "./useKeys";

/** What the keys do on a desk. */
export interface DeskActions {
  stages: Stage[];
  unable: () => boolean; // whether no operation can be asked for
  locked: () => boolean; // whether the page cannot be edited
  choosing: ReturnType<typeof useChoosing>;
  save: () => Promise<void>;
  turn: (entry: ChangeEntry | null) => Promise<void>;
  step: (does: () => void) => Promise<void>;
  showBench: (which: "source" | "page") => Promise<void>;
  nextPane: () => void;
  openAddress: () => void;
  showHelp: () => void;
  zoom: () => void;
  editSelected: () => void;
}

export function usePageKeys(desk: DeskActions): void {
  const page = usePage();
  const tray = useTray();
  const changes = useChanges();
  const walk = useWalk();
  const headings = useHeadings();

  /** A key that works on headings, at their stage alone. */
  const onHeadings = (does: () => void) => () => {
    if (page.stage !== "headings" || desk.unable()) return false;
    does();
  };

  const levelKeys = Object.fromEntries(
    [1, 2, 3, 4, 5, 6].map((level) => [String(level), onHeadings(() => headings.setLevel(level))]),
  );
  const stageKeys = Object.fromEntries(
    desk.stages.map((stage, at) => [`Alt+${at + 1}`, () => void (page.stage = stage)]),
  );

  useKeys(
    {
      ...stageKeys,
      "Mod+Enter": () => void tray.apply(),
      "Mod+s": () => void desk.save(),
      F6: desk.nextPane,
    },
    {
      "Mod+z": () => void desk.turn(changes.undoable),
      "Mod+Shift+z": () => void desk.turn(changes.redoable),
      "Mod+y": () => void desk.turn(changes.redoable),
      ...levelKeys,
      "<": onHeadings(() => headings.shift(-1)),
      ">": onHeadings(() => headings.shift(1)),
      "Shift+ArrowUp": onHeadings(() => headings.move("up")),
      "Shift+ArrowDown": onHeadings(() => headings.move("down")),
      "Shift+ArrowLeft": onHeadings(() => headings.move("out")),
      "Shift+ArrowRight": onHeadings(() => headings.move("in")),
      i: () => {
        if (!desk.locked()) void desk.choosing.point();
      },
      l: () => {
        if (!desk.locked()) void desk.choosing.link();
      },
      Escape: () => {
        if (!desk.choosing.leave()) tray.drop();
      },
      "?": () => desk.showHelp(),
      d: () => void (tray.open = !tray.open),
      e: () => void desk.showBench("source"),
      p: () => void desk.showBench("page"),
      c: desk.openAddress,
      n: () => void desk.step(() => walk.go(1)),
      "Shift+n": () => void desk.step(() => walk.go(-1)),
      x: () => void desk.step(() => walk.goTrouble(1)),
      "Shift+x": () => void desk.step(() => walk.goTrouble(-1)),
      b: () => void desk.step(() => walk.back()),
      z: () => desk.zoom(),
      j: () => desk.choosing.choose(page.selected + 1),
      k: () => desk.choosing.choose(page.selected - 1),
      ArrowDown: () => desk.choosing.choose(page.selected + 1),
      ArrowUp: () => desk.choosing.choose(page.selected - 1),
      Enter: (event) => {
        if (event.target !== document.body) return false;
        desk.editSelected();
      },
    },
  );
}
