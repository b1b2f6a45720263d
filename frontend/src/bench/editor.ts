/** The source editor: CodeMirror with our margin, search and completions. */
import { autocompletion, closeBrackets, closeBracketsKeymap, completionKeymap } from "@codemirror/autocomplete";
import { defaultKeymap, history, historyKeymap, indentWithTab } from "@codemirror/commands";
import { html } from "@codemirror/lang-html";
import {
  bracketMatching,
  codeFolding,
  foldGutter,
  foldKeymap,
  HighlightStyle,
  indentOnInput,
  indentUnit,
  syntaxHighlighting,
} from "@codemirror/language";
import { setDiagnostics } from "@codemirror/lint";
import { highlightSelectionMatches, searchKeymap } from "@codemirror/search";
import { Compartment, EditorState, type Extension } from "@codemirror/state";
import {
  drawSelection,
  EditorView,
  highlightActiveLine,
  highlightActiveLineGutter,
  keymap,
  lineNumbers,
  type ViewUpdate,
} from "@codemirror/view";
import { tags } from "@lezer/highlight";
import type { FindingView } from "../api/client";
import { offsetOf, placeOf } from "../text/positions";
import { forgetCame, markCame, markingCame } from "./cameIn";
import { completingAddresses, type FindAddresses } from "./completions";
import { diagnosticsOf, type FixFinding } from "./diagnostics";
import { differences } from "./differences";
import { searching } from "./searchPanel";
import { completingSnippets, insertSnippet, PLAIN_HAND, type Hand } from "./snippets";
import { sectionAt, sectionMargin, showSections, type MarginSection } from "./sections";

export interface EditorOptions {
  findAddresses: FindAddresses;
  path: () => string;
  onType: (text: string) => void;
  onSave: () => void;
  onSection: (index: number) => void; // the cursor is in another section, or the margin was clicked
  onCursor: (line: number) => void; // 1-based
  onScroll: (line: number, cursorSeen: boolean) => void; // the first line in sight; told when its author scrolls
}

export interface SourceEditor {
  /**
   * Show another text, or the same one read again; the cursor stays near where it was. Where it came from elsewhere,
   * what is new is marked; returns on how many lines, or null where the text is there already.
   */
  setText(text: string, fromElsewhere?: boolean): number | null;
  /** Forget which lines came from elsewhere. */
  forgetCame(): void;
  text(): string;
  setLocked(locked: boolean): void;
  /** Write as the author does what is put in. */
  setHand(hand: Hand): void;
  setSections(sections: readonly MarginSection[], chosen: number): void;
  /** Underline what is wrong; `fix` is asked for one of them. */
  setFindings(findings: readonly FindingView[], fix: FixFinding): void;
  /** Bring a 1-based line to sight; `focus` also puts the cursor there. */
  goTo(line: number, column?: number, focus?: boolean): void;
  /** Scroll a 1-based line to the top; the cursor stays where it is. */
  scrollTo(line: number): void;
  /** Where the cursor is; both 1-based, the column in code points. */
  place(): { line: number; column: number };
  /** What is selected, or the cursor alone; lines and columns in code points, 1-based. */
  selection(): { line: number; column: number; end_line: number; end_column: number };
  /** The characters that are selected. */
  selected(): string;
  /** Put a snippet in the place of what is selected. */
  insert(template: string): void;
  focus(): void;
  destroy(): void;
}

const colours = HighlightStyle.define([
  { tag: [tags.tagName, tags.angleBracket], color: "var(--post)" },
  { tag: tags.attributeName, color: "var(--wait)" },
  { tag: [tags.attributeValue, tags.string], color: "var(--plate)" },
  {
    tag: [tags.comment, tags.processingInstruction, tags.documentMeta],
    color: "var(--ink-soft)",
    fontStyle: "italic",
  },
  { tag: tags.character, color: "var(--wrong)" },
  { tag: tags.heading, fontWeight: "600" },
  { tag: [tags.keyword, tags.propertyName], color: "var(--post)" },
]);

