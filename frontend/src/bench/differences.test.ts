import { expect, test } from "vitest";
import { differences } from "./differences";

/** Return what the differences make of the text before. */
function made(before: string, after: string): string {
  let text = "";
  let at = 0;
  for (const { fromA, toA, fromB, toB } of differences(before, after)) {
    expect(fromA).toBeGreaterThanOrEqual(at);
    text += before.slice(at, fromA) + after.slice(fromB, toB);
    at = toA;
  }
  return text + before.slice(at);
}

const SECTIONS = Array.from(
  { length: 1000 },
  (_, n) => `<h2>Section ${n} with some words</h2>\n<p>${"word ".repeat(60)}</p>\n`,
);

test.each([
  ["the same", "one\ntwo\n", "one\ntwo\n", 0],
  ["a word within a line", "one\ntwo\nthree\n", "one\ntoo\nthree\n", 1],
  ["a line more", "one\nthree\n", "one\ntwo\nthree\n", 1],
  ["a line less, and one at the end without its line end", "one\ntwo\nthree", "one\nthree\nfour", 2],
  ["nothing before", "", "one\n", 1],
  ["nothing after", "one\n", "", 1],
  ["another second half of a pair", "a \u{1F682} b\n", "a \u{1F683} b\n", 1],
  ["another first half of a pair", "a \u{1F682} b\n", "a \u{10282} b\n", 1],
  [
    "identifiers for a thousand sections",
    SECTIONS.join(""),
    SECTIONS.map((s, n) => s.replace(">", ` id=s${n}>`)).join(""),
    1000,
  ],
  ["all in capitals", SECTIONS.join(""), SECTIONS.join("").toUpperCase(), 2000],
  [
    "more kinds of lines than are told apart",
    SECTIONS.join(""),
    Array.from({ length: 70_000 }, (_, n) => `${n}\n`).join(""),
    1,
  ],
])("%s", (_, before, after, count) => {
  expect(made(before, after)).toBe(after);
  expect(differences(before, after)).toHaveLength(count);
});

test("only what differs within a line is another", () => {
  expect(differences("<h2>One</h2>\n<p>x\n", "<h2 id=one>One</h2>\n<p>x\n")).toEqual([
    { fromA: 3, toA: 3, fromB: 3, toB: 10 },
  ]);
});

test("no half of a pair is parted from its other", () => {
  expect(differences("a \u{1F682} b\n", "a \u{1F683} b\n")).toEqual([{ fromA: 2, toA: 4, fromB: 2, toB: 4 }]);
  expect(differences("a \u{1F682} b\n", "a \u{10282} b\n")).toEqual([{ fromA: 2, toA: 4, fromB: 2, toB: 4 }]);
});

test("what repeats without end is compared in bounded time", () => {
  const lines = Array.from({ length: 20_000 }, (_, n) => (n % 2 ? "<p>\n" : "\n"));
  const after = lines.map((line, n) => (n % 3 ? line : `${n}${line}`)).join("");
  expect(made(lines.join(""), after)).toBe(after);
});
