import { CompletionContext, type CompletionResult, type CompletionSource } from "@codemirror/autocomplete";
import { html } from "@codemirror/lang-html";
import { EditorState } from "@codemirror/state";
import { expect, test } from "vitest";
import { completingAddresses } from "./completions";

const INDEX = [
  { path: "d/a.html", address: "a.html", identifiers: ["one", "two"] },
  { path: "b.html", address: "../b.html", identifiers: ["three"] },
  { path: "p.gif", address: "../p.gif", identifiers: [] },
];

async function complete(text: string): Promise<string[] | null> {
  const state = EditorState.create({
    doc: text,
    extensions: [
      html(),
      completingAddresses(
        async () => INDEX,
        () => "d/a.html",
      ),
    ],
  });
  const sources = state.languageDataAt<CompletionSource>("autocomplete", text.length);
  const context = new CompletionContext(state, text.length, true);
  for (const source of sources) {
    if (typeof source !== "function") continue;
    const found = (await source(context)) as CompletionResult | null;
    const labels = found?.options.map((option) => option.label) ?? [];
    if (labels.includes("#one") || labels.includes("../b.html#three") || labels.includes("one")) return labels;
  }
  return null;
}

test("an address is completed with identifiers of this page, then pages and files", async () => {
  expect(await complete('<a href="')).toEqual(["#one", "#two", "a.html", "../b.html", "../p.gif"]);
});

test("behind a hash come the identifiers of the page before it", async () => {
  expect(await complete('<a href="../b.html#')).toEqual(["../b.html#three"]);
  expect(await complete("<a href=#")).toEqual(["#one", "#two"]);
});

test("attributes that refer are completed with bare identifiers, word by word", async () => {
  expect(await complete('<p aria-labelledby="one ')).toEqual(["one", "two"]);
});

test("outside of a tag nothing of ours is offered", async () => {
  expect(await complete('<p title="x">href="')).toBeNull();
});
