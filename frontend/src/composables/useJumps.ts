/** What is done to jump links: words are chosen, then where they lead. */
import { detailOf, type LinkView, type OfferView, type Operation, type OriginView } from "../api/client";
import { useChoices } from "../stores/choices";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";
import { useTray } from "../stores/tray";

/** What a jump link says beside where it leads, and how it is made. */
type JumpMore = Pick<
  Extract<Operation, { operation: "jump" }>,
  "title" | "new_window" | "tells_window" | "rel" | "language" | "words" | "button" | "beside" | "back"
>;

export interface Goal {
  path: string;
  section?: number | null;
  identifier?: string | null;
  edge?: "top" | "bottom" | null;
  element?: number | null; // by its start tag
}

export function useJumps() {
  const page = usePage();
  const tray = useTray();
  const choices = useChoices();
  const dialogs = useDialogs();

  /** Ask where the words, or the picture, should lead that `found` gives. */
  async function begin(found: Promise<OriginView>): Promise<void> {
    dialogs.linking = false;
    tray.problem = "";
    try {
      dialogs.show({ name: "goal", origin: await found });
    } catch (error) {
      tray.problem = detailOf(error);
    }
  }

  /** Lead words, or a link, to a goal; what is left out of `more` stays as it is. Tells whether it could be done. */
  function lead(origin: { start: number; end: number }, goal: Goal, more: Partial<JumpMore> = {}): Promise<boolean> {
    return tray.propose({
      operation: "jump",
      page: page.path,
      start: origin.start,
      end: origin.end,
      to_page: goal.path,
      section: goal.section ?? null,
      identifier: (goal.section ?? null) === null ? (goal.identifier ?? "") : "",
      edge: goal.edge ?? null,
      element: goal.element ?? null,
      tells_window: false,
      insists: true, // a window is never asked for by default
      words: "",
      button: false,
      beside: true,
      back: false,
      ...more,
    });
  }

  /** Lead the link that begins at a place to a goal, without asking for more. */
  async function leadLink(start: number, goal: Goal): Promise<void> {
    try {
      await lead(await choices.originOfWords(start), goal);
    } catch (error) {
      tray.problem = detailOf(error);
    }
  }

  const retarget = (link: LinkView) => begin(choices.originOfWords(link.start));

  /** Do what is offered: link the words, or let a link say its section's title. */
  function take(offer: OfferView): void {
    if (offer.kind === "untelling")
      void tray.propose({ operation: "link-words", page: page.path, start: offer.start, words: offer.title });
    else void lead(offer, { path: offer.path, section: offer.section });
  }

  return { begin, lead, leadLink, retarget, take };
}
