/** The page's sections in the editor's margin, and the chosen one beside its lines. */
import { StateEffect, StateField, type Extension, type Text } from "@codemirror/state";
import { EditorView, gutter, GutterMarker } from "@codemirror/view";

export interface MarginSection {
  index: number;
  level: number;
  text: string;
  line: number; // 1-based
  endLine: number;
}

interface Margin {
  sections: readonly MarginSection[];
  byLine: ReadonlyMap<number, MarginSection>;
  chosen: number;
}

const setMargin = StateEffect.define<{ sections: readonly MarginSection[]; chosen: number }>();

const marginField = StateField.define<Margin>({
  create: () => ({ sections: [], byLine: new Map(), chosen: -1 }),
  update(margin, transaction) {
    for (const effect of transaction.effects)
      if (effect.is(setMargin)) {
        const { sections, chosen } = effect.value;
        return { sections, chosen, byLine: new Map(sections.map((section) => [section.line, section])) };
      }
    return margin;
  },
});

class SectionMarker extends GutterMarker {
  constructor(
    readonly section: MarginSection | null,
    readonly inside: boolean,
  ) {
    super();
    this.elementClass = inside ? "cm-in-section" : "";
  }

  override eq(other: SectionMarker): boolean {
    return (
      other.section?.index === this.section?.index &&
      other.section?.level === this.section?.level &&
      other.inside === this.inside
    );
  }

  override toDOM(): Node {
    if (!this.section) return document.createTextNode("");
    const mark = document.createElement("span");
    mark.className = `cm-section cm-section-${Math.min(this.section.level, 4)}`;
    mark.textContent = `h${this.section.level}`;
    mark.title = this.section.text;
    return mark;
  }
}

/** Return the margin; `choose` is called with the section that is clicked. */
export function sectionMargin(choose: (index: number) => void): Extension {
  return [
    marginField,
    gutter({
      class: "cm-sections",
      lineMarker(view, block) {
        const margin = view.state.field(marginField);
        const line = view.state.doc.lineAt(block.from).number;
        const chosen = margin.sections[margin.chosen];
        const inside = chosen !== undefined && line >= chosen.line && line <= chosen.endLine;
        const section = margin.byLine.get(line) ?? null;
        return section || inside ? new SectionMarker(section, inside) : null;
      },
      lineMarkerChange: (update) => update.startState.field(marginField) !== update.state.field(marginField),
      initialSpacer: () => new SectionMarker({ index: -1, level: 6, text: "", line: 0, endLine: 0 }, false),
      domEventHandlers: {
        mousedown(view, block) {
          const section = sectionAt(view.state.field(marginField).sections, view.state.doc, block.from);
          if (section) choose(section.index);
          return Boolean(section);
        },
      },
    }),
  ];
}

/** Show these sections in the margin. */
export function showSections(view: EditorView, sections: readonly MarginSection[], chosen: number): void {
  view.dispatch({ effects: setMargin.of({ sections, chosen }) });
}

/** Return the innermost section that contains an offset. */
export function sectionAt(sections: readonly MarginSection[], text: Text, offset: number): MarginSection | undefined {
  const line = text.lineAt(offset).number;
  return sections.findLast((section) => section.line <= line);
}
