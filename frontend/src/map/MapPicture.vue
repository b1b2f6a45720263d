<script setup lang="ts">
/** The link map drawn: pages by folder, thicker lines for more links; a page or a line is chosen by a click. */
import { useResizeObserver } from "@vueuse/core";
import cytoscape, { type Core, type StylesheetJson } from "cytoscape";
import fcose from "cytoscape-fcose";
import { onBeforeUnmount, onMounted, ref, watch } from "vue";
import { useTheme } from "../composables/useTheme";
import type { Drawing } from "./elements";

cytoscape.use(fcose);

/** From how many pages on names are shown only of those that many lead to, until one looks closer. */
const MANY = 120;
const props = defineProps<{ drawing: Drawing; chosen: string }>();
const emit = defineEmits<{ page: [path: string]; line: [source: string, goal: string] }>();
const at = ref<HTMLElement>();
const theme = useTheme();
let graph: Core | null = null;

const colour = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(name).trim();

function styles(): StylesheetJson {
  const many = props.drawing.nodes.length > MANY;
  const ink = colour("--ink");
  return [
    {
      selector: "node",
      style: {
        width: "data(size)",
        height: "data(size)",
        "background-color": colour("--road-2"),
        "border-width": 1.5,
        "border-color": colour("--post"),
        label: many ? "" : "data(label)",
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
        "curve-style": many ? "straight" : "bezier",
        opacity: many ? 0.35 : 0.6,
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

function draw(): void {
  graph?.destroy();
  graph = cytoscape({
    container: at.value,
    elements: { nodes: props.drawing.nodes, edges: props.drawing.edges },
    style: styles(),
    minZoom: 0.05,
    maxZoom: 3,
    wheelSensitivity: 0.4,
    layout: {
      name: "fcose",
      quality: props.drawing.nodes.length > MANY ? "draft" : "default",
      animate: false,
      nodeDimensionsIncludeLabels: true,
      nodeSeparation: 90,
      idealEdgeLength: 110,
      padding: 44,
    } as cytoscape.LayoutOptions,
  });
  graph.on("tap", "node", (event) => {
    const node = event.target as cytoscape.NodeSingular;
    if (!node.hasClass("folder")) emit("page", node.id());
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
