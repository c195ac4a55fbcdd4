import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { recalled, storedMelody } from "../analysis";
import { melodyOf } from "../score";
import { tuneOf } from "../../testing/abc";
import { askedNotes } from "./asked";

const tune = tuneOf("|:A2|d2fd Adfd|e2ge Bege|d2fd Adfa|gfed B2:|", { key: "D" });
const stored = storedMelody(melodyOf(tune));
const best = (text: string) => {
  const found = askedNotes(text).map((notes) => recalled(stored, notes));
  return found.includes(0) ? 0 : found.find((f) => f !== undefined);
};

describe("a few notes find a tune", () => {
  it.each([
    ["letters of its key", "d f d A d f d", 0],
    ["letters run together", "dfdAdfd", 0],
    ["letters with signs", "D F# D A D F# D", 0],
    ["another key", "g b g d g b g", 0],
    ["syllables", "re fa re la re fa re", 0],
    ["degrees of the scale", "1 3 1 5 1 3 1", 0],
    ["string and finger", "A: 3 E: 1 A: 3 0 3 E: 1", 0],
    ["frets of a mandolin", "A: 5 E: 2 A: 5 0 5", 0],
    ["with bar lines", "d f d | A d f d |", 0],
    ["one wrong note", "d f d A d e d", 1],
    ["a wrong first note", "e f d A d f d", 1],
    ["one note missing", "d f d A f d", 1],
    ["one note too many", "d f d A d d f d", 1],
    ["two wrong notes", "d f c A d b d", undefined],
    ["too few notes", "d f d", undefined],
    ["no notes", "hello there", undefined],
    ["nothing", "", undefined],
  ])("%s", (_, text, found) => expect(best(text)).toBe(found));
  it("every stretch of a tune is found in it, in any key, and with any one note changed", () => {
    const notes = melodyOf(tune);
    fc.assert(
      fc.property(
        fc.nat(notes.length - 8),
        fc.integer({ min: -6, max: 6 }),
        fc.nat(7),
        fc.integer({ min: 1, max: 11 }),
        (from, by, wrong, off) => {
          const asked = notes.slice(from, from + 8).map((n) => n + by);
          expect(recalled(stored, asked)).toBe(0);
          const changed = asked.map((n, i) => (i === wrong ? n + off : n));
          expect(recalled(stored, changed)).not.toBeUndefined();
        },
      ),
    );
  });
});
