import { type Ref } from "vue";
import { detailOf } from "../api/client";
import { useChoices } from "../stores/choices";
import { useDialogs } from "../stores/dialogs";
import { useTray } from "../stores/tray";

type At = { start?: number; line?: number; column?: number };

/** Choosing a place to give an identifier to: in the source where its cursor is, on the page by a click. */
export function usePlace(bench: Ref<"source" | "page">, cursor: () => At | null | undefined) {
  const tray = useTray();
  const choices = useChoices();
  const dialogs = useDialogs();

  async function choosePlace(at: At): Promise<void> {
    dialogs.pointing = false;
    try {
      const places = await choices.placesAt(at);
      if (places.length) dialogs.show({ name: "place", places, start: places[0]!.start });
      else tray.problem = "Nothing there can be pointed to. Choose a place in the page's body.";
    } catch (error) {
      tray.problem = detailOf(error);
    }
  }

  async function point(): Promise<void> {
    if (bench.value === "page") {
      dialogs.pointing = !dialogs.pointing;
      return;
    }
    const at = cursor();
    if (at) await choosePlace(at);
  }

  return { point, choosePlace };
}