const look = EditorView.theme({
  "&": {
    height: "100%",
    fontSize: "var(--source-type, 12.5px)",
    backgroundColor: "var(--sheet)",
    color: "var(--ink)",
  },
  "&.cm-focused": { outline: "none" },
  ".cm-scroller": { fontFamily: "var(--code)", lineHeight: "1.55", fontVariantLigatures: "none" },
  ".cm-gutters": {
    backgroundColor: "var(--sheet-sunk)",
    color: "var(--ink-soft)",
    border: "0",
    borderRight: "1px solid var(--line)",
  },
  ".cm-sections .cm-gutterElement": { padding: "0 3px", minWidth: "24px", cursor: "pointer" },
  ".cm-in-section": { boxShadow: "inset -3px 0 0 var(--post)" },
  ".cm-section": { fontFamily: "var(--ui)", fontSize: "11px", fontWeight: "650", color: "var(--post)" },
  ".cm-activeLine, .cm-activeLineGutter": {
    backgroundColor: "color-mix(in srgb, var(--post-wash) 45%, transparent)",
  },
  ".cm-cursor": { borderLeftColor: "var(--ink)" },
  "&.cm-focused > .cm-scroller > .cm-selectionLayer .cm-selectionBackground, .cm-selectionBackground": {
    backgroundColor: "var(--road-4)",
  },
  ".cm-matchingBracket, &.cm-focused .cm-matchingBracket": {
    backgroundColor: "var(--plate-wash)",
    outline: "1px solid var(--plate)",
  },
  ".cm-nonmatchingBracket, &.cm-focused .cm-nonmatchingBracket": { backgroundColor: "var(--wrong-wash)" },
  ".cm-searchMatch": { backgroundColor: "var(--wait-wash)", outline: "1px solid var(--wait)" },
  ".cm-scope": { backgroundColor: "var(--plate-wash)" },
  ".cm-panels": { backgroundColor: "var(--sheet-sunk)", color: "var(--ink)", borderBottom: "1px solid var(--line)" },
  ".cm-find": { padding: "6px 8px", fontFamily: "var(--ui)", fontSize: "13px" },
  ".cm-find .row": { display: "flex", flexWrap: "wrap", gap: "6px", alignItems: "center", padding: "2px 0" },
  ".cm-lintRange-error": { backgroundImage: "none", textDecoration: "underline wavy var(--wrong) 1px" },
  ".cm-lintRange-warning": { backgroundImage: "none", textDecoration: "underline wavy var(--wait) 1px" },
  ".cm-lintRange-info": { backgroundImage: "none", textDecoration: "underline dotted var(--ink-soft) 1px" },
  ".cm-diagnostic": { fontFamily: "var(--ui)", fontSize: "13px", padding: "6px 10px", maxWidth: "46ch", border: "0" },
  ".cm-diagnosticText": { display: "block" },
  ".cm-diagnosticSource": { opacity: "1", color: "var(--ink-soft)", fontSize: "12px" },
  ".cm-diagnosticAction": {
    margin: "6px 6px 0 0",
    padding: "2px 9px",
    border: "1px solid var(--line-strong)",
    borderRadius: "5px",
    backgroundColor: "var(--sheet)",
    color: "var(--ink)",
    font: "600 12.5px var(--ui)",
  },
  ".cm-tooltip": { backgroundColor: "var(--sheet)", border: "1px solid var(--line-strong)", color: "var(--ink)" },
  ".cm-tooltip-autocomplete ul li[aria-selected]": { backgroundColor: "var(--post)", color: "var(--post-ink)" },
});

/** Keys that mean something on the whole desk, so that the editor leaves them alone. */
const DESK_KEYS = new Set(["Mod-Enter", "Alt-l", "Mod-i", "Alt-i", "Alt-n"]);

