import { expect, test } from "vitest";
import { readDiff } from "./diffLines";

const changedIn = (line: { pieces: { text: string; changed: boolean }[] }) =>
  line.pieces.filter((piece) => piece.changed).map((piece) => piece.text);

test("what changed within a line is marked on both sides", () => {
  const lines = readDiff(["@@ -1 +1 @@", "-<h2>Safety</h2>", '+<h2 id="safety">Safety</h2>', " <p>same</p>"]);
  expect(lines.map((line) => line.kind)).toEqual(["place", "removed", "added", "same"]);
  expect(changedIn(lines[1]!)).toEqual([]);
  expect(changedIn(lines[2]!)).toEqual([' id="safety"']);
});

test("no character is lost or added, whatever the lines are", () => {
  const texts = [
    "-",
    "+",
    "-a",
    "+",
    "-the quick brown fox",
    "+the slow brown dog",
    "-x\ty  ",
    "+x y",
    " ",
    "\\ No newline",
  ];
  const lines = readDiff(texts);
  expect(lines.map((line) => line.sign + line.pieces.map((piece) => piece.text).join(""))).toEqual(
    texts.map((text) => (text === " " ? " " : text)),
  );
});

test("lines that share hardly anything are not compared", () => {
  const [removed, added] = readDiff(["-completely different words", "+0123456789 9876543210 42"]);
  expect(changedIn(removed!)).toEqual([]);
  expect(changedIn(added!)).toEqual([]);
});

test("a run of removed lines is compared with the added run, line by line", () => {
  const lines = readDiff(["-<li>one</li>", "-<li>two</li>", "+<li>one!</li>", "+<li>two?</li>", "+<li>three</li>"]);
  expect(lines.map(changedIn)).toEqual([[], [], ["!"], ["?"], []]);
});
