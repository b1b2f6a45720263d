/** A unified diff as lines, with what changed within them. */
import { presentableDiff } from "@codemirror/merge";

export interface Piece {
  text: string;
  changed: boolean;
}

export interface DiffLine {
  kind: "same" | "added" | "removed" | "place";
  sign: string;
  pieces: Piece[];
}

/** Lines longer than this are shown as a whole, in characters. */
const LONGEST = 2000;
const KINDS: Record<string, DiffLine["kind"]> = { "+": "added", "-": "removed", "@": "place", "\\": "place" };

/** Return the lines of a diff's hunks; a run of removed lines is compared with the added ones that follow it. */
export function readDiff(lines: readonly string[]): DiffLine[] {
  const found = lines.map((line): DiffLine => {
    const kind = KINDS[line[0] ?? " "] ?? "same";
    const whole = kind === "place";
    return {
      kind,
      sign: whole ? "" : line[0] || " ",
      pieces: [{ text: whole ? line : line.slice(1), changed: false }],
    };
  });
  let at = 0;
  while (at < found.length) {
    const removed = runOf(found, at, "removed");
    const added = runOf(found, at + removed, "added");
    for (let pair = 0; pair < Math.min(removed, added); pair++)
      compare(found[at + pair]!, found[at + removed + pair]!);
    at += Math.max(removed + added, 1);
  }
  return found;
}

function runOf(lines: readonly DiffLine[], from: number, kind: DiffLine["kind"]): number {
  let count = 0;
  while (lines[from + count]?.kind === kind) count++;
  return count;
}

/** Mark what two lines do not share, unless they share hardly anything. */
function compare(removed: DiffLine, added: DiffLine): void {
  const [before, after] = [removed.pieces[0]!.text, added.pieces[0]!.text];
  if (before.length > LONGEST || after.length > LONGEST) return;
  const changes = presentableDiff(before, after);
  const shared = before.length - changes.reduce((sum, change) => sum + change.toA - change.fromA, 0);
  if (shared * 3 < Math.max(before.trim().length, after.trim().length)) return;
  removed.pieces = split(
    before,
    changes.map((change) => [change.fromA, change.toA]),
  );
  added.pieces = split(
    after,
    changes.map((change) => [change.fromB, change.toB]),
  );
}

function split(text: string, changed: readonly (readonly [number, number])[]): Piece[] {
  const pieces: Piece[] = [];
  let at = 0;
  for (const [from, to] of changed) {
    if (from > at) pieces.push({ text: text.slice(at, from), changed: false });
    if (to > from) pieces.push({ text: text.slice(from, to), changed: true });
    at = to;
  }
  if (at < text.length || !pieces.length) pieces.push({ text: text.slice(at), changed: false });
  return pieces;
}