/** Return an editor within `parent`. */
export function createEditor(parent: HTMLElement, options: EditorOptions): SourceEditor {
  const locked = new Compartment();
  const indenting = new Compartment();
  let hand = PLAIN_HAND;
  let sections: readonly MarginSection[] = [];
  let silent = false; // while we change the text or the cursor ourselves
  let here = -2;

  const follow = (update: ViewUpdate) => {
    if (silent) return;
    if (update.docChanged) options.onType(update.state.doc.toString());
    if (update.selectionSet || update.docChanged) {
      options.onCursor(update.state.doc.lineAt(update.state.selection.main.head).number);
      const section = sectionAt(sections, update.state.doc, update.state.selection.main.head)?.index ?? -1;
      if (section !== here && update.view.hasFocus) options.onSection((here = section));
    }
  };
  /** Tell the first line in sight, where its author scrolled there. */
  const tellTop = (view: EditorView) => {
    const top = view.scrollDOM.getBoundingClientRect().top - view.documentTop;
    const first = view.lineBlockAtHeight(Math.max(top, 0)).from;
    const last = view.lineBlockAtHeight(Math.max(top, 0) + view.scrollDOM.clientHeight).to;
    const cursor = view.state.selection.main.head;
    options.onScroll(view.state.doc.lineAt(first).number, cursor >= first && cursor <= last);
  };
  const save = () => {
    options.onSave();
    return true;
  };
  const extensions: Extension[] = [
    lineNumbers(),
    codeFolding({ placeholderText: "…" }),
    foldGutter({ openText: "⌄", closedText: "›" }),
    sectionMargin((index) => options.onSection((here = index))),
    history(),
    drawSelection(),
    indentOnInput(),
    bracketMatching(),
    closeBrackets(),
    highlightActiveLine(),
    highlightActiveLineGutter(),
    highlightSelectionMatches(),
    EditorView.lineWrapping,
    html({ autoCloseTags: false }),
    EditorView.domEventHandlers({ scroll: (_event, view) => tellTop(view) }),
    autocompletion(),
    completingAddresses(options.findAddresses, options.path),
    completingSnippets(() => hand),
    searching(),
    markingCame(),
    syntaxHighlighting(colours),
    look,
    locked.of(EditorState.readOnly.of(false)),
    indenting.of(indentUnit.of(hand.indent)),
    EditorView.contentAttributes.of({ "aria-label": "Source of the page", spellcheck: "false", tabindex: "0" }),
    EditorView.updateListener.of(follow),
    keymap.of([
      { key: "Mod-s", run: save, preventDefault: true },
      ...closeBracketsKeymap,
      ...searchKeymap,
      ...completionKeymap,
      ...historyKeymap,
      ...foldKeymap,
      ...defaultKeymap.filter((binding) => !DESK_KEYS.has(binding.key ?? "")),
      indentWithTab,
    ]),
  ];
  const view = new EditorView({ parent, state: EditorState.create({ extensions }) });
  const quietly = (work: () => void) => {
    silent = true;
    work();
    silent = false;
  };

  return {
    setText(text, fromElsewhere = false) {
      const old = view.state.doc.toString();
      if (old === text) return null;
      const top = view.scrollDOM.scrollTop;
      const fresh = old === "";
      let marked = 0;
      quietly(() => {
        // what stays is not touched, so that the cursor stays with its words
        const changes = fresh
          ? [{ from: 0, to: 0, insert: text }]
          : differences(old, text).map(({ fromA, toA, fromB, toB }) => ({
              from: fromA,
              to: toA,
              insert: text.slice(fromB, toB),
            }));
        view.dispatch({ changes, ...(fresh ? { selection: { anchor: 0 } } : {}) });
        if (fromElsewhere && !fresh) marked = markCame(view, old);
        else forgetCame(view);
      });
      view.scrollDOM.scrollTop = fresh ? 0 : top;
      return marked;
    },
    forgetCame: () => quietly(() => forgetCame(view)),
    text: () => view.state.doc.toString(),
    setHand: (found) => {
      hand = found;
      view.dispatch({ effects: indenting.reconfigure(indentUnit.of(found.indent || PLAIN_HAND.indent)) });
    },
    setLocked: (yes) => view.dispatch({ effects: locked.reconfigure(EditorState.readOnly.of(yes)) }),
    setSections(next, chosen) {
      sections = next;
      quietly(() => showSections(view, next, chosen));
    },
    setFindings: (findings, fix) =>
      quietly(() => view.dispatch(setDiagnostics(view.state, diagnosticsOf(view.state.doc, findings, fix)))),
    goTo(line, column = 1, focus = false) {
      const at = offsetOf(view.state.doc, line, column);
      quietly(() => {
        view.dispatch({
          selection: { anchor: at },
          effects: EditorView.scrollIntoView(at, { y: "start", yMargin: 24 }),
        });
      });
      here = sectionAt(sections, view.state.doc, at)?.index ?? -1;
      if (focus) view.focus();
    },
    scrollTo(line) {
      const at = view.state.doc.line(Math.min(Math.max(line, 1), view.state.doc.lines)).from;
      view.dispatch({ effects: EditorView.scrollIntoView(at, { y: "start" }) });
    },
    place: () => placeOf(view.state.doc, view.state.selection.main.head),
    selection: () => {
      const { from, to } = view.state.selection.main;
      const [start, end] = [placeOf(view.state.doc, from), placeOf(view.state.doc, to)];
      return { ...start, end_line: end.line, end_column: end.column };
    },
    selected: () => view.state.sliceDoc(view.state.selection.main.from, view.state.selection.main.to),
    insert: (template) => insertSnippet(view, template),
    focus: () => view.focus(),
    destroy: () => view.destroy(),
  };
}
