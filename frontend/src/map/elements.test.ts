import { describe, expect, it } from "vitest";
import type { MapDrawing, SectionMap } from "../api/client";
import { elementsOf, sectionElementsOf, shortened } from "./elements";

const node = (name: string, more = {}) => ({
  name,
  kind: "page" as MapDrawing["nodes"][number]["kind"],
  folder: name.includes("/") ? name.slice(0, name.lastIndexOf("/")) : "",
  pages: 1,
  pages_in: 0,
  is_orphan: false,
  is_hub: false,
  ...more,
});
const map: MapDrawing = {
  at: "",
  nodes: [node("index.html"), node("deep/a.html"), node("deep/gone.html", { kind: "missing" })],
  lines: [
    { source: "index.html", goal: "deep/a.html", links: 9, jumps: 2, broken: 0 },
    { source: "index.html", goal: "deep/gone.html", links: 1, jumps: 0, broken: 1 },
  ],
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
    const { nodes } = elementsOf({ ...map, nodes: [...map.nodes, node("lone.html", { is_orphan: true })] });
    expect(nodes.find((one) => one.data.id === "deep/gone.html")!.classes).toBe("missing");
    expect(nodes.find((one) => one.data.id === "lone.html")!.classes).toBe("orphan");
  });
});

describe("the elements of a map of many pages", () => {
  it("call folders and the rest by what they stand for, and say how many pages that are", () => {
    const { nodes, label } = elementsOf({
      at: "docs",
      nodes: [
        node("docs/start.html"),
        node("docs/api/", { kind: "folder", folder: "", pages: 1200 }),
        node("\nmore", { kind: "more", folder: "", pages: 30 }),
        node("\nelsewhere", { kind: "elsewhere", folder: "", pages: 7 }),
      ],
      lines: [],
    });
    expect(nodes.map((one) => one.data["label"])).toEqual(["start.html", "api/ (1,200)", "30 more", "elsewhere (7)"]);
    expect(nodes.map((one) => one.data.parent)).toEqual([undefined, undefined, undefined, undefined]);
    expect(label).toBe("The link map of 1,238 pages");
  });

  it("keep the beginning and the end of a long name", () => {
    expect(shortened("a-very-long-name-of-a-page-that-is-19.html")).toBe("a-very-long-name-…is-19.html");
    expect(shortened("short.html")).toBe("short.html");
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
