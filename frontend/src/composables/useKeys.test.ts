import { expect, test } from "vitest";
import { keyName } from "./useKeys";

const press = (key: string, more: Partial<KeyboardEvent> = {}) =>
  keyName({ key, code: "", ...more } as KeyboardEvent);

test.each([
  [press("j"), "j"],
  [press("J", { shiftKey: true }), "Shift+j"],
  [press("?", { shiftKey: true }), "?"],
  [press("z", { ctrlKey: true }), "Mod+z"],
  [press("Z", { ctrlKey: true, shiftKey: true }), "Mod+Shift+z"],
  [press("Enter", { ctrlKey: true }), "Mod+Enter"],
  [press("¡", { altKey: true, code: "Digit1" }), "Alt+1"],
  [press("F6"), "F6"],
])("a key press is called %s", (name, wanted) => {
  expect(name).toBe(wanted);
});
