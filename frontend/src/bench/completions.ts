/** Addresses completed while they are typed: the site's pages and files, and the identifiers on them. */
import type { Completion, CompletionContext, CompletionResult } from "@codemirror/autocomplete";
import { htmlLanguage } from "@codemirror/lang-html";
import type { Extension } from "@codemirror/state";
import type { PageIndex } from "../api/client";

const ADDRESS = /\b(href|src|action|data)\s*=\s*(["']?)([^"'<>\s]*)$/i;
const REFERENCE = /\b(for|headers|list|form|aria-[a-z]+)\s*=\s*["']?([^"'<>]*)$/i;
/** How far back an attribute may begin, in characters. */
const LOOK_BACK = 400;

/** What an address may become that is typed so far: the page that is edited, then others. */
export type FindAddresses = (typed: string) => Promise<readonly PageIndex[]>;

/** Return completion of addresses on the page at `path`. */
export function completingAddresses(find: FindAddresses, path: () => string): Extension {
  const complete = async (context: CompletionContext): Promise<CompletionResult | null> => {
    const before = context.state.sliceDoc(Math.max(0, context.pos - LOOK_BACK), context.pos);
    const tag = before.lastIndexOf("<");
    if (tag < 0 || before.indexOf(">", tag) >= 0) return null;
    const address = ADDRESS.exec(before.slice(tag));
    if (address) return completeAddress(context.pos, address[3] ?? "", await find(address[3] ?? ""), path());
    const reference = REFERENCE.exec(before.slice(tag));
    if (!reference) return null;
    const word = /\S*$/.exec(reference[2] ?? "")?.[0] ?? "";
    const own = (await find("#")).find((entry) => entry.path === path());
    return { from: context.pos - word.length, options: identifiers(own, ""), validFor: /^\S*$/ };
  };
  return htmlLanguage.data.of({ autocomplete: complete });
}

function completeAddress(at: number, typed: string, index: readonly PageIndex[], path: string): CompletionResult {
  const from = at - typed.length;
  const hash = typed.indexOf("#");
  const validFor = /^[^"'<>\s]*$/;
  if (hash >= 0) {
    const before = typed.slice(0, hash);
    const page = index.find((entry) => (before ? entry.address === before : entry.path === path));
    return { from, options: identifiers(page, `${before}#`), validFor };
  }
  const own = index.find((entry) => entry.path === path);
  const files = index.map((entry): Completion => ({
    label: entry.address,
    type: "file",
    detail: entry.path === path ? "this page" : "",
  }));
  // asked again with each letter, for the list is only the beginning of what a large site has
  return { from, options: [...identifiers(own, "#"), ...files] };
}

function identifiers(page: PageIndex | undefined, before: string): Completion[] {
  return (page?.identifiers ?? []).map((name) => ({ label: before + name, type: "identifier" }));
}
