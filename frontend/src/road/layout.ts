/** Where the pieces of the road stand in its picture. Heights come measured or estimated; here they are only drawn. */
import type { LinkView, PageView, SectionView } from "../api/client";

/** CSS pixels of the picture for one window of the page, at least and at most. */
const LEAST_A_WINDOW = 22;
const MOST_A_WINDOW = 110;
/** How far each level is set in, in CSS pixels, and where the first one stands. */
const INSET = 9;
const LEFT = 26;
/** Room for a label, in CSS pixels. */
const LABEL = 12.5;

export interface Stretch {
  section: SectionView;
  x: number;
  y: number;
  height: number;
  label: number | null; // where its words begin; null where they have no room
}

export interface Tick {
  y: number;
  number: number; // of the window, 1-based
}

export interface Arc {
  link: LinkView;
  from: number;
  to: number;
}

export interface RoadLayout {
  scale: number; // of the picture, in its pixels for one of the page's
  height: number;
  stretches: Stretch[];
  ticks: Tick[];
  arcs: Arc[];
}

/** Return the picture of a page for a space of this height, in CSS pixels. */
export function layRoad(page: PageView, space: number): RoadLayout {
  const windows = Math.max(page.windows, 0.01);
  const perWindow = Math.min(Math.max((space - 4) / windows, LEAST_A_WINDOW), MOST_A_WINDOW);
  const scale = perWindow / page.window_height;
  const highest = Math.min(...page.sections.map((section) => section.level), 6);
  const lowest = Math.max(...page.sections.map((section) => section.level), highest);
  const labelled = chooseLabels(page.sections, scale);
  const column = LEFT + (Math.min(lowest, highest + 3) - highest + 1) * INSET;
  const stretches = page.sections.map((section) => ({
    section,
    x: LEFT + (section.level - highest) * INSET,
    y: section.top * scale,
    height: Math.max(section.height * scale - 1, 1.5),
    label: labelled.has(section.index) ? column + (section.level - highest) * 4 : null,
  }));
  const ticks = Array.from({ length: Math.floor(page.windows) }, (_, index) => ({
    y: (index + 1) * perWindow,
    number: index + 2,
  }));
  return { scale, height: Math.max(page.height * scale, 1), stretches, ticks, arcs: arcsOf(page, scale) };
}

/** Return the sections whose words have room: higher levels first, then whatever fits between them. */
function chooseLabels(sections: readonly SectionView[], scale: number): Set<number> {
  const chosen = new Set<number>();
  const taken: number[] = [];
  const byLevel = [...sections].sort((a, b) => a.level - b.level || a.index - b.index);
  for (const section of byLevel) {
    const y = section.top * scale;
    if (taken.some((other) => Math.abs(other - y) < LABEL)) continue;
    taken.push(y);
    chosen.add(section.index);
  }
  return chosen;
}

/** Return an arc for each jump link of the page's own content that lands on another of its sections. */
function arcsOf(page: PageView, scale: number): Arc[] {
  const middle = (index: number) => {
    const section = page.sections[index];
    return section ? section.top * scale + 7 : 4;
  };
  return page.links
    .filter((link) => !link.in_chrome && link.to_page === page.path && link.to_section !== null)
    .filter((link) => link.section !== link.to_section)
    .map((link) => ({ link, from: middle(link.section), to: middle(link.to_section ?? -1) }));
}

/** Return the path of an arc that bows to the right of `x`. */
export function arcPath(x: number, from: number, to: number): string {
  const bow = Math.min(14 + Math.abs(to - from) / 7, 54);
  return `M${x} ${from.toFixed(1)}C${x + bow} ${from.toFixed(1)} ${x + bow} ${to.toFixed(1)} ${x} ${to.toFixed(1)}`;
}
