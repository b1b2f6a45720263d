/** Jump links by dragging: a link onto a section leads there, a section onto the source becomes a link to it. */
import type { SectionView } from "../api/client";

type Named = Pick<SectionView, "identifier" | "text">;
const LINK = "application/x-signpost-link";

/** Take a link along, by where it begins. */
export function carryLink(event: DragEvent, start: number): void {
  event.dataTransfer?.setData(LINK, String(start));
}

/** Whether a link is being dragged. */
export const isLink = (event: DragEvent): boolean => event.dataTransfer?.types.includes(LINK) ?? false;

/** Where the link begins that was dropped; null for anything else. */
export function droppedLink(event: DragEvent): number | null {
  const start = event.dataTransfer?.getData(LINK);
  return start ? Number(start) : null;
}

/** Take a section along as the markup of a link to it. */
export function carrySection(event: DragEvent, section: Named): void {
  event.dataTransfer?.setData("text/plain", linkTo(section));
  if (event.dataTransfer) event.dataTransfer.effectAllowed = "copy";
}

export function linkTo(section: Named): string {
  const words = section.text.replaceAll("&", "&amp;").replaceAll("<", "&lt;");
  const name = encodeURIComponent(section.identifier ?? "");
  return `<a href="#${name}">${words}</a>`;
}
