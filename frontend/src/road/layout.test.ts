import { expect, test } from "vitest";
import type { LinkView, PageView, SectionView } from "../api/client";
import { layRoad } from "./layout";

const section = (index: number, level: number, top: number, height: number) =>
  ({ index, level, top, height, text: `S${index}` }) as SectionView;

const page = (sections: SectionView[], height: number, links: Partial<LinkView>[] = []) =>
  ({ path: "p", sections, height, windows: height / 800, window_height: 800, links, structure: { missing: [] } }) as unknown as PageView;

test("stretches stand to scale, set in by level", () => {
  const road = layRoad(page([section(0, 2, 400, 1200), section(1, 3, 800, 800)], 1600), null, 600);
  const [first, second] = road.stretches;
  expect(second!.y / first!.y).toBeCloseTo(2);
  expect(second!.x).toBeGreaterThan(first!.x);
  expect(road.height).toBeCloseTo(2 * 110);
  expect(road.ticks.map((tick) => tick.number)).toEqual([2]);
});

test("a page of a thousand sections is long, not crushed, and labels keep apart", () => {
  const sections = Array.from({ length: 1000 }, (_, index) => section(index, 2, index * 100, 100));
  const road = layRoad(page(sections, 100_000), null, 600);
  expect(road.height).toBeCloseTo(125 * 22);
  const labelled = road.stretches.filter((stretch) => stretch.label !== null);
  expect(labelled.length).toBeGreaterThan(100);
  expect(labelled.every((stretch, index) => index === 0 || stretch.y - labelled[index - 1]!.y >= 12.5)).toBe(true);
});

test("higher headings get their words before lower ones", () => {
  const road = layRoad(page([section(0, 3, 0, 20), section(1, 2, 40, 8000)], 16_000), null, 600);
  expect(road.stretches.map((stretch) => stretch.label !== null)).toEqual([false, true]);
});

test("arcs are drawn for jumps within the content only", () => {
  const link = { start: 1, in_chrome: false, to_page: "p", to_section: 1, section: 0 };
  const links = [link, { ...link, in_chrome: true }, { ...link, to_page: "q" }, { ...link, to_section: 0 }];
  const road = layRoad(page([section(0, 2, 0, 400), section(1, 2, 400, 400)], 800, links), null, 600);
  expect(road.arcs).toHaveLength(1);
});

test("an empty page has an empty road", () => {
  expect(layRoad(page([], 0), null, 600).stretches).toEqual([]);
});
