import { describe, expect, test } from "vitest";
import { bindingOf, keyName, shownKey, type KeyBinding } from "./useKeys";

const press = (more: Partial<KeyboardEvent>) => ({ key: "", code: "", ...more }) as KeyboardEvent;

test.each([
  [{ key: "j" }, "j"],
  [{ key: "N", shiftKey: true }, "Shift+n"],
  [{ key: "?", shiftKey: true }, "?"],
  [{ key: "z", ctrlKey: true }, "Mod+z"],
  [{ key: "Z", ctrlKey: true, shiftKey: true }, "Mod+Shift+z"],
  [{ key: "¡", code: "Digit1", altKey: true }, "Alt+1"],
  [{ key: "¬", code: "KeyL", altKey: true }, "Alt+l"],
  [{ key: "ArrowUp", shiftKey: true }, "Shift+ArrowUp"],
  [{ key: "F6" }, "F6"],
  [{ key: "Enter", ctrlKey: true }, "Mod+Enter"],
])("%o is named", (event, name) => {
  expect(keyName(press(event))).toBe(name);
});

test.each([
  ["Mod+Enter", false, "Ctrl Enter"],
  ["Mod+Enter", true, "⌘ Enter"],
  ["Alt+l", true, "⌥ L"],
  ["Shift+ArrowUp", false, "Shift ↑"],
  ["Mod+Shift+z", false, "Ctrl Shift Z"],
  ["j", false, "j"],
  ["Escape", true, "Esc"],
])("%s is shown as on the keyboard", (name, mac, shown) => {
  expect(shownKey(name, mac)).toBe(shown);
});

describe("what a key does", () => {
  const run = () => {};
  const bindings: KeyBinding[] = [
    { keys: ["l"], words: "link", group: "", scope: "not-typing", run },
    { keys: ["Mod+Enter"], words: "apply", group: "", scope: "anywhere", run },
    { keys: ["Shift+n"], words: "previous", group: "", scope: "not-typing", run },
    { keys: ["Escape"], words: "discard", group: "", scope: "not-typing", run },
  ];
  const does = (name: string, typing: boolean, singles = true) => bindingOf(bindings, name, typing, singles)?.words;

  test("letters do nothing where they are typed", () => {
    expect(does("l", false)).toBe("link");
    expect(does("l", true)).toBeUndefined();
    expect(does("Mod+Enter", true)).toBe("apply");
  });

  test("single keys can be switched off, others stay", () => {
    expect(does("l", false, false)).toBeUndefined();
    expect(does("Shift+n", false, false)).toBeUndefined();
    expect(does("Escape", false, false)).toBe("discard");
    expect(does("Mod+Enter", false, false)).toBe("apply");
  });
});
