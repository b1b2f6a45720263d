import { describe, expect, it } from "vitest";
import { linkTo } from "./carry";

describe("a section dragged onto the source", () => {
  it("is a link to it, its words and identifier safe to write", () => {
    expect(linkTo({ identifier: "fire", text: "Fire & <ash>" })).toBe('<a href="#fire">Fire &amp; &lt;ash></a>');
    expect(linkTo({ identifier: 'a"b', text: "x" })).toBe('<a href="#a%22b">x</a>');
  });
});
