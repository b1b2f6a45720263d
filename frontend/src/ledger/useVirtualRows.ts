/** Of a long list of table rows, those in sight and near it; the virtualizer measures them as they are drawn. */
import { useVirtualizer } from "@tanstack/vue-virtual";
import { computed, onMounted, shallowRef, type ComponentPublicInstance, type Ref } from "vue";

/** Lists up to this long are drawn whole. */
const WHOLE = 250;
/** How many rows are drawn above and below those in sight. */
const OVERSCAN = 24;
/** Height of a table's head, which stays in sight over the rows, in CSS pixels. */
const HEAD = 29;

export interface RowSource {
  count: () => number;
  estimate: (at: number) => number; // of a row's height, until it was drawn; in CSS pixels
  holder: Ref<HTMLElement | null>; // an element in the scrolled box
}

export function useVirtualRows(source: RowSource) {
  const scroller = shallowRef<HTMLElement | null>(null);
  const virtual = useVirtualizer(
    computed(() => ({
      count: source.count(),
      getScrollElement: () => scroller.value,
      estimateSize: source.estimate,
      overscan: OVERSCAN,
      scrollMargin: HEAD,
      scrollPaddingStart: HEAD,
      indexAttribute: "data-at",
      enabled: source.count() > WHOLE,
    })),
  );

  const span = computed(() => {
    const count = source.count();
    if (count <= WHOLE) return { from: 0, to: count, before: 0, after: 0 };
    const items = virtual.value.getVirtualItems();
    const [first, last] = [items[0], items.at(-1)];
    if (!first || !last) return { from: 0, to: Math.min(count, WHOLE), before: 0, after: 0 };
    const after = virtual.value.getTotalSize() - (last.end - HEAD);
    return { from: first.index, to: last.index + 1, before: first.start - HEAD, after };
  });

  /** Scroll as little as brings a row into sight. */
  function reveal(at: number): void {
    if (at < 0) return;
    if (source.count() > WHOLE) virtual.value.scrollToIndex(at, { align: "auto" });
    else source.holder.value?.querySelector(`[data-at="${at}"]`)?.scrollIntoView({ block: "nearest" });
  }

  /** Measure a row that was drawn. */
  function measure(row: Element | ComponentPublicInstance | null): void {
    if (source.count() <= WHOLE) return;
    const element = row && "$el" in row ? (row.$el as Element) : row;
    if (element instanceof HTMLElement) virtual.value.measureElement(element);
  }

  onMounted(() => (scroller.value = source.holder.value?.closest<HTMLElement>(".scroll") ?? null));

  return { span, reveal, measure };
}
