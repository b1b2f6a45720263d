import { expect, test, vi } from "vitest";
import { useDrag } from "./useDrag";

/** A drag event over a row that is 30 high and begins at 100. */
function at(y: number) {
  const event = {
    clientY: 100 + y,
    currentTarget: { getBoundingClientRect: () => ({ top: 100, height: 30 }) },
    dataTransfer: { setData: vi.fn(), effectAllowed: "" },
    preventDefault: vi.fn(),
  };
  return event as unknown as DragEvent & { preventDefault: ReturnType<typeof vi.fn> };
}

test.each([
  [2, "before"],
  [15, "into"],
  [28, "after"],
] as const)("what is dropped %i down a row lands %s it", (y, where) => {
  const drop = vi.fn();
  const drag = useDrag(drop);
  drag.begin(at(0), 3);
  drag.pass(at(y), 5);
  expect(drag.over.value).toEqual({ index: 5, where });
  drag.land(at(y), 5);
  expect(drop).toHaveBeenCalledExactlyOnceWith(3, 5, where);
  expect(drag.over.value).toBeNull();
});

test("what is not dragged from the ledger is let alone", () => {
  const drop = vi.fn();
  const drag = useDrag(drop);
  const event = at(10);
  drag.pass(event, 1);
  drag.land(event, 1);
  expect(event.preventDefault).not.toHaveBeenCalled();
  expect(drop).not.toHaveBeenCalled();
});

test("a drag that ends elsewhere drops nothing", () => {
  const drop = vi.fn();
  const drag = useDrag(drop);
  drag.begin(at(0), 1);
  drag.pass(at(10), 2);
  drag.end();
  drag.land(at(10), 2);
  expect(drop).not.toHaveBeenCalled();
});
