/** What was typed in a source and not saved, kept in the browser so that closing the tab loses nothing. */

export interface KeptDraft {
  text: string;
  revision: string; // of the page that it was typed on
  at: string; // when, as an ISO date
}

const keyOf = (site: string, path: string) => `signpost-draft:${site}:${path}`;

/** Keep a draft. Where the browser has no room for it, the draft stays on the screen alone. */
export function keepDraft(site: string, path: string, revision: string, text: string): void {
  const kept: KeptDraft = { text, revision, at: new Date().toISOString() };
  try {
    localStorage.setItem(keyOf(site, path), JSON.stringify(kept));
  } catch {
    localStorage.removeItem(keyOf(site, path)); // half of a text would be worse than none
  }
}

/** Return the draft that was kept of a page, or null. */
export function keptDraft(site: string, path: string): KeptDraft | null {
  const found = localStorage.getItem(keyOf(site, path));
  if (found === null) return null;
  try {
    const kept = JSON.parse(found) as Partial<KeptDraft>;
    return typeof kept.text === "string"
      ? { text: kept.text, revision: kept.revision ?? "", at: kept.at ?? "" }
      : null;
  } catch {
    return null;
  }
}

export function forgetDraft(site: string, path: string): void {
  localStorage.removeItem(keyOf(site, path));
}
