/** Of a long list of table rows, those in sight and near it; room is kept for the others above and below. */
import { useEventListener, useResizeObserver } from "@vueuse/core";
import { computed, onMounted, ref, shallowRef, type Ref } from "vue";

/** Lists up to this long are drawn whole. */
export const WHOLE = 250;
/** How far outside what is in sight rows are drawn, in CSS pixels. */
const MARGIN = 700;

export interface RowSource {
  count: () => number;
  heightOf: (at: number) => number; // of a row, in CSS pixels
  holder: Ref<HTMLElement | null>; // an element in the scrolled box
  head: number; // height of what is above the rows, in CSS pixels
}

export function useWindowedRows(source: RowSource) {
  const scroller = shallowRef<HTMLElement | null>(null);
  const top = ref(0);
  const height = ref(800);

  /** Where each row begins, and at the end where the last one ends. */
  const begins = computed(() => {
    const found = [0];
    const count = source.count();
    for (let at = 0; at < count; at++) found.push((found[at] ?? 0) + source.heightOf(at));
    return found;
  });

  /** The first row that ends below a place. */
  function rowAt(place: number): number {
    let low = 0;
    let high = source.count();
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((begins.value[middle + 1] ?? 0) <= place) low = middle + 1;
      else high = middle;
    }
    return low;
  }

  const span = computed(() => {
    const count = source.count();
    if (count <= WHOLE) return { from: 0, to: count, before: 0, after: 0 };
    const from = rowAt(Math.max(0, top.value - source.head - MARGIN));
    const to = Math.min(rowAt(top.value + height.value + MARGIN) + 1, count);
    const end = begins.value[count] ?? 0;
    return { from, to, before: begins.value[from] ?? 0, after: end - (begins.value[to] ?? end) };
  });

  /** Scroll as little as brings a row into sight. */
  function reveal(at: number): void {
    const box = scroller.value;
    const begin = begins.value[at];
    if (!box || begin === undefined) return;
    const end = (begins.value[at + 1] ?? begin) + source.head;
    if (begin < box.scrollTop) box.scrollTop = begin;
    else if (end > box.scrollTop + box.clientHeight) box.scrollTop = end - box.clientHeight;
    else return;
    top.value = box.scrollTop;
  }

  const follow = () => (top.value = scroller.value?.scrollTop ?? 0);
  useEventListener(scroller, "scroll", follow, { passive: true });
  useResizeObserver(scroller, ([entry]) => {
    if (entry) height.value = entry.contentRect.height;
  });
  onMounted(() => {
    scroller.value = source.holder.value?.closest<HTMLElement>(".scroll") ?? null;
    follow();
  });

  return { span, reveal };
}
