import { Text } from "@codemirror/state";
import { expect, test, vi } from "vitest";
import type { FindingView } from "../api/client";
import { diagnosticsOf, waysOf } from "./diagnostics";

const DOC = Text.of(["<p>one", "<b>😀 two</i> three", ""]);
const finding = (more: Partial<FindingView>) =>
  ({ severity: "error", title: "T", message: "m", choices: [], fixable: false, ...more }) as FindingView;

test.each([
  ["its own stretch, behind a character of two units", { line: 2, column: 9, end_line: 2, end_column: 13 }, "</i>"],
  ["no stretch: its line", { line: 1, column: 1, end_line: 1, end_column: 1 }, "<p>one"],
  ["a stretch of several lines: the first of them", { line: 1, column: 4, end_line: 2, end_column: 5 }, "one"],
  ["beyond the text, which was typed since", { line: 9, column: 9, end_line: 9, end_column: 12 }, ""],
])("a finding underlines %s", (_, place, marked) => {
  const [found] = diagnosticsOf(DOC, [finding(place)], () => {});
  expect(DOC.sliceString(found!.from, found!.to)).toBe(marked);
});

test("its fix is at hand", () => {
  const fix = vi.fn();
  const one = finding({ line: 1, column: 1, end_line: 1, end_column: 4, fixable: true, severity: "advice" });
  const [found] = diagnosticsOf(DOC, [one], fix);
  expect(found).toMatchObject({ severity: "info", source: "T", message: "m" });
  found!.actions![0]!.apply(null as never, 0, 0);
  expect(fix).toHaveBeenCalledWith(one, null);
});

test("of choices the likeliest are offered, no longer than a button", () => {
  const choices = ["a", "b", "c".repeat(80), "d"];
  expect(waysOf(finding({ choices }))).toEqual([
    ["a", 0],
    ["b", 1],
    [`${"c".repeat(47)}…`, 2],
  ]);
  expect(waysOf(finding({}))).toEqual([]);
});
