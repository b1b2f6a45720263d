/** What makes one text of another, found by lines, in time that is bounded whatever the texts repeat. */
import { diff } from "@codemirror/merge";

/** A half-open range of the text before, and the one of the text after that stands in its place; in UTF-16 units. */
export interface Difference {
  readonly fromA: number;
  readonly toA: number;
  readonly fromB: number;
  readonly toB: number;
}

/** How many lines may differ before they are compared more coarsely. */
const SCANNED = 1000;
/** Numbers from here on are halves of surrogate pairs, which the comparison would keep together. */
const SURROGATES = 0xd800;
const BEHIND_SURROGATES = 0xe000;
const NUMBERS = 0x10000 - (BEHIND_SURROGATES - SURROGATES);

/** Return the lines of a text, each with its line end. */
const linesOf = (text: string): string[] => text.match(/[^\n]*\n|[^\n]+$/g) ?? [];

/** Return each text with every line as one UTF-16 unit, the same for equal lines; null where there are too many. */
function asUnits(...texts: string[][]): string[] | null {
  const known = new Map<string, number>();
  for (const lines of texts) for (const line of lines) if (!known.has(line)) known.set(line, known.size);
  if (known.size > NUMBERS) return null;
  const unit = (line: string) => {
    const number = known.get(line)!;
    return String.fromCharCode(number < SURROGATES ? number : number - SURROGATES + BEHIND_SURROGATES);
  };
  return texts.map((lines) => lines.map(unit).join(""));
}

/** Return where each line starts, and where the last one ends. */
function startsOf(lines: string[]): number[] {
  const starts = [0];
  for (const line of lines) starts.push(starts.at(-1)! + line.length);
  return starts;
}

/** Return a difference without what both texts begin and end with; null where nothing is left of it. */
function trimmed(before: string, after: string, { fromA, toA, fromB, toB }: Difference): Difference | null {
  const within = (at: number, text: string) => !/[\uDC00-\uDFFF]/.test(text.charAt(at)); // no pair is parted
  while (fromA < toA && fromB < toB && before[fromA] === after[fromB]) [fromA, fromB] = [fromA + 1, fromB + 1];
  while (!within(fromA, before) || !within(fromB, after)) [fromA, fromB] = [fromA - 1, fromB - 1];
  while (toA > fromA && toB > fromB && before[toA - 1] === after[toB - 1]) [toA, toB] = [toA - 1, toB - 1];
  while (!within(toA, before) || !within(toB, after)) [toA, toB] = [toA + 1, toB + 1];
  return fromA === toA && fromB === toB ? null : { fromA, toA, fromB, toB };
}

/** Return the ranges that differ, in order; as many lines on both sides are compared line by line. */
export function differences(before: string, after: string): Difference[] {
  const [old, fresh] = [linesOf(before), linesOf(after)];
  const units = asUnits(old, fresh);
  const whole = { fromA: 0, toA: before.length, fromB: 0, toB: after.length };
  if (!units) return [trimmed(before, after, whole)].filter((found) => found !== null);
  const [startsA, startsB] = [startsOf(old), startsOf(fresh)];
  const ranges = diff(units[0]!, units[1]!, { scanLimit: SCANNED }).flatMap(({ fromA, toA, fromB, toB }) => {
    const paired = toA - fromA === toB - fromB ? toA - fromA : 1;
    return Array.from({ length: paired }, (_, n) => ({
      fromA: startsA[fromA + n]!,
      toA: startsA[paired > 1 ? fromA + n + 1 : toA]!,
      fromB: startsB[fromB + n]!,
      toB: startsB[paired > 1 ? fromB + n + 1 : toB]!,
    }));
  });
  return ranges.map((range) => trimmed(before, after, range)).filter((found) => found !== null);
}
