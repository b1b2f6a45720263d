/** The link map as the graph library takes it: a box for each folder, a node for each page, a line for its links. */
import type { EdgeDefinition, NodeDefinition } from "cytoscape";
import type { MapDrawing, MapNode, SectionMap } from "../api/client";
import { counted } from "../text/count";

const THINNEST = 1;
const THICKEST = 9;
/** Of a name or a section's words, in characters. */
const LONGEST = 28;
/** Nodes that stand for one page; others for several. */
const ALONE = new Set<string>(["page", "missing"]);

export interface Drawing {
  nodes: NodeDefinition[];
  edges: EdgeDefinition[];
  label: string; // what it is, for those who do not see it
}

const sizeOf = (linking: number) => Math.min(14 + 5 * Math.sqrt(linking), 60);
const widthOf = (links: number) => Math.min(THINNEST + Math.log2(links), THICKEST);

/** What a node is called, by what it stands for. */
function labelOf(node: MapNode, at: string): string {
  if (node.kind === "more") return `${node.pages.toLocaleString("en")} more`;
  if (node.kind === "elsewhere") return `elsewhere (${node.pages.toLocaleString("en")})`;
  const folder = node.kind === "folder" ? at : node.folder;
  const name = shortened(node.name.slice(folder ? folder.length + 1 : 0));
  return node.kind === "folder" ? `${name} (${node.pages.toLocaleString("en")})` : name;
}

/** A name that fits, its beginning and its end kept, by which names are told apart. */
export function shortened(name: string): string {
  return name.length > LONGEST ? `${name.slice(0, LONGEST - 11)}…${name.slice(-10)}` : name;
}

export function elementsOf({ at, nodes, lines }: MapDrawing): Drawing {
  const grouped = nodes.some((node) => !ALONE.has(node.kind));
  const folderOf = (node: MapNode) => (grouped ? "" : node.folder);
  const folders = [...new Set(nodes.map(folderOf).filter(Boolean))];
  const boxes = folders.map((folder) => ({ data: { id: `${folder}/`, label: `${folder}/` }, classes: "folder" }));
  const drawn = nodes.map((node) => ({
    data: {
      id: node.name,
      label: labelOf(node, at),
      parent: folderOf(node) ? `${node.folder}/` : undefined,
      size: ALONE.has(node.kind) ? sizeOf(node.pages_in) : sizeOf(node.pages / 4),
    },
    classes: [
      node.kind === "missing" && "missing",
      !ALONE.has(node.kind) && "gathered",
      node.is_orphan && "orphan",
      node.is_hub && "hub",
    ]
      .filter(Boolean)
      .join(" "),
  }));
  const edges = lines.map((one) => ({
    data: {
      id: `${one.source} → ${one.goal}`,
      source: one.source,
      target: one.goal,
      width: widthOf(one.links),
    },
    classes: one.broken ? "broken" : "",
  }));
  const pages = nodes.reduce((sum, node) => sum + node.pages, 0);
  return { nodes: [...boxes, ...drawn], edges, label: `The link map of ${counted(pages, "page")}` };
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
