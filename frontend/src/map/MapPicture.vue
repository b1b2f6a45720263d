<script setup lang="ts">
/** The link map drawn: pages by folder, thicker lines for more links; a page or a line is chosen by a click. */
import { useResizeObserver } from "@vueuse/core";
import cytoscape, { type Core, type NodeDefinition, type StylesheetJson } from "cytoscape";
import fcose from "cytoscape-fcose";
import { onBeforeUnmount, onMounted, ref, watch } from "vue";
import { useTheme } from "../composables/useTheme";
import { movedApart, type Box } from "./apart";
import type { Drawing } from "./elements";

cytoscape.use(fcose);

const props = defineProps<{ drawing: Drawing; chosen: string }>();
const emit = defineEmits<{ page: [path: string]; line: [source: string, goal: string]; open: [name: string] }>();
const at = ref<HTMLElement>();
const theme = useTheme();
/** From how many lines on they are drawn fainter. */
const DENSE = 250;
/** Around all that is drawn, in pixels. */
const ROOM = 44;
/** How much a map of few pages is enlarged at first. */
const CLOSEST = 1.2;
let graph: Core | null = null;

const colour = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(name).trim();

function styles(): StylesheetJson {
  const ink = colour("--ink");
  return [
    { selector: "node[size]", style: { width: "data(size)", height: "data(size)" } },
    {
      selector: "node",
      style: {
        "background-color": colour("--road-2"),
        "border-width": 1.5,
        "border-color": colour("--post"),
        label: "data(label)",
        color: ink,
        "font-family": "Figtree Variable",
        "font-size": 11,
        "text-valign": "bottom",
        "text-margin-y": 4,
        "text-background-color": colour("--sheet"),
        "text-background-opacity": 0.8,
        "text-background-padding": "1px",
      },
    },
    { selector: "node.hub", style: { "background-color": colour("--post"), label: "data(label)" } },
    {
      selector: "node.orphan",
      style: { "background-color": colour("--sheet"), "border-style": "dashed", "border-color": colour("--wait") },
    },
    {
      selector: "node.missing",
      style: {
        shape: "diamond",
        "background-color": colour("--wrong-wash"),
        "border-color": colour("--wrong"),
        color: colour("--wrong"),
      },
    },
    {
      selector: "node.gathered",
      style: {
        shape: "round-rectangle",
        "background-color": colour("--sheet-sunk"),
        "border-color": colour("--line-strong"),
        color: colour("--ink-soft"),
      },
    },
    {
      selector: "node.folder",
      style: {
        shape: "round-rectangle",
        "background-color": colour("--sheet-sunk"),
        "border-color": colour("--line"),
        label: "data(label)",
        "text-valign": "top",
        color: colour("--ink-soft"),
        padding: "14px",
      },
    },
    {
      selector: "edge",
      style: {
        width: "data(width)",
        "line-color": colour("--line-strong"),
        "target-arrow-color": colour("--line-strong"),
        "target-arrow-shape": "triangle",
        "curve-style": "bezier",
        opacity: props.drawing.edges.length > DENSE ? 0.25 : 0.6,
        "arrow-scale": 0.8,
      },
    },
    {
      selector: "edge.broken",
      style: {
        "line-color": colour("--wrong"),
        "target-arrow-color": colour("--wrong"),
        "line-style": "dashed",
        opacity: 0.9,
      },
    },
    { selector: ".faint", style: { opacity: 0.12 } },
    {
      selector: ".chosen",
      style: { "border-width": 4, "border-color": colour("--plate"), label: "data(label)", "z-index": 9 },
    },
    { selector: ".near", style: { label: "data(label)", opacity: 1 } },
  ];
}

/** Give a node a place of its own to begin with: lines between nodes at one place cannot be drawn. */
function somewhere(node: NodeDefinition, index: number): NodeDefinition {
  return { ...node, position: { x: 150 * (index % 8), y: 150 * Math.floor(index / 8) } };
}

