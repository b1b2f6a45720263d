/** Where the pieces of the road stand in its picture. Heights come measured or estimated; here they are only drawn. */
import type { LandingView, MeasureView, PageView, SectionView } from "../api/client";

/** A section as the road draws it. */
export type RoadSection = Pick<SectionView, "index" | "level" | "text" | "identifier" | "words" | "top" | "height">;

/** A page as the road draws it: one of the site, or one that is in parts, as a whole. */
export type RoadPage = Pick<PageView, "path" | "height" | "window_height"> & {
  sections: readonly RoadSection[];
  links?: PageView["links"];
  structure?: PageView["structure"];
};

/** CSS pixels of the picture for one window of the page, at least and at most. */
const LEAST_A_WINDOW = 22;
const MOST_A_WINDOW = 110;
const MOST_ZOOMED = 560;
/** How far each level is set in, in CSS pixels, and where the first one is. */
const INSET = 9;
const LEFT = 26;
/** Room for a label, in CSS pixels. */
const LABEL = 12.5;

export interface Stretch {
  section: RoadSection;
  x: number;
  y: number;
  height: number;
  label: number | null; // where its words begin; null where they have no room
  trouble: LandingView | null; // the worst landing at it, where one wants something done
  bare: boolean; // whether it has a long run without a heading
}

export interface Tick {
  y: number;
  number: number; // of the window, 1-based
}

export interface Arc {
  key: string;
  section: number; // that the link is in
  toSection: number;
  from: number;
  to: number;
  back: boolean; // whether it leads up to the top
  lost: boolean;
  listed: boolean; // whether it is one of our contents, whose arcs all together would hide the others
}

export interface Plate {
  name: string;
  y: number;
}

export interface RoadLayout {
  scale: number; // of the picture, in its pixels for one of the page's
  height: number;
  y: (top: number) => number; // of a place on the page
  stretches: Stretch[];
  ticks: Tick[];
  arcs: Arc[];
  plates: Plate[]; // identifiers that are no section's
  reach: number | null; // below this no target comes to the window's top; null where all do
}

/** A part of the page that is drawn alone, in the page's own pixels. */
export interface Zoom {
  top: number;
  bottom: number;
}

/** Return the picture of a page for a space of this height, in CSS pixels. */
export function layRoad(
  page: RoadPage,
  measure: MeasureView | null,
  space: number,
  zoom: Zoom | null = null,
  selected = -1,
): RoadLayout {
  const height = measure?.height ?? page.height;
  const viewHeight = measure?.view_height ?? page.window_height;
  const shown = zoom ?? { top: 0, bottom: height };
  const windows = Math.max((shown.bottom - shown.top) / viewHeight, 0.01);
  const most = zoom ? MOST_ZOOMED : MOST_A_WINDOW;
  const perWindow = Math.min(Math.max((space - 4) / windows, zoom ? 0 : LEAST_A_WINDOW), most);
  const scale = perWindow / viewHeight;
  const y = (top: number) => (top - shown.top) * scale;
  const places = placesOf(page, measure);
  const within = page.sections.filter((section) => {
    const place = places.get(section.index);
    return !zoom || (place && place.top >= zoom.top - 1 && place.top < zoom.bottom - 1);
  });
  const highest = Math.min(...within.map((section) => section.level), 6);
  const lowest = Math.max(...within.map((section) => section.level), highest);
  const top = (index: number) => places.get(index)?.top ?? 0;
  const labelled = chooseLabels(within, (section) => y(top(section.index)), selected);
  const column = LEFT + (Math.min(lowest, highest + 3) - highest + 1) * INSET;
  const troubles = troublesOf(page, measure);
  const bare = new Set(page.structure?.missing?.map((found) => found.section) ?? []);
  const stretches = within.map((section) => ({
    section,
    x: LEFT + (section.level - highest) * INSET,
    y: y(top(section.index)),
    height: Math.max((places.get(section.index)?.height ?? 0) * scale - 1, 1.5),
    label: labelled.has(section.index) ? column + (section.level - highest) * 4 : null,
    trouble: troubles.get(section.index) ?? null,
    bare: bare.has(section.index),
  }));
  const first = Math.ceil(shown.top / viewHeight + 0.001);
  const last = Math.ceil(shown.bottom / viewHeight - 0.001);
  const ticks = Array.from({ length: Math.max(last - first, 0) }, (_, index) => ({
    y: y((first + index) * viewHeight),
    number: first + index + 1,
  }));
  return {
    scale,
    height: Math.max(windows * perWindow, 1),
    y,
    stretches,
    ticks,
    arcs: arcsOf(page, measure, top, y),
    plates: platesOf(page, measure, shown, y),
    reach: typeof measure?.reach === "number" ? y(measure.reach) : null,
  };
}

