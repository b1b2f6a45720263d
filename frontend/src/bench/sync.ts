/** Where a line of the source is on the rendered page, and the other way round. */
import type { MeasureView, PageView } from "../api/client";

/** A line of the source with its place on the page: headings, and both ends. */
interface Anchor {
  line: number; // 1-based
  top: number; // CSS pixels from the page's top
}

/** Return what source and page have in common, in their order. */
export function anchorsOf(page: PageView, measure: MeasureView): Anchor[] {
  const tops = new Map(measure.stretches.map((stretch) => [stretch.index, stretch.top]));
  const found: Anchor[] = [{ line: 1, top: 0 }];
  for (const section of page.sections) {
    const top = tops.get(section.index);
    const last = found.at(-1)!;
    if (top !== undefined && section.line > last.line && top >= last.top) found.push({ line: section.line, top });
  }
  found.push({
    line: Math.max(page.lines, found.at(-1)!.line + 1),
    top: Math.max(measure.height, found.at(-1)!.top),
  });
  return found;
}

/** Return the place on the page of a line, lines between two anchors being spread evenly. */
export function topOfLine(anchors: readonly Anchor[], line: number): number {
  return between(
    anchors,
    line,
    (anchor) => anchor.line,
    (anchor) => anchor.top,
  );
}

/** Return the line that is at a place on the page. */
export function lineOfTop(anchors: readonly Anchor[], top: number): number {
  return Math.round(
    between(
      anchors,
      top,
      (anchor) => anchor.top,
      (anchor) => anchor.line,
    ),
  );
}

function between(
  anchors: readonly Anchor[],
  value: number,
  from: (anchor: Anchor) => number,
  to: (anchor: Anchor) => number,
): number {
  const next = anchors.findIndex((anchor) => from(anchor) > value);
  if (next === 0) return to(anchors[0]!);
  if (next < 0) return to(anchors.at(-1)!);
  const [before, after] = [anchors[next - 1]!, anchors[next]!];
  const share = (value - from(before)) / (from(after) - from(before));
  return to(before) + share * (to(after) - to(before));
}
