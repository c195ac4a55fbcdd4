import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { spotsOf } from "./lines";

describe("a place in a text", () => {
  it("is told by line and column, as counting from the start tells it", () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom("a", "\n", "é", " "), { maxLength: 60 }), fc.nat(70), (letters, offset) => {
        const text = letters.join("");
        const before = text.slice(0, offset);
        const counted = { line: before.split("\n").length, column: before.length - before.lastIndexOf("\n") };
        expect(spotsOf(text)(offset)).toEqual(counted);
      }),
    );
  });
  it("before the text is its beginning", () => {
    expect(spotsOf("ab\nc")(-5)).toEqual({ line: 1, column: 1 });
  });
});