function draw(): void {
  graph?.destroy();
  graph = cytoscape({
    container: at.value,
    elements: { nodes: props.drawing.nodes.map(somewhere), edges: props.drawing.edges },
    style: styles(),
    minZoom: 0.05,
    maxZoom: 3,
    layout: {
      name: "fcose",
      quality: "default",
      animate: false,
      nodeDimensionsIncludeLabels: true,
      nodeSeparation: 90,
      idealEdgeLength: 110,
      padding: 44,
    } as cytoscape.LayoutOptions,
  });
  part(graph);
  graph.fit(undefined, ROOM);
  if (graph.zoom() > CLOSEST) graph.zoom(CLOSEST).center();
  graph.on("tap", "node", (event) => {
    const node = event.target as cytoscape.NodeSingular;
    if (node.hasClass("gathered")) emit("open", node.id());
    else if (!node.hasClass("folder")) emit("page", node.id());
  });
  graph.on("tap", "edge", (event) => {
    const edge = event.target as cytoscape.EdgeSingular;
    emit("line", edge.data("source") as string, edge.data("target") as string);
  });
  graph.on("tap", (event) => {
    if (event.target === graph) emit("page", "");
  });
  mark();
}

/** Move nodes apart with their names, those of a folder first, then folders and what is in none. */
function part(drawn: Core): void {
  for (const folder of drawn.nodes(".folder")) moveApart(folder.children());
  moveApart(drawn.nodes().orphans());
}

function moveApart(nodes: cytoscape.NodeCollection): void {
  const before = nodes.map(boxOf);
  const after = movedApart(before);
  nodes.forEach((node, at) => {
    const [was, is] = [before[at], after[at]];
    if (was && is) node.shift({ x: is.x - was.x, y: is.y - was.y });
  });
}

const NAME_FONT = '11px "Figtree Variable"';
const LINE = 20; // of a name, in pixels
const AROUND = 14; // what is in a folder, in pixels

/** Return how much room a node takes with its name below, or a folder with what is in it and its name above. */
function boxOf(node: cytoscape.NodeSingular): Box {
  const name = widthOf(node.data("label") as string);
  if (!node.hasClass("folder")) {
    const { x, y } = node.position();
    const size = node.data("size") as number;
    return { x, y: y + LINE / 2, width: Math.max(size, name), height: size + LINE };
  }
  const boxes = node.children().map(boxOf);
  const left = Math.min(...boxes.map((box) => box.x - box.width / 2)) - AROUND;
  const right = Math.max(...boxes.map((box) => box.x + box.width / 2)) + AROUND;
  const top = Math.min(...boxes.map((box) => box.y - box.height / 2)) - AROUND - LINE;
  const bottom = Math.max(...boxes.map((box) => box.y + box.height / 2)) + AROUND;
  return { x: (left + right) / 2, y: (top + bottom) / 2, width: Math.max(right - left, name), height: bottom - top };
}

function widthOf(name: string): number {
  const pen = document.createElement("canvas").getContext("2d");
  if (!pen) return name.length * 7;
  pen.font = NAME_FONT;
  return pen.measureText(name).width + 4;
}

/** Show what is around the page that is chosen, the rest faint. */
function mark(): void {
  if (!graph) return;
  graph.elements().removeClass("faint near chosen");
  const node = props.chosen ? graph.getElementById(props.chosen) : graph.collection();
  if (!node.length) return;
  const near = node.closedNeighborhood();
  graph.elements().difference(near).not(".folder").addClass("faint");
  near.addClass("near");
  node.addClass("chosen");
}

onMounted(draw);
watch(() => props.drawing, draw);
watch(() => props.chosen, mark);
watch(theme.theme, () => graph?.style(styles()));
useResizeObserver(at, () => graph?.resize());
onBeforeUnmount(() => graph?.destroy());

defineExpose({ fit: () => graph?.fit(undefined, 24) });
</script>

<template>
  <div ref="at" class="picture" role="img" :aria-label="`${drawing.label}; the table beside it has the same`" />
</template>

<style scoped>
.picture {
  width: 100%;
  height: 100%;
}
</style>
