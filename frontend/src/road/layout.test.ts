import { expect, test } from "vitest";
import type { LandingView, LinkView, MeasureView, PageView, SectionView } from "../api/client";
import { layRoad } from "./layout";

const section = (index: number, level: number, top: number, height: number) =>
  ({ index, level, top, height, text: `S${index}` }) as SectionView;

const page = (sections: SectionView[], height: number, links: Partial<LinkView>[] = []) =>
  ({
    path: "p",
    sections,
    height,
    windows: height / 800,
    window_height: 800,
    links,
    structure: { missing: [] },
  }) as unknown as PageView;

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
  const link = { start: 1, in_furniture: false, to_page: "p", to_section: 1, section: 0 };
  const links = [link, { ...link, in_furniture: true }, { ...link, to_page: "q" }, { ...link, to_section: 0 }];
  const road = layRoad(page([section(0, 2, 0, 400), section(1, 2, 400, 400)], 800, links), null, 600);
  expect(road.arcs).toHaveLength(1);
});

test("an empty page has an empty road", () => {
  expect(layRoad(page([], 0), null, 600).stretches).toEqual([]);
});

const landing = (to: number, verdict: string, more: Partial<LandingView> = {}) =>
  ({ to_page: "p", to_section: to, verdict, trouble: true, start: to, top: 50, ...more }) as LandingView;

const measure = (tops: number[], height: number, more: Partial<MeasureView> = {}) =>
  ({
    path: "p",
    state: "measured",
    reach: 500,
    height,
    view_height: 500,
    landings: [],
    incoming: [],
    points: [],
    stretches: [-1, ...tops.keys()].map((index) => ({ index, top: tops[index] ?? 0, height: 100 })),
    ...more,
  }) as unknown as MeasureView;

test("what was measured goes before the estimate", () => {
  const road = layRoad(page([section(0, 2, 1, 2)], 10), measure([400], 1000), 600);
  expect(road.stretches[0]!.y).toBeCloseTo(400 * road.scale);
  expect(road.reach).toBeCloseTo(500 * road.scale);
  expect(road.ticks.map((tick) => tick.number)).toEqual([2]);
});

test("figures of another number of sections are not drawn", () => {
  const road = layRoad(page([section(0, 2, 70, 2), section(1, 2, 80, 2)], 100), measure([400], 1000), 600);
  expect(road.stretches[0]!.y).toBeCloseTo(70 * road.scale);
});

test("the worst landing at a section marks it: covered before low", () => {
  const landings = [landing(0, "short"), landing(0, "covered"), landing(1, "short", { trouble: false })];
  const road = layRoad(
    page([section(0, 2, 0, 9), section(1, 2, 9, 9)], 20),
    measure([0, 300], 900, { landings }),
    600,
  );
  expect(road.stretches.map((stretch) => stretch.trouble?.verdict)).toEqual(["covered", undefined]);
});

test("a section drawn alone has the whole height, and the identifiers within it", () => {
  const points = [
    { name: "in", top: 450 },
    { name: "out", top: 100 },
  ];
  const found = measure([0, 400], 2000, { points });
  const road = layRoad(page([section(0, 2, 0, 9), section(1, 2, 9, 9)], 20), found, 600, { top: 400, bottom: 500 });
  expect(road.stretches.map((stretch) => stretch.section.index)).toEqual([1]);
  expect(road.stretches[0]!.y).toBe(0);
  expect(road.plates.map((plate) => plate.name)).toEqual(["in"]);
  expect(road.height).toBeGreaterThan(100);
});

test("arcs of our contents and ways back are told from the author's own links", () => {
  const link = { start: 1, in_furniture: true, made: true, to_page: "p", to_section: 1, section: 0 };
  const links = [link, { ...link, start: 2, in_furniture: false, made: false, section: 1, to_section: -1 }];
  const road = layRoad(page([section(0, 2, 0, 400), section(1, 2, 400, 400)], 800, links), null, 600);
  expect(road.arcs.map((arc) => [arc.listed, arc.back])).toEqual([
    [true, false],
    [false, true],
  ]);
});
