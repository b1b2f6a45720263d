import { expect, test } from "vitest";
import { Text } from "@codemirror/state";
import { offsetOf, placeOf, utf16Column } from "./positions";

test.each([
  ["plain", 3, 3],
  ["🚂 steam", 2, 3],
  ["👩‍🔧x", 3, 5],
  ["ab", 9, 2],
  ["", 4, 0],
])("code point %#: column %i of %s", (line, column, index) => {
  expect(utf16Column(line, column)).toBe(index);
});

test("places lead into the text, and stay within it", () => {
  const text = Text.of(["one", "🎫 two", "three"]);
  expect(offsetOf(text, 2, 3)).toBe(7);
  expect(offsetOf(text, 0)).toBe(0);
  expect(offsetOf(text, 99, 2)).toBe(12);
});

test("a place leads to an offset and back", () => {
  const text = Text.of(["one", "🎫 two", "three"]);
  for (const [line, column] of [
    [1, 1],
    [2, 1],
    [2, 2],
    [2, 6],
    [3, 4],
  ] as const)
    expect(placeOf(text, offsetOf(text, line, column))).toEqual({ line, column });
});
