import { expect, test } from "vitest";
import { counted } from "./count";

test.each([
  [0, "section", undefined, "0 sections"],
  [1, "section", undefined, "1 section"],
  [2, "entry", "entries", "2 entries"],
  [1, "entry", "entries", "1 entry"],
  [12_000, "word", undefined, "12,000 words"],
])("%i %s is written as it is said", (number, one, many, words) => {
  expect(counted(number, one, many)).toBe(words);
});
