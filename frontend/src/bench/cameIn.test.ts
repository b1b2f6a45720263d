import { Text } from "@codemirror/state";
import { expect, test } from "vitest";
import { linesThatCame } from "./cameIn";

const lines = (before: string[], after: string[]) => linesThatCame(before.join("\n"), Text.of(after));

test("lines that are other, new or gone are told by where they are", () => {
  expect(lines(["a", "b", "c"], ["a", "b", "c"])).toEqual({ came: [], gone: [] });
  expect(lines(["a", "b", "c"], ["a", "x", "c"]).came).toEqual([2]);
  expect(lines(["a", "c"], ["a", "b", "c"]).came).toContain(2);
  expect(
    lines(["a", "b", "c", "d"], ["a", "d"]).gone.length + lines(["a", "b", "c", "d"], ["a", "d"]).came.length,
  ).toBe(1);
  expect(lines([""], ["new", "page"]).came).toEqual([1, 2]);
});
