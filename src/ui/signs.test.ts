import { describe, expect, test } from "vitest";
import { signedText } from "./signs";

describe("sentences with names of notes and chords", () => {
  test.each([
    ["D, A and F# belong to it; Bb passes.", "D, A and F♯ belong to it; B♭ passes."],
    ["F#m7 would take C# and leave Ab outside.", "F♯m7 would take C♯ and leave A♭ outside."],
    ["D/F# and Bbmaj7, then Ebm.", "D/F♯ and B♭maj7, then E♭m."],
    ["A bar of Ab: Because bells began.", "A bar of A♭: Because bells began."],
    ["A belongs, Both Ebb and C## do.", "A belongs, Both E♭♭ and C♯♯ do."],
  ])("%s", (plain, shown) => {
    expect(signedText(plain)).toBe(shown);
  });
});
