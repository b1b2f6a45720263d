import { describe, expect, it } from "vitest";
import { movedApart, overlap, type Box } from "./apart";

/** Numbers that look like chance and are the same in each run. */
function dice(seed: number): () => number {
  let state = seed;
  return () => (state = (state * 16807) % 2147483647) / 2147483647;
}

const pairs = (boxes: Box[]) => boxes.flatMap((one, at) => boxes.slice(at + 1).map((other) => [one, other] as const));

describe("boxes moved apart", () => {
  it.each([1, 2, 3, 4, 5])("never lie over one another, however they began (%i)", (seed) => {
    const roll = dice(seed);
    const boxes = Array.from({ length: 60 }, () => ({
      x: roll() * 300,
      y: roll() * 200,
      width: 20 + roll() * 180,
      height: 16 + roll() * 40,
    }));
    expect(pairs(movedApart(boxes)).filter(([one, other]) => overlap(one, other))).toEqual([]);
  });

  it("stay where they are when they are apart", () => {
    const boxes = [
      { x: 0, y: 0, width: 10, height: 10 },
      { x: 100, y: 0, width: 10, height: 10 },
    ];
    expect(movedApart(boxes)).toEqual(boxes);
  });

  it("are parted where they are all at one place", () => {
    const boxes = Array.from({ length: 20 }, () => ({ x: 0, y: 0, width: 50, height: 20 }));
    expect(pairs(movedApart(boxes)).filter(([one, other]) => overlap(one, other))).toEqual([]);
  });
});
