import { describe, expect, it } from "vitest";
import type { SectionMap, SiteMap } from "../api/client";
import { elementsOf, sectionElementsOf } from "./elements";

const page = (path: string, more = {}) => ({
  path,
  folder: path.includes("/") ? path.slice(0, path.lastIndexOf("/")) : "",
  there: true,
  pages_in: 0,
  links_in: 0,
  links_out: 0,
  broken: 0,
  is_orphan: false,
  is_hub: false,
  ...more,
});
const map: SiteMap = {
  pages: [page("index.html"), page("deep/a.html"), page("deep/gone.html", { there: false })],
  links: [
    { source: "index.html", goal: "deep/a.html", links: 9, jumps: 2, broken: 0 },
    { source: "index.html", goal: "deep/gone.html", links: 1, jumps: 0, broken: 1 },
  ],
  left_out: 0,
};

describe("the elements of the map", () => {
  it("has a box for each folder below, and pages in theirs", () => {
    const { nodes } = elementsOf(map);
    expect(nodes.map((one) => [one.data.id, one.data.parent])).toEqual([
      ["deep/", undefined],
      ["index.html", undefined],
      ["deep/a.html", "deep/"],
      ["deep/gone.html", "deep/"],
    ]);
  });

  it("draws more links as a thicker line, and says which are broken", () => {
    const { edges } = elementsOf(map);
    expect(edges[0]!.data.width).toBeGreaterThan(edges[1]!.data.width as number);
    expect(edges.map((one) => one.classes)).toEqual(["", "broken"]);
  });

  it("tells missing pages and orphans by their classes", () => {
    const { nodes } = elementsOf({ ...map, pages: [...map.pages, page("lone.html", { is_orphan: true })] });
    expect(nodes.find((one) => one.data.id === "deep/gone.html")!.classes).toBe("missing");
    expect(nodes.find((one) => one.data.id === "lone.html")!.classes).toBe("orphan");
  });
});

describe("the elements of a page's sections", () => {
  const row = { page: "a.html", line: 1, words: "w", address: "#x", kind: "fragment", leads_to: "", state: "found" };
  const links = [
    { source: "#0", goal: "#1", row },
    { source: "#0", goal: "#1", row },
    { source: "b.html", goal: "#1", row },
  ];
  const sections: SectionMap = {
    path: "a.html",
    title: "A",
    sections: [
      { index: 0, level: 1, text: "A", links_in: 0, links_out: 2 },
      { index: 1, level: 2, text: "", links_in: 3, links_out: 0 },
    ],
    links: links.map((one) => ({ ...one, row: { ...row, new_address: "" } })),
  };

  it("has the sections in a box, other pages around it, and one line for links of the same way", () => {
    const { nodes, edges } = sectionElementsOf(sections);
    expect(nodes.map((one) => one.data["label"])).toEqual(["a.html", "A", "(no words)", "b.html"]);
    expect(edges.map((one) => [one.data.source, one.data.target, one.data["width"]])).toEqual([
      ["#0", "#1", 2],
      ["b.html", "#1", 1],
    ]);
  });
});
