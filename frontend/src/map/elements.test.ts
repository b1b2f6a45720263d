import { describe, expect, it } from "vitest";
import type { SiteMap } from "../api/client";
import { elementsOf } from "./elements";

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
