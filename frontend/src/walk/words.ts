/** How landings are described. */
import type { LandingView, LinkView } from "../api/client";

export type Tone = "good" | "wait" | "wrong";

const CAUSES: Record<string, string> = {
  boxed: "it is in a box that scrolls by itself",
  sticky: "it sticks to the window's edge",
  snaps: "the page snaps to places of its own",
};

const px = (length: number) => `${Math.round(length).toLocaleString("en")} px`;

/** A landing in a few words. */
export function verdictOf(landing: LandingView): string {
  switch (landing.verdict) {
    case "lands":
      return "lands";
    case "short":
      return `${px(landing.short)} too low`;
    case "covered":
      return `covered, ${px(landing.covered)}`;
    case "in-view":
      return "in view already";
    case "nowhere":
      return "leads nowhere";
    case "unseen":
      return "not on the page";
    case "unsure":
      return "not predicted";
    default:
      return "not measured";
  }
}

/** A landing in a sentence: what happens, why, and what would fix it. */
export function sentenceOf(landing: LandingView): string {
  switch (landing.verdict) {
    case "lands":
      return landing.was_seen
        ? "Lands at the top of the window; it was in view before."
        : "Lands at the top of the window.";
    case "short":
      return `Lands ${px(landing.short)} below the top: the page ends too soon. ${px(landing.short)} of room below would let it come up.`;
    case "covered":
      return `${px(landing.covered)} of its first line are under ${landing.bar}, which ends ${px(landing.bar_bottom)} down the window.`;
    case "in-view":
      return "Was in view already, so following it shows nothing new.";
    case "nowhere":
      return `${landing.to_page} has no target “${landing.fragment}”.`;
    case "unseen":
      return "What it leads to takes no room on the page, so the window stays where it is.";
    case "unsure":
      return `Not predicted: ${CAUSES[landing.cause ?? ""] ?? "the page moves in its own way"}. Try it.`;
    default:
      return "Not measured yet in this window.";
  }
}

export function toneOf(landing: LandingView): Tone {
  if (landing.verdict === "nowhere" || landing.verdict === "unseen") return "wrong";
  return landing.trouble || landing.verdict === "unsure" ? "wait" : "good";
}

/** Where a landing leads, in its words. */
export function goalOf(landing: LandingView): string {
  if (landing.to_section === null)
    return landing.to_page === landing.page ? `#${landing.fragment}` : `${landing.to_page}#${landing.fragment}`;
  const place = landing.to_section >= 0 ? landing.to_text : landing.to_top ? "the top" : `#${landing.fragment}`;
  return landing.to_page === landing.page ? place : `${landing.to_page}: ${place}`;
}

const KINDS: Record<string, string> = {
  mail: "A mail address. The reader's mail program opens; here nothing does.",
  phone: "A telephone number. It is not dialled here.",
  outside: "Out of the site, so it is not opened here.",
  file: "A file of the site, which a reader's browser shows or saves. It is not opened here.",
  other: "Not an address of a page. It is not opened here.",
  none: "No address at all: it leads nowhere.",
};

/** What a link leads to, and whether that is there. */
export function aboutLink(link: LinkView): string {
  const lost =
    link.resolves === false
      ? link.kind === "placeholder"
        ? " A placeholder: its address was never filled in."
        : " Nothing is there."
      : "";
  if (link.to_text && link.kind !== "file")
    return `${link.address} → ${link.to_top ? "top of " : ""}“${link.to_text}”${lost}`;
  return `${link.address}${lost || ` ${KINDS[link.kind] ?? ""}`}`;
}
