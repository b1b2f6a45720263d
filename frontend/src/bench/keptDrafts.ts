/**
 * What was typed in a source and not saved, kept in the browser so that closing the tab loses nothing. Each window has
 * its own, so that two of them do not write over each other's.
 */
import { WINDOW } from "../api/author";

export interface KeptDraft {
  key: string; // under which it is kept
  text: string;
  base: string; // the revision of the page that it was typed on
  at: string; // when, as an ISO date
}

const keysOf = (site: string, path: string) => `signpost-draft:${site}:${path}`;
const keyOf = (site: string, path: string) => `${keysOf(site, path)}:${WINDOW}`;

/** Keep a draft. Where the browser has no room for it, the draft stays on the screen alone. */
export function keepDraft(site: string, path: string, base: string, text: string): void {
  try {
    localStorage.setItem(keyOf(site, path), JSON.stringify({ text, base, at: new Date().toISOString() }));
  } catch {
    forgetDraft(site, path); // half of a text would be worse than none
  }
}

/** Return the draft that was kept of a page last, by whatever window, or null. */
export function keptDraft(site: string, path: string): KeptDraft | null {
  let found: KeptDraft | null = null;
  try {
    const start = keysOf(site, path);
    for (let at = 0; at < localStorage.length; at++) {
      const key = localStorage.key(at) ?? "";
      if (key !== start && !key.startsWith(`${start}:`)) continue;
      const one = read(key);
      if (one && (!found || one.at > found.at)) found = one;
    }
  } catch {
    // nothing can be kept here, so nothing was
  }
  return found;
}

function read(key: string): KeptDraft | null {
  try {
    const kept = JSON.parse(localStorage.getItem(key) ?? "") as { [name: string]: unknown };
    if (typeof kept.text !== "string") return null;
    const base = typeof kept.base === "string" ? kept.base : kept.revision; // as earlier versions called it
    return { key, text: kept.text, base: String(base ?? ""), at: String(kept.at ?? "") };
  } catch {
    return null;
  }
}

/** Forget the draft of this window, or the one that is kept under a key. */
export function forgetDraft(site: string, path: string, key = keyOf(site, path)): void {
  try {
    localStorage.removeItem(key);
  } catch {
    // nothing can be kept here
  }
}
