import { expect, test } from "vitest";
import type { PartsView } from "../api/client";
import { rowsOfParts } from "./rows";

const section = (index: number, at: number | null) => ({ index, at, level: 2, text: `S${index}` });
const place = (at: number, of: number | null, within: number) => ({
  at,
  top: at,
  section: of,
  within,
  text: `at ${at}`,
});
const VIEW = {
  parts: [
    { number: 1, at: 0 },
    { number: 2, at: 30 },
    { number: 3, at: 45 },
  ],
  sections: [section(0, 10), section(1, 30), section(2, 40), section(3, null)],
  places: [
    place(5, null, -1),
    place(10, 0, 0),
    place(15, null, 0),
    place(30, 1, 1),
    place(40, 2, 2),
    place(45, null, 2),
  ],
} as unknown as PartsView;

const keys = (opened: number[], alone = false) => rowsOfParts(VIEW, new Set(opened), alone).map((row) => row.key);

test("each part is above what begins it; a block that begins one is shown", () => {
  expect(keys([])).toEqual([
    "part 1",
    "section 0",
    "part 2",
    "section 1",
    "section 2",
    "part 3",
    "block 45",
    "section 3",
  ]);
});

test("the blocks of a section that is opened are shown, and those of the lead", () => {
  expect(keys([0, -1]).slice(0, 4)).toEqual(["part 1", "block 5", "section 0", "block 15"]);
  const row = rowsOfParts(VIEW, new Set()).find((one) => one.kind === "section");
  expect(row).toMatchObject({ blocks: 1 });
});

test("the parts alone", () => {
  expect(keys([0], true)).toEqual(["part 1", "part 2", "part 3"]);
});
