/** The link map as the graph library takes it: a box for each folder, a node for each page, a line for its links. */
import type { EdgeDefinition, NodeDefinition } from "cytoscape";
import type { SectionMap, SiteMap } from "../api/client";
import { counted } from "../text/count";

const THINNEST = 1;
const THICKEST = 9;
/** Of a section's words, in characters. */
const LONGEST = 28;

export interface Drawing {
  nodes: NodeDefinition[];
  edges: EdgeDefinition[];
  label: string; // what it is, for those who do not see it
}

const sizeOf = (linking: number) => Math.min(14 + 5 * Math.sqrt(linking), 60);
const widthOf = (links: number) => Math.min(THINNEST + Math.log2(links), THICKEST);

export function elementsOf(map: SiteMap): Drawing {
  const folders = [...new Set(map.pages.map((page) => page.folder).filter(Boolean))];
  const boxes = folders.map((folder) => ({ data: { id: `${folder}/`, label: `${folder}/` }, classes: "folder" }));
  const pages = map.pages.map((page) => ({
    data: {
      id: page.path,
      label: page.path.slice(page.folder ? page.folder.length + 1 : 0),
      parent: page.folder ? `${page.folder}/` : undefined,
      size: sizeOf(page.pages_in),
    },
    classes: [!page.there && "missing", page.is_orphan && "orphan", page.is_hub && "hub"].filter(Boolean).join(" "),
  }));
  const edges = map.links.map((one) => ({
    data: {
      id: `${one.source} → ${one.goal}`,
      source: one.source,
      target: one.goal,
      width: widthOf(one.links),
    },
    classes: one.broken ? "broken" : "",
  }));
  return { nodes: [...boxes, ...pages], edges, label: `The link map of ${counted(map.pages.length, "page")}` };
}

/** A page's sections in a box, and around it the pages that lead to them or that they lead to. */
export function sectionElementsOf(map: SectionMap): Drawing {
  const box = "page of the sections";
  const sections = map.sections.map((section) => ({
    data: {
      id: `#${section.index}`,
      label: section.text.length > LONGEST ? `${section.text.slice(0, LONGEST)}…` : section.text || "(no words)",
      parent: box,
      size: sizeOf(section.links_in),
    },
    classes: section.links_in ? "" : "orphan",
  }));
  const ends = new Set(map.links.flatMap((one) => [one.source, one.goal]).filter((end) => !end.startsWith("#")));
  const pages = [...ends].map((path) => ({ data: { id: path, label: path, size: sizeOf(0) }, classes: "hub" }));
  const lines = new Map<string, number>();
  for (const one of map.links) {
    const line = `${one.source}\n${one.goal}`;
    lines.set(line, (lines.get(line) ?? 0) + 1);
  }
  const edges = [...lines].map(([line, links]) => {
    const [source = "", goal = ""] = line.split("\n");
    return { data: { id: line, source, target: goal, width: widthOf(links) }, classes: "" };
  });
  return {
    nodes: [{ data: { id: box, label: map.path }, classes: "folder" }, ...sections, ...pages],
    edges,
    label: `The links of ${counted(map.sections.length, "section")} of ${map.path}`,
  };
}
