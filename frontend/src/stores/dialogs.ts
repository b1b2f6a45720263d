/** Which of the desk's dialogs is open, and what it is about. */
import { defineStore } from "pinia";
import { ref, shallowRef } from "vue";
import type { MissingView, OriginView, Place } from "../api/client";

export type Dialog =
  | { name: "repair"; code: string }
  | { name: "heading"; missing: MissingView | null }
  | { name: "sample" }
  | { name: "skeleton" }
  | { name: "new-page" }
  | { name: "copy-page" }
  | { name: "title" }
  | { name: "heads" }
  | { name: "recipe" }
  | { name: "publish" }
  | { name: "navigation" }
  | { name: "move-file"; path: string; isPage: boolean }
  | { name: "delete-file"; path: string; linksIn: number }
  | { name: "draft" }
  | { name: "history" }
  | { name: "entry-style" }
  | { name: "regions" }
  | { name: "spoken-headings" }
  | { name: "rules" }
  | { name: "twice" }
  | { name: "goal"; origin: OriginView }
  | { name: "pointers"; section: number }
  | { name: "pair"; section: number }
  | { name: "menu-section"; section: number }
  | { name: "move-files"; paths: string[] }
  | { name: "adopt"; start: number }
  | { name: "contents-place"; block: number | "new" }
  | { name: "style" }
  | { name: "windows" }
  | { name: "landing-fixes" }
  | { name: "entries" }
  | { name: "place"; places: Place[]; start: number | "top" | "bottom" };

export const useDialogs = defineStore("dialogs", () => {
  const open = shallowRef<Dialog | null>(null);
  const pointing = ref(false); // whether a click on the rendered page chooses a place

  const linking = ref(false); // whether words chosen on the rendered page become a jump link
  const picking = shallowRef<OriginView | null>(null); // what leads to the section that is chosen next

  /** Takes the place that is clicked on the page next, for a dialog that stands aside until then. */
  const placing = shallowRef<((start: number) => void) | null>(null);

  function show(dialog: Dialog): void {
    open.value = dialog;
  }

  function close(): void {
    open.value = null;
    placing.value = null;
  }

  return { open, pointing, linking, picking, placing, show, close };
});
