/** The rows of a page in parts: each part, its sections, and the blocks of a section that are looked at. */
import type { CutPlaceView, PartView, PartsView, WholeSectionView } from "../api/client";

export type PartsRow =
  | { kind: "part"; key: string; part: PartView }
  | { kind: "section"; key: string; section: WholeSectionView; blocks: number }
  | { kind: "block"; key: string; place: CutPlaceView };

/** Return the rows in the page's order; `opened` are sections whose blocks are shown; `alone` leaves the parts. */
export function rowsOfParts(view: PartsView, opened: ReadonlySet<number>, alone = false): PartsRow[] {
  if (alone) return view.parts.map((part) => ({ kind: "part", key: `part ${part.number}`, part }));
  const blocks = new Map<number, CutPlaceView[]>();
  for (const place of view.places)
    if (place.section === null) blocks.set(place.within, [...(blocks.get(place.within) ?? []), place]);
  const rows: PartsRow[] = [];
  const begins = view.parts.map((part) => part.at);
  const shown = (place: CutPlaceView) => opened.has(place.within) || begins.includes(place.at);
  let next = 0;
  /** Add the parts that begin up to a place. */
  const upTo = (at: number) => {
    for (; next < view.parts.length && view.parts[next]!.at <= at; next++)
      rows.push({ kind: "part", key: `part ${view.parts[next]!.number}`, part: view.parts[next]! });
  };
  const addBlocks = (within: number) => {
    for (const place of (blocks.get(within) ?? []).filter(shown)) {
      upTo(place.at);
      rows.push({ kind: "block", key: `block ${place.at}`, place });
    }
  };
  upTo(view.parts[0]?.at ?? 0);
  addBlocks(-1);
  for (const section of view.sections) {
    if (section.at !== null) upTo(section.at);
    rows.push({
      kind: "section",
      key: `section ${section.index}`,
      section,
      blocks: blocks.get(section.index)?.length ?? 0,
    });
    addBlocks(section.index);
  }
  upTo(Infinity);
  return rows;
}
