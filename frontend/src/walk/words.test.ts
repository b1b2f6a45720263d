import { expect, test } from "vitest";
import type { LandingView, LinkView } from "../api/client";
import { aboutLink, goalOf, sentenceOf, toneOf, verdictOf } from "./words";

const landing = (verdict: string, more: Partial<LandingView> = {}) =>
  ({
    verdict,
    page: "a.html",
    to_page: "a.html",
    fragment: "tea",
    to_section: 1,
    to_text: "Tea",
    short: 240.4,
    covered: 12,
    bar: "nav.top",
    bar_bottom: 48,
    was_seen: false,
    trouble: false,
    cause: null,
    ...more,
  }) as LandingView;

test.each([
  ["lands", "lands", "Lands at the top of the window."],
  [
    "short",
    "240 px too low",
    "Lands 240 px below the top: the page ends too soon. 240 px of room below would let it come up.",
  ],
  ["covered", "covered, 12 px", "12 px of its first line are under nav.top, which ends 48 px down the window."],
  ["in-view", "in view already", "Was in view already, so following it shows nothing new."],
  ["nowhere", "leads nowhere", "a.html has no target “tea”."],
  ["unseen", "not on the page", "What it leads to takes no room on the page, so the window stays where it is."],
  ["unmeasured", "not measured", "Not measured yet in this window."],
])("%s is described in a few words and in a sentence", (verdict, words, sentence) => {
  expect(verdictOf(landing(verdict))).toBe(words);
  expect(sentenceOf(landing(verdict))).toBe(sentence);
});

test("a landing that is not predicted tells why", () => {
  expect(sentenceOf(landing("unsure", { cause: "boxed" }))).toContain("in a box that scrolls by itself");
  expect(sentenceOf(landing("unsure", { cause: "snaps" }))).toContain("snaps");
  expect(sentenceOf(landing("lands", { was_seen: true }))).toContain("in view before");
});

test("what wants mending is told from what is wrong and from what is well", () => {
  expect(
    [
      landing("lands"),
      landing("short", { trouble: true }),
      landing("short"),
      landing("nowhere"),
      landing("unsure"),
    ].map(toneOf),
  ).toEqual(["good", "wait", "good", "wrong", "wait"]);
});

test("a goal is named by its title, with its page where that is another one", () => {
  expect(goalOf(landing("lands"))).toBe("Tea");
  expect(goalOf(landing("lands", { to_section: -1, to_top: true }))).toBe("the top");
  expect(goalOf(landing("lands", { to_section: -1 }))).toBe("#tea");
  expect(goalOf(landing("lands", { to_page: "b.html" }))).toBe("b.html: Tea");
  expect(goalOf(landing("nowhere", { to_section: null }))).toBe("#tea");
});

const link = (more: Partial<LinkView>) =>
  ({
    kind: "fragment",
    resolves: true,
    address: "a.html#tea",
    to_text: "Tea",
    to_section: 1,
    to_page: "a.html",
    ...more,
  }) as LinkView;

test.each([
  [link({}), "a.html#tea → “Tea”"],
  [link({ to_section: -1, to_top: true, address: "a.html" }), "a.html → top of “Tea”"],
  [link({ resolves: false, to_text: "" }), "a.html#tea Nothing is there."],
  [
    link({ kind: "placeholder", resolves: false, address: "#", to_text: "" }),
    "# A placeholder: its address was never filled in.",
  ],
  [
    link({ kind: "mail", resolves: null, address: "mailto:x@example.org", to_text: "" }),
    "mailto:x@example.org A mail address. The reader's mail program opens; here nothing does.",
  ],
  [
    link({ kind: "file", address: "m.pdf", to_text: "m.pdf" }),
    "m.pdf A file of the site, which a reader's browser shows or saves. It is not opened here.",
  ],
])("what a link leads to is told", (found, words) => {
  expect(aboutLink(found)).toBe(words);
});
