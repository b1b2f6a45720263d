/** The link map as the graph library takes it: a box for each folder, a node for each page, a line for its links. */
import type { EdgeDefinition, NodeDefinition } from "cytoscape";
import type { SiteMap } from "../api/client";

const THINNEST = 1;
const THICKEST = 9;

export function elementsOf(map: SiteMap): { nodes: NodeDefinition[]; edges: EdgeDefinition[] } {
  const folders = [...new Set(map.pages.map((page) => page.folder).filter(Boolean))];
  const boxes = folders.map((folder) => ({ data: { id: `${folder}/`, label: `${folder}/` }, classes: "folder" }));
  const pages = map.pages.map((page) => ({
    data: {
      id: page.path,
      label: page.path.slice(page.folder ? page.folder.length + 1 : 0),
      parent: page.folder ? `${page.folder}/` : undefined,
      size: Math.min(14 + 5 * Math.sqrt(page.pages_in), 60),
    },
    classes: [!page.there && "missing", page.is_orphan && "orphan", page.is_hub && "hub"].filter(Boolean).join(" "),
  }));
  const edges = map.links.map((one) => ({
    data: {
      id: `${one.source} → ${one.goal}`,
      source: one.source,
      target: one.goal,
      width: Math.min(THINNEST + Math.log2(one.links), THICKEST),
    },
    classes: one.broken ? "broken" : "",
  }));
  return { nodes: [...boxes, ...pages], edges };
}
