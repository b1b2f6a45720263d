/** Links by dragging on the road: a section taken along becomes a link to it, a link dropped onto one leads there. */
import { readonly, ref } from "vue";
import { carrySection, droppedLink, isLink } from "../ledger/carry";
import type { RoadPage } from "./layout";

interface Source {
  page: () => RoadPage;
  linked: () => boolean; // whether its sections can be linked at all
}

/** The section of what is drawn at a place; null where none is. */
function sectionOf(event: Event): number | null {
  const drawn = event.target instanceof Element ? event.target.closest<SVGElement>("[data-section]") : null;
  return drawn ? Number(drawn.dataset["section"]) : null;
}

export function useLinkDrag(source: Source, lead: (link: number, section: number) => void) {
  const pressed = ref<number | null>(null); // the section where the mouse went down, which may be taken along
  const over = ref<number | null>(null); // the section that a link is held over

  function press(event: Event): void {
    pressed.value = sectionOf(event);
  }

  function release(): void {
    pressed.value = null;
  }

  /** Take a section along, as a link to it; only one that has an identifier. */
  function carry(event: DragEvent): void {
    const section = pressed.value === null ? undefined : source.page().sections[pressed.value];
    if (section?.identifier) carrySection(event, section);
    else event.preventDefault();
  }

  function hold(event: DragEvent): void {
    if (!source.linked() || !isLink(event)) return;
    over.value = sectionOf(event);
    if (over.value !== null) event.preventDefault();
  }

  function leave(): void {
    over.value = null;
  }

  function land(event: DragEvent): void {
    const link = droppedLink(event);
    const section = sectionOf(event);
    leave();
    if (link !== null && section !== null) lead(link, section);
  }

  return { pressed: readonly(pressed), over: readonly(over), press, release, carry, hold, leave, land };
}
