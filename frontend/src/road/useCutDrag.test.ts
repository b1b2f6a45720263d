import { expect, test, vi } from "vitest";
import { useCutDrag } from "./useCutDrag";

const CUTS = [
  { at: 20, top: 200, part: 2, title: "B" },
  { at: 60, top: 600, part: 3, title: "F" },
];
const PLACES = [10, 20, 30, 60, 80].map((at) => ({ at, top: at * 10 }));

function cuts() {
  const act = { move: vi.fn(), remove: vi.fn() };
  const drag = useCutDrag({ cuts: () => CUTS, places: () => PLACES, scale: () => 0.1, top: () => 0 }, act);
  return { ...act, drag };
}

/** A pointer event at a height of the road's picture. */
function at(y: number) {
  const svg = { getBoundingClientRect: () => ({ top: 50 }) };
  const target = { setPointerCapture: vi.fn(), closest: () => svg };
  return { currentTarget: target, clientY: 50 + y, pointerId: 1, preventDefault: vi.fn() } as unknown as PointerEvent;
}

const key = (name: string) =>
  ({ key: name, preventDefault: vi.fn(), stopPropagation: vi.fn() }) as unknown as KeyboardEvent;

test("a cut is dragged to the nearest place, and moves when it is let go", () => {
  const { drag, move } = cuts();
  drag.begin(at(20), CUTS[0]!);
  drag.drag(at(33));
  expect(drag.lines.value.map((line) => [line.top, line.dragged])).toEqual([
    [300, true],
    [600, false],
  ]);
  expect(move).not.toHaveBeenCalled();
  drag.end();
  expect(move).toHaveBeenCalledExactlyOnceWith(20, 30);
  expect(drag.lines.value.every((line) => !line.dragged)).toBe(true);
});

test("it goes to no place that has a cut, and nowhere when the drag is broken off", () => {
  const { drag, move } = cuts();
  drag.begin(at(20), CUTS[0]!);
  drag.drag(at(60));
  expect(drag.lines.value[0]?.top).toBe(800);
  drag.cancel();
  drag.end();
  expect(move).not.toHaveBeenCalled();
});

test.each([
  ["ArrowDown", 30],
  ["ArrowUp", 10],
  ["Home", 10],
  ["End", 80],
])("%s moves it to %i", (name, to) => {
  const { drag, move } = cuts();
  drag.press(key(name), CUTS[0]!);
  expect(move).toHaveBeenCalledExactlyOnceWith(20, to);
});

test("Delete removes it, and other keys are let alone", () => {
  const { drag, move, remove } = cuts();
  drag.press(key("Delete"), CUTS[1]!);
  expect(remove).toHaveBeenCalledExactlyOnceWith(60);
  const other = key("x");
  drag.press(other, CUTS[1]!);
  expect(other.preventDefault).not.toHaveBeenCalled();
  expect(move).not.toHaveBeenCalled();
});
