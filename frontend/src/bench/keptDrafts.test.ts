import { beforeEach, expect, test, vi } from "vitest";
import { WINDOW } from "../api/author";
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
    key: (at: number) => [...kept.keys()][at] ?? null,
    get length() {
      return kept.size;
    },
  });
});

test("a draft is kept by its page, until it is forgotten", () => {
  keepDraft("site", "a.html", "r1", "<p>typed\n");
  expect(keptDraft("site", "a.html")).toMatchObject({ text: "<p>typed\n", base: "r1" });
  expect(keptDraft("site", "b.html")).toBeNull();
  forgetDraft("site", "a.html");
  expect(keptDraft("site", "a.html")).toBeNull();
});

test("windows keep theirs apart, and the last is offered whichever had it", () => {
  keepDraft("site", "a.html", "r1", "mine");
  const other = "signpost-draft:site:a.html:other";
  kept.set(other, JSON.stringify({ text: "theirs", base: "r2", at: "2999-01-01" }));
  expect(keptDraft("site", "a.html")).toEqual({ key: other, text: "theirs", base: "r2", at: "2999-01-01" });
  keepDraft("site", "a.html", "r1", "mine again");
  expect(JSON.parse(kept.get(other)!)).toMatchObject({ text: "theirs" });
  forgetDraft("site", "a.html", other);
  expect(keptDraft("site", "a.html")).toMatchObject({
    key: `signpost-draft:site:a.html:${WINDOW}`,
    text: "mine again",
  });
  kept.set(
    "signpost-draft:site:a.html",
    JSON.stringify({ text: "of an earlier version", revision: "r0", at: "3000" }),
  );
  expect(keptDraft("site", "a.html")).toMatchObject({ text: "of an earlier version", base: "r0" });
});

test("a browser that keeps nothing has kept nothing", () => {
  vi.stubGlobal("localStorage", {
    get length(): number {
      throw new DOMException("denied", "SecurityError");
    },
    removeItem: () => {
      throw new DOMException("denied", "SecurityError");
    },
  });
  expect(keptDraft("site", "a.html")).toBeNull();
  keepDraft("site", "a.html", "r1", "mine");
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
