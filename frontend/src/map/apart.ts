/** Boxes moved apart, so that none lies over another one. */

export interface Box {
  x: number; // of its middle
  y: number;
  width: number;
  height: number;
}

/** How much room is kept between two boxes, and how often they are looked at, at most. */
const GAP = 6;
const MOST_ROUNDS = 400;

/** Return where boxes are to be, each moved as little as it takes that none lies over another one. */
export function movedApart(boxes: readonly Box[]): Box[] {
  const moved = boxes.map((box) => ({ ...box }));
  for (let round = 0; round < MOST_ROUNDS; round++) {
    if (!pushOnce(moved, round)) return moved;
  }
  return stacked(moved);
}

/** Push each pair that overlaps apart, along the way that is shorter; return whether there was one. */
function pushOnce(boxes: Box[], round: number): boolean {
  let any = false;
  for (const [index, one] of boxes.entries()) {
    for (const other of boxes.slice(index + 1)) {
      const across = (one.width + other.width) / 2 + GAP - Math.abs(one.x - other.x);
      const down = (one.height + other.height) / 2 + GAP - Math.abs(one.y - other.y);
      if (across <= 0 || down <= 0) continue;
      any = true;
      const by = (Math.min(across, down) / 2) * 1.02 + 0.01 * (round % 7); // uneven, so that rows do not swing
      if (across < down) {
        const way = one.x <= other.x ? 1 : -1;
        one.x -= way * by;
        other.x += way * by;
      } else {
        const way = one.y <= other.y ? 1 : -1;
        one.y -= way * by;
        other.y += way * by;
      }
    }
  }
  return any;
}

/** Move boxes below whatever they lie over, from the top down: for the few that pushing does not part. */
function stacked(boxes: Box[]): Box[] {
  const placed: Box[] = [];
  for (const box of [...boxes].sort((a, b) => a.y - b.y)) {
    for (let over = find(box, placed); over; over = find(box, placed)) {
      box.y = over.y + (over.height + box.height) / 2 + GAP;
    }
    placed.push(box);
  }
  return boxes;
}

const find = (box: Box, others: readonly Box[]) => others.find((other) => overlap(box, other));

/** Return whether two boxes lie over one another. */
export function overlap(one: Box, other: Box): boolean {
  return (
    Math.abs(one.x - other.x) < (one.width + other.width) / 2 &&
    Math.abs(one.y - other.y) < (one.height + other.height) / 2
  );
}
