/** Words of the road, cut where their room ends. */

const ruler = typeof document === "undefined" ? null : document.createElement("canvas").getContext("2d");

/** Return words as far as they fit into some CSS pixels, behind what stands before them. */
export function fitted(text: string, room: number, { bold = false, before = "" } = {}): string {
  if (!ruler) return text;
  ruler.font = `${bold ? "650 " : ""}11.5px "Figtree Variable", sans-serif`;
  const left = room - ruler.measureText(before).width;
  if (ruler.measureText(text).width <= left) return text;
  let kept = text.length;
  while (kept > 1 && ruler.measureText(`${text.slice(0, kept)}…`).width > left) kept -= Math.ceil(kept / 12);
  return `${text.slice(0, kept)}…`;
}
