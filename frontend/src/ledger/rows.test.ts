import { expect, test } from "vitest";
import type { LinkView, OfferView, PageView, SectionView } from "../api/client";
import { keyOf, ownLinks, rowsOf } from "./rows";

const section = (index: number) => ({ index, text: `S${index}` }) as SectionView;
const link = (start: number, home: number, more: Partial<LinkView> = {}) =>
  ({
    start,
    section: home,
    in_furniture: false,
    made: false,
    resolves: true,
    to_page: "page.html",
    to_section: 1,
    ...more,
  }) as LinkView;
const offer = (start: number, home: number) => ({ start, home, section: 1 }) as OfferView;
const page = (links: LinkView[], offers: OfferView[] = []) =>
  ({
    path: "page.html",
    sections: [section(0), section(1)],
    links,
    structure: { lookalikes: [{ line: 9, text: "B", before: 2 }], missing: [{ line: 3, text: "A", before: 0 }] },
    navigation: { offers },
  }) as unknown as PageView;

test("links and offers stand below their section in the order of the source", () => {
  const rows = rowsOf(page([link(50, 0), link(5, -1), link(90, 1)], [offer(20, 0)]), "jumps", "all");
  expect(rows.map(keyOf)).toEqual(["link-5", "section-0", "offer-20-1", "link-50", "section-1", "link-90"]);
});

test("a link that is offered a destination is one row", () => {
  expect(rowsOf(page([link(20, 0, { resolves: false })], [offer(20, 0)]), "jumps", "all").map(keyOf)).toEqual([
    "section-0",
    "offer-20-1",
    "section-1",
  ]);
});

test("only what leads nowhere, or only what is offered, each in its section", () => {
  const shown = page([link(50, 0), link(60, 0, { resolves: false })], [offer(95, 1)]);
  expect(rowsOf(shown, "jumps", "broken").map(keyOf)).toEqual(["section-0", "link-60"]);
  expect(rowsOf(shown, "jumps", "offers").map(keyOf)).toEqual(["section-1", "offer-95-1"]);
});

test("where there is nothing of what is asked for, all sections are", () => {
  expect(rowsOf(page([link(50, 0)]), "jumps", "broken").map(keyOf)).toEqual(["section-0", "section-1"]);
});

test("navigation, what we made and ways back are no links of the text", () => {
  const links = [
    link(1, 0, { in_furniture: true }),
    link(2, 0, { made: true }),
    link(3, 0, { to_section: -1 }),
    link(4, 0),
  ];
  expect(ownLinks(page(links)).map((one) => one.start)).toEqual([4]);
});

test("what looks like a heading stands between the sections at the stage of headings alone", () => {
  expect(rowsOf(page([]), "headings", "all").map(keyOf)).toEqual([
    "missing-3-A",
    "section-0",
    "section-1",
    "lookalike-9-B",
  ]);
  expect(rowsOf(page([link(1, 0)]), "parts", "all").map(keyOf)).toEqual(["section-0", "section-1"]);
});
