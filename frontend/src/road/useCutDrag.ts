/** A cut on the road: dragged or moved by key from one place to another where the page can be cut. */
import { computed, ref } from "vue";

export interface CutLine {
  at: number; // offset of the cut
  top: number; // where it is, in the page's pixels
  part: number; // that begins there
  title: string;
}

export interface CutPlace {
  at: number;
  top: number;
}

export function useCutDrag(
  source: {
    cuts: () => readonly CutLine[];
    places: () => readonly CutPlace[];
    scale: () => number;
    top: () => number;
  },
  act: { move: (from: number, to: number) => void; remove: (at: number) => void },
) {
  const dragged = ref<{ at: number; to: CutPlace } | null>(null);

  /** The cuts as they are drawn, the one that is dragged at the place it would go to. */
  const lines = computed(() =>
    source
      .cuts()
      .map((cut) =>
        dragged.value?.at === cut.at
          ? { ...cut, top: dragged.value.to.top, dragged: true }
          : { ...cut, dragged: false },
      ),
  );

  const free = (at: number) =>
    source.places().filter((place) => place.at === at || !source.cuts().some((cut) => cut.at === place.at));

  function begin(event: PointerEvent, cut: CutLine): void {
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    dragged.value = { at: cut.at, to: { at: cut.at, top: cut.top } };
    event.preventDefault();
  }

  function drag(event: PointerEvent): void {
    const now = dragged.value;
    const svg = (event.currentTarget as Element).closest("svg");
    if (!now || !svg) return;
    const y = (event.clientY - svg.getBoundingClientRect().top) / source.scale() + source.top();
    const near = free(now.at).reduce<CutPlace | null>(
      (best, place) => (best && Math.abs(best.top - y) <= Math.abs(place.top - y) ? best : place),
      null,
    );
    if (near) dragged.value = { at: now.at, to: near };
  }

  function end(): void {
    const now = dragged.value;
    dragged.value = null;
    if (now && now.to.at !== now.at) act.move(now.at, now.to.at);
  }

  function cancel(): void {
    dragged.value = null;
  }

  /** Arrow keys move a cut from place to place, Delete removes it. */
  function press(event: KeyboardEvent, cut: CutLine): void {
    const places = free(cut.at);
    const here = places.findIndex((place) => place.at === cut.at);
    const to: Record<string, CutPlace | undefined> = {
      ArrowDown: places[here + 1],
      ArrowUp: places[here - 1],
      Home: places[0],
      End: places.at(-1),
    };
    if (event.key === "Delete" || event.key === "Backspace") act.remove(cut.at);
    else if (event.key in to) {
      const place = to[event.key];
      if (place && place.at !== cut.at) act.move(cut.at, place.at);
    } else return;
    event.preventDefault();
    event.stopPropagation();
  }

  return { lines, begin, drag, end, cancel, press };
}
