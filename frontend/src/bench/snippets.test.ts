import { expect, test, vi } from "vitest";

vi.mock("@vueuse/core", () => ({ useStorage: (_key: string, value: unknown) => ({ value }) }));
const { inHand, listOf, literally, snippetsFor, SNIPPETS, tableOf } = await import("./snippets");

const plain = (template: string) => template.replace(/\$\{[^}]*\}/g, "");

test("a list has as many items as are asked for, within reason", () => {
  expect(listOf(4).match(/<li>/g)).toHaveLength(4);
  expect(listOf(0).match(/<li>/g)).toHaveLength(1);
  expect(listOf(10_000).match(/<li>/g)).toHaveLength(50);
});

test("a table has its heads in the first row", () => {
  const table = tableOf(3, 2);
  expect(table.match(/<tr>/g)).toHaveLength(3);
  expect(table.match(/<th>/g)).toHaveLength(2);
  expect(table.match(/<td>/g)).toHaveLength(4);
});

test.each([
  ["list of 5", "list of 5 items"],
  ["list 7", "list of 7 items"],
  ["table of 2 x 4", "table of 2 rows and 4 columns"],
  ["table 2 by 4", "table of 2 rows and 4 columns"],
  ["pict", "picture with caption"],
  ["sample", "code sample"],
])("%s is found by its plain name", (typed, name) => {
  expect(snippetsFor(typed, [])[0]?.name).toBe(name);
});

test("the author's own come first", () => {
  const own = [{ name: "code of the week", template: "<p>x</p>" }];
  expect(snippetsFor("code", own).map((one) => one.name)).toEqual(["code of the week", "code sample"]);
});

test("every snippet closes what it opens", () => {
  for (const { template } of SNIPPETS) {
    const opened = [...plain(template).matchAll(/<(\w+)/g)].map((found) => found[1]).filter((tag) => tag !== "img");
    const closed = [...plain(template).matchAll(/<\/(\w+)/g)].map((found) => found[1]);
    expect(opened.sort()).toEqual(closed.sort());
  }
});

test("markup that is kept as a snippet says nothing to the editor", () => {
  expect(literally("a ${b} #{c} \\d")).toBe("a \\${b} \\#{c} \\\\d");
});

test.each([
  ["<ul>\n\t<li>${item 1}</li>\n</ul>", { indent: "\t", capitals: false }, "<ul>\n\t<li>${item 1}</li>\n</ul>"],
  ["<ul>\n\t<li>${item 1}</li>\n</ul>", { indent: "", capitals: true }, "<UL>\n<LI>${item 1}</LI>\n</UL>"],
  ['<img src="${address}" alt="${what}">', { indent: "  ", capitals: true }, '<IMG SRC="${address}" ALT="${what}">'],
])("what is put in is written as its author writes: %s", (template, hand, written) => {
  expect(inHand(template, hand)).toBe(written);
});