function placesOf(page: RoadPage, measure: MeasureView | null): Map<number, { top: number; height: number }> {
  if (measure && measure.stretches.length === page.sections.length + 1)
    return new Map(measure.stretches.map((stretch) => [stretch.index, stretch]));
  return new Map(page.sections.map((section) => [section.index, section]));
}

/** Return the sections whose words have room: the selected one, then higher levels, then longer ones. */
function chooseLabels(
  sections: readonly RoadSection[],
  yOf: (section: RoadSection) => number,
  selected: number,
): Set<number> {
  const chosen = new Set<number>();
  const taken: boolean[] = []; // by half a label's height, so that neighbours are found at once
  const cell = LABEL / 2;
  const rank = (section: RoadSection) => (section.index === selected ? 0 : section.level);
  const byLevel = [...sections].sort((a, b) => rank(a) - rank(b) || b.words - a.words || a.index - b.index);
  const ys: (number | undefined)[] = [];
  for (const section of byLevel) {
    const at = yOf(section);
    const slot = Math.floor(at / cell);
    const near = [-2, -1, 0, 1, 2].some(
      (step) => taken[slot + step] && Math.abs((ys[slot + step] ?? Infinity) - at) < LABEL,
    );
    if (near) continue;
    taken[slot] = true;
    ys[slot] = at;
    chosen.add(section.index);
  }
  return chosen;
}

/** Return the worst landing at each section that wants something done: covered before short. */
function troublesOf(page: RoadPage, measure: MeasureView | null): Map<number, LandingView> {
  const found = new Map<number, LandingView>();
  for (const landing of [...(measure?.landings ?? []), ...(measure?.incoming ?? [])]) {
    if (!landing.trouble || landing.to_page !== page.path || landing.to_section === null) continue;
    const before = found.get(landing.to_section);
    if (!before || (before.verdict === "short" && landing.verdict !== "short"))
      found.set(landing.to_section, landing);
  }
  return found;
}

/** Return an arc for each jump link of the page's content, and of our contents, that lands on another of its sections. */
function arcsOf(
  page: RoadPage,
  measure: MeasureView | null,
  top: (index: number) => number,
  y: (top: number) => number,
): Arc[] {
  const exact = new Map((measure?.landings ?? []).map((landing) => [landing.start, landing.top]));
  return (page.links ?? [])
    .filter((link) => (!link.in_furniture || link.made) && link.to_page === page.path && link.to_section !== null)
    .filter((link) => link.section !== link.to_section)
    .map((link) => {
      const to = link.to_section ?? -1;
      const begin = exact.get(link.start) ?? top(link.section);
      return {
        key: String(link.start),
        section: link.section,
        toSection: to,
        from: y(begin) + 6,
        to: to < 0 ? y(0) + 4 : y(top(to)) + 6,
        back: to < 0,
        lost: link.resolves === false,
        listed: link.made,
      };
    });
}

function platesOf(page: RoadPage, measure: MeasureView | null, shown: Zoom, y: (top: number) => number): Plate[] {
  const own = new Set(page.sections.map((section) => section.identifier));
  return (measure?.points ?? [])
    .filter((point) => !own.has(point.name) && point.top >= shown.top && point.top < shown.bottom)
    .map((point) => ({ name: point.name, y: y(point.top) }));
}

/** Return the path of an arc that bows to the right of `x`. */
export function arcPath(x: number, from: number, to: number): string {
  const bow = Math.min(14 + Math.abs(to - from) / 7, 54);
  return `M${x} ${from.toFixed(1)}C${x + bow} ${from.toFixed(1)} ${x + bow} ${to.toFixed(1)} ${x} ${to.toFixed(1)}`;
}
