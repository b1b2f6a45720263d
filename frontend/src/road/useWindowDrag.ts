/** The window as it is on the road: dragged or moved by key, it scrolls the page. */
import { computed, ref, type Ref } from "vue";

/** What a press of an arrow key moves the window by, in windows. */
const STEP = 0.1;

export function useWindowDrag(
  source: { top: () => number; scale: () => number; viewHeight: () => number; limit: () => number },
  move: (top: number) => void,
) {
  const dragged: Ref<number | null> = ref(null); // where the window's top is dragged to, in the page's pixels
  let grip = 0;
  let waiting = false;

  const top = computed(() => dragged.value ?? source.top());

  /** Ask for a place once a frame, however often the pointer moves. */
  function ask(to: number): void {
    dragged.value = Math.min(Math.max(to, 0), source.limit());
    if (waiting) return;
    waiting = true;
    requestAnimationFrame(() => {
      waiting = false;
      if (dragged.value !== null) move(dragged.value);
    });
  }

  function begin(event: PointerEvent): void {
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    grip = event.clientY / source.scale() - top.value;
    event.preventDefault();
  }

  function drag(event: PointerEvent): void {
    if ((event.currentTarget as Element).hasPointerCapture(event.pointerId))
      ask(event.clientY / source.scale() - grip);
  }

  /** The page has its place: from here on the fold follows the page again. */
  function end(): void {
    if (dragged.value !== null) move(dragged.value);
    window.setTimeout(() => (dragged.value = null), 120);
  }

  function press(event: KeyboardEvent): void {
    const view = source.viewHeight();
    const to: Record<string, number> = {
      ArrowDown: top.value + view * STEP,
      ArrowUp: top.value - view * STEP,
      PageDown: top.value + view,
      PageUp: top.value - view,
      Home: 0,
      End: source.limit(),
    };
    const next = to[event.key];
    if (next === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    move(Math.min(Math.max(next, 0), source.limit()));
  }

  return { top, begin, drag, end, press };
}
