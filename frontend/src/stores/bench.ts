/** The bench: which of source and page are in sight, how much room they have, and which leads when they scroll. */
import { useMediaQuery, useStorage } from "@vueuse/core";
import { defineStore } from "pinia";
import { computed, ref } from "vue";

export type Layout = "page" | "both" | "source";

/** From this width of the screen on, source and page are side by side, in CSS pixels. */
const WIDE = 1440;
/** How long the pane that was scrolled leads the other one, in milliseconds. */
const LEADING = 400;

export const useBench = defineStore("bench", () => {
  const wide = useMediaQuery(`(min-width: ${WIDE}px)`);
  const chosen = useStorage<Layout | "">("signpost-bench-layout", "");
  const layout = computed<Layout>({
    get: () => chosen.value || (wide.value ? "both" : "page"),
    set: (to) => (chosen.value = to),
  });
  const stacked = computed(() => !wide.value);
  const road = useStorage("signpost-road", 220);
  const ledger = useStorage("signpost-ledger", 500);
  const sourceHeight = useStorage("signpost-source-height", 290);
  const sourceWidth = useStorage("signpost-source-width", 430);
  const diffHeight = useStorage("signpost-diff-height", 480); // at most, of the tray's diff
  const typeSize = useStorage("signpost-source-type", 12.5);
  const showsPage = computed(() => layout.value !== "source");
  const showsSource = computed(() => layout.value !== "page");
  const line = ref(0); // that the source is asked to show at its top; 0 for none

  let leader: "page" | "source" | null = null;
  let until = 0;

  /** Whether a pane may lead the other one now; from here on it does, for a while. */
  function leads(which: "page" | "source"): boolean {
    if (layout.value !== "both" || (leader !== which && Date.now() < until)) return false;
    leader = which;
    until = Date.now() + LEADING;
    return true;
  }

  /** Whether a pane is being led, so that it does not go anywhere else. */
  const isLed = (which: "page" | "source") => layout.value === "both" && leader !== which && Date.now() < until;

  /** Bring a pane to sight, beside the other one where both are shown. */
  function show(which: "page" | "source"): void {
    if (layout.value !== "both") layout.value = which;
  }

  return {
    layout,
    stacked,
    road,
    ledger,
    sourceHeight,
    sourceWidth,
    diffHeight,
    typeSize,
    showsPage,
    showsSource,
    line,
    leads,
    isLed,
    show,
  };
});
