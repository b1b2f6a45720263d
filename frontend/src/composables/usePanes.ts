/** Going from pane to pane by key: the panes of a desk are marked by `data-pane`, in their order. */
import type { Ref } from "vue";

const FOCUSABLE =
  "[tabindex='0'], button:not(:disabled):not([tabindex='-1']), iframe, a[href], input:not(:disabled):not([tabindex='-1'])";

/** Return what goes to the next pane, or the previous one. `ways` are those of panes with a way of their own. */
export function usePanes(
  root: Ref<HTMLElement | null>,
  ways: Record<string, () => boolean>,
): (back: boolean) => void {
  return (back) => {
    const panes = [...(root.value?.querySelectorAll<HTMLElement>("[data-pane]") ?? [])];
    const here = panes.findIndex((pane) => pane.contains(document.activeElement));
    for (let step = 1; step <= panes.length; step++) {
      const at = (Math.max(here, back ? 0 : -1) + (back ? -step : step) + panes.length * 2) % panes.length;
      const pane = panes[at]!;
      if (ways[pane.dataset.pane ?? ""]?.()) return;
      const found = pane.querySelector<HTMLElement>(FOCUSABLE);
      if (found) {
        found.focus();
        return;
      }
    }
  };
}
