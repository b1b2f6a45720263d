/** Sections dragged by their rows, and dropped before, after or into another one. */
import { ref } from "vue";
import type { Where } from "../composables/useHeadings";

/** Shares of a row's height: what is dropped above the first lands before it, below the second after it. */
const BEFORE = 0.3;
const AFTER = 0.7;

export function useDrag(drop: (section: number, target: number, where: Where) => void) {
  const dragged = ref(-1);
  const over = ref<{ index: number; where: Where } | null>(null);

  function whereIn(event: DragEvent): Where {
    const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
    const at = (event.clientY - box.top) / box.height;
    return at < BEFORE ? "before" : at > AFTER ? "after" : "into";
  }

  function begin(event: DragEvent, index: number): void {
    dragged.value = index;
    event.dataTransfer?.setData("text/plain", String(index));
    if (event.dataTransfer) event.dataTransfer.effectAllowed = "move";
  }

  function pass(event: DragEvent, index: number): void {
    if (dragged.value < 0) return;
    event.preventDefault();
    over.value = { index, where: whereIn(event) };
  }

  function land(event: DragEvent, index: number): void {
    if (dragged.value < 0) return;
    event.preventDefault();
    drop(dragged.value, index, whereIn(event));
    end();
  }

  function end(): void {
    dragged.value = -1;
    over.value = null;
  }

  return { dragged, over, begin, pass, land, end };
}

export type Drag = ReturnType<typeof useDrag>;
