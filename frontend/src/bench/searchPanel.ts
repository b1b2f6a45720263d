/** Search and replace in the source: plain or by pattern, everywhere or within what was selected. */
import {
  closeSearchPanel,
  findNext,
  findPrevious,
  getSearchQuery,
  replaceAll,
  replaceNext,
  search,
  SearchQuery,
  setSearchQuery,
} from "@codemirror/search";
import { StateEffect, StateField, type Extension } from "@codemirror/state";
import { Decoration, EditorView, runScopeHandlers, type Panel } from "@codemirror/view";

interface Range {
  from: number;
  to: number;
}

const setScope = StateEffect.define<Range | null>();

/** The stretch that the search is kept within; it moves with the text. */
const scopeField = StateField.define<Range | null>({
  create: () => null,
  update(scope, transaction) {
    for (const effect of transaction.effects) if (effect.is(setScope)) return effect.value;
    if (!scope || !transaction.docChanged) return scope;
    return { from: transaction.changes.mapPos(scope.from, -1), to: transaction.changes.mapPos(scope.to, 1) };
  },
  provide: (field) =>
    EditorView.decorations.from(field, (scope) =>
      scope && scope.from < scope.to
        ? Decoration.set(Decoration.mark({ class: "cm-scope" }).range(scope.from, scope.to))
        : Decoration.none,
    ),
});

/** Return search with our panel. */
export function searching(): Extension {
  return [scopeField, search({ top: true, createPanel })];
}

function element<K extends keyof HTMLElementTagNameMap>(
  tag: K,
  attributes: Record<string, string>,
  text = "",
): HTMLElementTagNameMap[K] {
  const made = document.createElement(tag);
  for (const [name, value] of Object.entries(attributes)) made.setAttribute(name, value);
  made.textContent = text;
  return made;
}

function createPanel(view: EditorView): Panel {
  const query = getSearchQuery(view.state);
  const find = element("input", {
    class: "field",
    "aria-label": "Search",
    placeholder: "Search",
    "main-field": "true",
  });
  const replace = element("input", { class: "field", "aria-label": "Replace with", placeholder: "Replace with" });
  const checkbox = (label: string, checked: boolean) => {
    const box = element("input", { type: "checkbox" });
    box.checked = checked;
    const holder = element("label", { class: "small" });
    holder.append(box, ` ${label}`);
    return { box, holder };
  };
  const letters = checkbox("capitals matter", query.caseSensitive);
  const pattern = checkbox("pattern", query.regexp);
  const within = checkbox("in the selection", false);
  const found = element("span", { class: "soft small", role: "status" });
  find.value = query.search;
  replace.value = query.replace;

  const commit = () => {
    const scoped = within.box.checked;
    const next = new SearchQuery({
      search: find.value,
      replace: replace.value,
      caseSensitive: letters.box.checked,
      regexp: pattern.box.checked,
      literal: !pattern.box.checked,
      test: scoped
        ? (_match, state, from, to) => {
            const scope = state.field(scopeField);
            return !scope || (from >= scope.from && to <= scope.to);
          }
        : undefined,
    });
    view.dispatch({ effects: setSearchQuery.of(next) });
    found.textContent = find.value ? (next.valid ? count(next) : "not a pattern") : "";
  };
  const count = (next: SearchQuery) => {
    let number = 0;
    const cursor = next.getCursor(view.state);
    while (number < 1000 && !cursor.next().done) number++;
    return number >= 1000 ? "1000 or more" : `${number} found`;
  };
  const scope = () => {
    const { from, to } = view.state.selection.main;
    const range = within.box.checked && from < to ? { from, to } : null;
    if (within.box.checked && !range) within.box.checked = false;
    view.dispatch({ effects: setScope.of(range) });
    commit();
  };
  const button = (label: string, run: (view: EditorView) => boolean) => {
    const made = element("button", { type: "button", class: "button" }, label);
    made.onclick = () => {
      run(view);
      commit();
    };
    return made;
  };
  for (const field of [find, replace]) field.oninput = commit;
  for (const option of [letters.box, pattern.box]) option.onchange = commit;
  within.box.onchange = scope;

  const dom = element("div", { class: "cm-find", role: "search" });
  const first = element("div", { class: "row" });
  first.append(find, button("Next", findNext), button("Previous", findPrevious), found);
  const second = element("div", { class: "row" });
  second.append(
    replace,
    button("Replace", replaceNext),
    button("Replace all", replaceAll),
    button("Close", closeSearchPanel),
  );
  const third = element("div", { class: "row" });
  third.append(letters.holder, pattern.holder, within.holder);
  dom.append(first, second, third);
  dom.onkeydown = (event) => {
    if (runScopeHandlers(view, event, "search-panel")) event.preventDefault();
    else if (event.key === "Enter" && event.target === find) {
      event.preventDefault();
      (event.shiftKey ? findPrevious : findNext)(view);
    } else if (event.key === "Enter" && event.target === replace) {
      event.preventDefault();
      replaceNext(view);
      commit();
    }
  };
  return {
    dom,
    top: true,
    mount: () => find.select(),
    destroy: () => queueMicrotask(() => view.dom.isConnected && view.dispatch({ effects: setScope.of(null) })),
  };
}
