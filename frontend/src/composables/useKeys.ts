/** The keys of a screen: one list of them, with what each does, where it works, and how it is shown. */
import { useEventListener, useStorage } from "@vueuse/core";
import { shallowRef } from "vue";

/** Where a key works: anywhere, or anywhere but in a field or the source, where it would be typed. */
export type Scope = "anywhere" | "not-typing";

export interface KeyBinding {
  keys: readonly string[]; // names as `keyName` gives them; any of them does it
  words: string; // what it does, for the help; "" for one that is not listed there
  group: string; // what the help lists it under
  shown?: string; // stands in the help for it and those behind it: "1 to 6"
  scope: Scope;
  run: (event: KeyboardEvent) => void | boolean; // false lets the browser have the key as well
}

export const MAC = typeof navigator !== "undefined" && /Mac|iPhone|iPad/.test(navigator.platform);

/** Return a key press as a name such as "Mod+Shift+z", "Alt+1" or "j". Mod is Ctrl, or Command on a Mac. */
export function keyName(event: KeyboardEvent): string {
  const mod = MAC ? event.metaKey : event.ctrlKey;
  const plain = event.altKey ? /^(?:Digit(\d)|Key([A-Z]))$/.exec(event.code) : null; // Alt types other signs on a Mac
  const named = plain ? (plain[1] ?? plain[2] ?? "") : event.key;
  const key = named.length === 1 ? named.toLowerCase() : named;
  const shift = event.shiftKey && (key.length > 1 || mod || /[a-z]/.test(key));
  return `${mod ? "Mod+" : ""}${event.altKey ? "Alt+" : ""}${shift ? "Shift+" : ""}${key}`;
}

const SIGNS: Record<string, string> = {
  ArrowUp: "↑",
  ArrowDown: "↓",
  ArrowLeft: "←",
  ArrowRight: "→",
  Escape: "Esc",
  " ": "Space",
};

/** Return a key's name as it is on the keyboard: "Ctrl Enter", or "⌘ Enter" on a Mac. */
export function shownKey(name: string, mac = MAC): string {
  const parts = name.endsWith("++") ? [...name.slice(0, -2).split("+"), "+"] : name.split("+");
  const shown = parts.map((part) => {
    if (part === "Mod") return mac ? "⌘" : "Ctrl";
    if (part === "Alt") return mac ? "⌥" : "Alt";
    if (part === "Shift") return mac ? "⇧" : "Shift";
    return SIGNS[part] ?? (part.length === 1 && parts.length > 1 ? part.toUpperCase() : part);
  });
  return shown.join(" ");
}

export const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName)) &&
  !(target instanceof HTMLInputElement && ["checkbox", "radio", "button"].includes(target.type));

/** Whether keys without Ctrl or Alt do something by themselves (WCAG 2.1.4). */
export const letterKeys = useStorage("signpost-letter-keys", true);

/** The keys of the screen that is open, for its help. */
export const shownBindings = shallowRef<readonly KeyBinding[]>([]);

/** Whether a key is one sign typed alone, which an author may switch off. */
const isSingle = (name: string) => [...name.replace(/^Shift\+/, "")].length === 1;

/** Return what a key press does where it is pressed; undefined for nothing. */
export function bindingOf(
  bindings: readonly KeyBinding[],
  name: string,
  typing: boolean,
  singles: boolean,
): KeyBinding | undefined {
  return bindings.find(
    (binding) =>
      binding.keys.includes(name) && (binding.scope === "anywhere" || !typing) && (singles || !isSingle(name)),
  );
}

const DIALOG = ".el-overlay:not([class*='leave-active']):not([style*='display: none']) [role=dialog]";

/** What closes with Esc by itself, dialogs aside: menus, popovers, lists of a select, the source's own panels. */
const CLOSABLE =
  ".el-popper[aria-hidden='false']:not([role='tooltip']):not(.is-dark), .cm-tooltip-autocomplete, .cm-editor .cm-search";

/** Press the main button of the dialog on top, if the key asks for that. */
function pressInDialog(dialog: Element, event: KeyboardEvent): void {
  if (keyName(event) !== "Mod+Enter") return;
  const main = [...dialog.querySelectorAll<HTMLButtonElement>(".el-button--primary:not(:disabled)")].at(-1);
  if (!main) return;
  event.preventDefault();
  event.stopPropagation();
  main.click();
}

/** Listen for keys while the component is there; while a dialog is open, they are its own. */
export function useKeys(bindings: readonly KeyBinding[]): void {
  shownBindings.value = bindings;
  let taken: KeyboardEvent | null = null; // what something that was open had for itself, though it may be closed by now
  const listen = (event: KeyboardEvent, scope: Scope) => {
    if (event.defaultPrevented || taken === event) return;
    const dialog = [...document.querySelectorAll(DIALOG)].at(-1);
    if (dialog) {
      taken = event;
      if (scope === "anywhere") pressInDialog(dialog, event);
      return;
    }
    if (event.key === "Escape" && document.querySelector(CLOSABLE)) {
      taken = event;
      return;
    }
    const found = bindingOf(bindings, keyName(event), isTyping(event.target), letterKeys.value);
    if (found?.scope !== scope || found.run(event) === false) return;
    event.preventDefault();
    if (scope === "anywhere") event.stopPropagation(); // whatever has the keyboard does not get it
  };
  // keys that work anywhere are taken before the part that has the keyboard, the others after it
  useEventListener(window, "keydown", (event: KeyboardEvent) => listen(event, "anywhere"), { capture: true });
  useEventListener(window, "keydown", (event: KeyboardEvent) => listen(event, "not-typing"));
}
