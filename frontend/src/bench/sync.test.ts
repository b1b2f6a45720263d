import { expect, test } from "vitest";
import type { MeasureView, PageView } from "../api/client";
import { anchorsOf, lineOfTop, topOfLine } from "./sync";

const page = (lines: number[], all: number) =>
  ({ lines: all, sections: lines.map((line, index) => ({ index, line })) }) as unknown as PageView;
const measure = (tops: number[], height: number) =>
  ({
    height,
    stretches: [{ index: -1, top: 0 }, ...tops.map((top, index) => ({ index, top }))],
  }) as unknown as MeasureView;

const anchors = anchorsOf(page([11, 21], 41), measure([100, 500], 900));

test.each([
  [1, 0],
  [6, 50],
  [11, 100],
  [16, 300],
  [21, 500],
  [31, 700],
  [41, 900],
])("line %i is at %i pixels, and back", (line, top) => {
  expect(topOfLine(anchors, line)).toBe(top);
  expect(lineOfTop(anchors, top)).toBe(line);
});

test("what is outside the page means its ends", () => {
  expect(topOfLine(anchors, 500)).toBe(900);
  expect(lineOfTop(anchors, 5000)).toBe(41);
  expect(lineOfTop(anchors, -5)).toBe(1);
});

test("headings that a browser shows out of order are passed over", () => {
  const found = anchorsOf(page([11, 21], 41), measure([500, 100], 900));
  expect(found.map((anchor) => anchor.line)).toEqual([1, 11, 41]);
});
