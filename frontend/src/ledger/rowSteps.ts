/** Keys that go from row to row of a list, in rows; what is too far means its end. */
const STEPS: Readonly<Record<string, number>> = {
  ArrowDown: 1,
  j: 1,
  ArrowUp: -1,
  k: -1,
  Home: -Infinity,
  End: Infinity,
  PageDown: 10,
  PageUp: -10,
};

/** Return how many rows a key goes, where it is pressed alone and on the row itself; undefined for any other. */
export function stepOf(event: KeyboardEvent): number | undefined {
  if (event.target !== event.currentTarget) return undefined;
  if (event.ctrlKey || event.metaKey || event.altKey || event.shiftKey) return undefined;
  return STEPS[event.key];
}
