import { describe, expect, it } from "vitest";
import { decoded } from "./percent";

describe("decoded", () => {
  it.each([
    ["a%20b", "a b"],
    ["caf%C3%A9", "café"],
    ["100%", "100%"],
    ["100%25%", "100%%"],
    ["%zz%20", "%zz "],
    ["%ff", "%ff"],
    ["", ""],
  ])("reads %s as %s", (text, plain) => expect(decoded(text)).toBe(plain));
});
