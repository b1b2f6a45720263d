/** Pieces of markup that an author often types, put in by their plain names; and the author's own. */
import { snippet, snippetCompletion, type Completion, type CompletionContext } from "@codemirror/autocomplete";
import { htmlLanguage } from "@codemirror/lang-html";
import { syntaxTree } from "@codemirror/language";
import type { Extension } from "@codemirror/state";
import type { EditorView } from "@codemirror/view";
import { useStorage } from "@vueuse/core";

export interface Snippet {
  name: string;
  template: string; // with ${…} where the author goes on typing
}

const KEY = "signpost-snippets";
/** How many characters of a name are typed before it is offered. */
const LEAST = 3;
/** How many items, rows or columns one snippet may have. */
const MOST = 50;

/** The author's own snippets, kept in this browser. */
export const ownSnippets = useStorage<Snippet[]>(KEY, []);

const repeat = (count: number, line: (at: number) => string) =>
  Array.from({ length: Math.min(Math.max(count, 1), MOST) }, (_, at) => line(at + 1)).join("\n");

/** Return a list of so many items. */
export const listOf = (items: number): string => `<ul>\n${repeat(items, (at) => `\t<li>\${item ${at}}</li>`)}\n</ul>`;

/** Return a table of so many rows and columns, its first row being the heads. */
export function tableOf(rows: number, columns: number): string {
  const row = (tag: string, what: string, at: number) =>
    `\t<tr>${repeat(columns, (column) => `<${tag}>\${${what} ${at}.${column}}</${tag}>`).replaceAll("\n", "")}</tr>`;
  return `<table>\n${row("th", "head", 1)}\n${repeat(rows - 1 || 1, (at) => row("td", "cell", at))}\n</table>`;
}

export const SNIPPETS: readonly Snippet[] = [
  { name: "section with heading", template: "<h2>${heading}</h2>\n<p>${text}</p>" },
  { name: "list of 3 items", template: listOf(3) },
  { name: "table of 3 rows and 3 columns", template: tableOf(3, 3) },
  {
    name: "picture with caption",
    template:
      '<figure>\n\t<img src="${address}" alt="${what it shows}">\n\t<figcaption>${caption}</figcaption>\n</figure>',
  },
  { name: "code sample", template: "<pre><code>${code}</code></pre>" },
];

/** Return the snippets that a name may mean; "list of 5" and "table of 2 x 4" say how large. */
export function snippetsFor(typed: string, own: readonly Snippet[] = ownSnippets.value): Snippet[] {
  const name = typed.toLowerCase();
  const list = /^list(?: of)? (\d+)/.exec(name);
  const table = /^table(?: of)? (\d+)\s*(?:x|×|by|rows and)\s*(\d+)/.exec(name);
  const sized: Snippet[] = [];
  if (list) sized.push({ name: `list of ${list[1]} items`, template: listOf(Number(list[1])) });
  if (table)
    sized.push({
      name: `table of ${table[1]} rows and ${table[2]} columns`,
      template: tableOf(Number(table[1]), Number(table[2])),
    });
  return [...sized, ...[...own, ...SNIPPETS].filter((one) => one.name.toLowerCase().includes(name))];
}

/** How an author writes: with what nested markup is indented, and whether tags are in capitals. */
export interface Hand {
  indent: string;
  capitals: boolean;
}

/** How markup is written where nothing is known of the author. */
export const PLAIN_HAND: Hand = { indent: "  ", capitals: false };

/** Return a template of ours as the author would write it. */
export function inHand(template: string, hand: Hand): string {
  const cased = (markup: string) => markup.replace(/^<\/?[a-z0-9]+|\b[a-z]+(?==")/g, (name) => name.toUpperCase());
  const written = hand.capitals ? template.replace(/<[^<>]*>/g, cased) : template;
  return hand.indent ? written : written.replaceAll("\t", "");
}

/** Return markup as a snippet that puts in just these characters. */
export const literally = (markup: string): string => markup.replace(/[\\#$]\{|\\/g, (sign) => `\\${sign}`);

/** Return completion of the snippets' names where text is typed, never within a tag. */
export function completingSnippets(hand: () => Hand): Extension {
  const complete = (context: CompletionContext) => {
    const word = context.matchBefore(/[a-z][a-z0-9 ×]*$/i);
    const inTag = /Tag|Attribute|Comment|Script|Style/.test(
      syntaxTree(context.state).resolveInner(context.pos, -1).name,
    );
    if (inTag || (!context.explicit && (!word || word.text.length < LEAST))) return null;
    const last = word?.text.slice(word.text.search(/(?:list|table)[a-z0-9 ×]*$|[a-z]+$/i)) ?? "";
    const options = snippetsFor(last.trim()).map((one): Completion =>
      snippetCompletion(ownSnippets.value.includes(one) ? one.template : inHand(one.template, hand()), {
        label: one.name,
        type: "text",
        detail: "snippet",
      }),
    );
    return options.length ? { from: context.pos - last.length, options, filter: false } : null;
  };
  return htmlLanguage.data.of({ autocomplete: complete });
}

/** Put a snippet in the place of what is selected. */
export function insertSnippet(view: EditorView, template: string): void {
  const { from, to } = view.state.selection.main;
  snippet(template)(view, null, from, to);
  view.focus();
}
