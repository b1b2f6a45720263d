import { beforeEach, expect, test, vi } from "vitest";
import { forgetDraft, keepDraft, keptDraft } from "./keptDrafts";

const kept = new Map<string, string>();

beforeEach(() => {
  kept.clear();
  vi.stubGlobal("localStorage", {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => {
      if (value.length > 1000) throw new DOMException("full", "QuotaExceededError");
      kept.set(key, value);
    },
    removeItem: (key: string) => kept.delete(key),
  });
});

test("a draft is kept by its page, until it is forgotten", () => {
  keepDraft("site", "a.html", "r1", "<p>typed\n");
  expect(keptDraft("site", "a.html")).toMatchObject({ text: "<p>typed\n", revision: "r1" });
  expect(keptDraft("site", "b.html")).toBeNull();
  forgetDraft("site", "a.html");
  expect(keptDraft("site", "a.html")).toBeNull();
});

test("where there is no room, no older text is left that would be taken for it", () => {
  keepDraft("site", "a.html", "r1", "short");
  keepDraft("site", "a.html", "r1", "x".repeat(2000));
  expect(keptDraft("site", "a.html")).toBeNull();
});

test.each(["", "{", "[]", '{"text": 5}', "null"])("what cannot be a draft (%s) is none", (value) => {
  kept.set("signpost-draft:site:a.html", value);
  expect(keptDraft("site", "a.html")).toBeNull();
});
