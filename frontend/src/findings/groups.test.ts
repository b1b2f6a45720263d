import { describe, expect, test } from "vitest";
import type { FindingView } from "../api/client";
import { groupFindings, newFindings } from "./groups";

const finding = (rule: string, severity: string, more: Partial<FindingView> = {}) =>
  ({
    rule,
    title: rule,
    severity,
    page: "a.html",
    message: rule,
    choices: [],
    fixable: false,
    ...more,
  }) as FindingView;

describe("findings by their rule", () => {
  test("the gravest come first, then those of which there are most", () => {
    const found = groupFindings([
      finding("a", "advice"),
      finding("w", "warning"),
      finding("x", "warning", { fixable: true }),
      finding("x", "warning", { choices: ["Link to “#b”"] }),
      finding("e", "error"),
    ]);
    expect(found.map((group) => [group.rule, group.findings.length, group.pressed, group.chosen])).toEqual([
      ["e", 1, 0, 0],
      ["x", 2, 1, 1],
      ["w", 1, 0, 0],
      ["a", 1, 0, 0],
    ]);
  });

  test("one rule at two severities is two groups", () => {
    expect(groupFindings([finding("x", "warning"), finding("x", "advice")])).toHaveLength(2);
  });
});

describe("findings that came with a change", () => {
  test.each([
    ["the same", ["x"], ["x"], 0],
    ["one more of the same", ["x", "x"], ["x"], 1],
    ["another", ["x", "y"], ["x"], 1],
    ["fewer", ["x"], ["x", "y"], 0],
    ["the same, with its line moved", ["x on line 9"], ["x on line 12"], 0],
  ])("%s", (_, now, before, count) => {
    const views = (messages: string[]) => messages.map((message) => finding("r", "error", { message }));
    expect(newFindings(views(now), views(before)).size).toBe(count);
  });
});
