/** Keys that work anywhere on a screen, but not while something is being typed. */
import { useEventListener, useStorage } from "@vueuse/core";

/** What a key does; return false to let the browser have it as well. */
export type KeyActions = Record<string, (event: KeyboardEvent) => void | boolean>;

const MAC = typeof navigator !== "undefined" && /Mac|iPhone|iPad/.test(navigator.platform);

/** Return a key press as a name such as "Mod+Shift+z", "Alt+1" or "j". Mod is Ctrl, or Command on a Mac. */
export function keyName(event: KeyboardEvent): string {
  const mod = MAC ? event.metaKey : event.ctrlKey;
  const named = event.altKey && /^Digit\d$/.test(event.code) ? event.code.slice(5) : event.key;
  const key = named.length === 1 ? named.toLowerCase() : named;
  const shift = event.shiftKey && (key.length > 1 || mod || /[a-z]/.test(key));
  return `${mod ? "Mod+" : ""}${event.altKey ? "Alt+" : ""}${shift ? "Shift+" : ""}${key}`;
}

const isTyping = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName)) &&
  !(target instanceof HTMLInputElement && ["checkbox", "radio", "button"].includes(target.type));

/** Whether keys without Ctrl or Alt do something by themselves (WCAG 2.1.4). */
export const letterKeys = useStorage("signpost-letter-keys", true);

/** Listen for keys while the component is there. `always` also work while typing; those of an open dialog go first. */
export function useKeys(always: KeyActions, elsewhere: KeyActions): void {
  const listen = (event: KeyboardEvent) => {
    if (event.defaultPrevented || document.querySelector(".el-overlay:not([style*='display: none']) [role=dialog]"))
      return;
    const name = keyName(event);
    const silent =
      isTyping(event.target) ||
      (!letterKeys.value && [...event.key].length === 1 && !event.altKey && !event.ctrlKey && !event.metaKey);
    const action = always[name] ?? (silent ? undefined : elsewhere[name]);
    if (action && action(event) !== false) event.preventDefault();
  };
  useEventListener(window, "keydown", listen);
}
