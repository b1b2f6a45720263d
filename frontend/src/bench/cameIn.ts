/** Lines that came in from elsewhere, marked in the source until its author has seen them. */
import { StateEffect, StateField, type Extension, type Text } from "@codemirror/state";
import { Decoration, EditorView, type DecorationSet } from "@codemirror/view";
import { differences } from "./differences";

const setMarks = StateEffect.define<DecorationSet>();
const CAME = Decoration.line({ class: "cm-came" });
const GONE = Decoration.line({ class: "cm-came-gone" });

const marks = StateField.define<DecorationSet>({
  create: () => Decoration.none,
  update(known, transaction) {
    const set = transaction.effects.find((effect) => effect.is(setMarks));
    return set ? set.value : known.map(transaction.changes);
  },
  provide: (field) => EditorView.decorations.from(field),
});

/** Return the 1-based lines of a text that another one did not have, and those behind which lines are gone. */
export function linesThatCame(before: string, doc: Text): { came: number[]; gone: number[] } {
  const came = new Set<number>();
  const gone = new Set<number>();
  for (const { fromB, toB } of differences(before, doc.toString())) {
    if (fromB === toB) gone.add(doc.lineAt(fromB).number);
    for (let at = doc.lineAt(fromB).number; fromB < toB && at <= doc.lineAt(toB).number; at++) {
      if (doc.line(at).from < toB) came.add(at);
    }
  }
  return { came: [...came], gone: [...gone].filter((line) => !came.has(line)) };
}

/** Mark what is new in the editor's text; returns on how many lines. */
export function markCame(view: EditorView, before: string): number {
  const { doc } = view.state;
  const { came, gone } = linesThatCame(before, doc);
  const ranges = [
    ...came.map((line) => CAME.range(doc.line(line).from)),
    ...gone.map((line) => GONE.range(doc.line(line).from)),
  ];
  view.dispatch({ effects: setMarks.of(Decoration.set(ranges, true)) });
  return ranges.length;
}

export const forgetCame = (view: EditorView): void => view.dispatch({ effects: setMarks.of(Decoration.none) });

export const markingCame = (): Extension => [
  marks,
  EditorView.theme({
    ".cm-came": { boxShadow: "inset 3px 0 0 var(--wait)", backgroundColor: "var(--wait-wash)" },
    ".cm-came-gone": { boxShadow: "inset 0 2px 0 var(--wait)" },
  }),
];
