import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { tuneOf } from "../../testing/abc";
import { INSTRUMENTS, instrument, LEVELS, rangeOf } from "../instruments";
import { lineNotes, places } from "../score";
import { midi } from "../theory";
import { blown } from ".";

const on = (name: string) => instrument(name)!;
const made = (name: string, abc: string, key = "D") => blown(places(tuneOf(abc, { key })), on(name), "Leading");

describe("without strings", () => {
  test.each([
    ["whistle", "DEFG ABcd|", "xxxxxx xxxxxo xxxxoo xxxooo xxoooo xooooo oooooo xxxxxx+"],
    ["whistle", "=c2 ^G2 d4|", "oxxooo xxhooo xxxxxx+"],
    ["C whistle", "CDEF G4|", "xxxxxx xxxxxo xxxxoo xxxooo xxoooo"],
  ])("the holes of the %s: %s", (name, abc, want) => {
    const key = name === "C whistle" ? "C" : "D";
    expect(
      made(name, abc, key)
        .strokes.map((s) => s.way.holes)
        .join(" "),
    ).toBe(want);
  });
  test.each([
    ["button accordion D/G", "D2F2 A4|", "D push D push D push"],
    ["button accordion D/G", "G2B2 d4|", "G push G push G push"],
    ["button accordion B/C", "D2F2 A4|", "C pull B push C pull"],
  ])("the %s turns its bellows as seldom as it can: %s", (name, abc, want) => {
    const said = made(name, abc).strokes.map((s) => `${s.way.button?.[0]} ${s.way.bellows}`);
    expect(said.join(" ")).toBe(want);
  });
  it("names what a box does not have, and plays the rest", () => {
    const { leftOut, strokes } = made("button accordion D/G", "D2=F2 G2A2|");
    expect(leftOut).toEqual([
      "F4 in bar 1 is not played: the button accordion D/G does not have it here. Take another key.",
    ]);
    expect(strokes).toHaveLength(3);
  });
  it("plays every note it has, in range, at exact prices, on any tune at any level", () => {
    const blownOnes = INSTRUMENTS.filter((i) => i.strings.length === 0);
    const notes = fc.array(fc.constantFrom("D", "E", "F", "G", "A", "B", "c", "d", "=c", "^G", "f"), {
      minLength: 1,
      maxLength: 12,
    });
    fc.assert(
      fc.property(fc.constantFrom(...blownOnes), fc.constantFrom(...LEVELS), notes, (own, level, abc) => {
        const from = places(tuneOf(`${abc.join(" ")}|`, { key: "D" }));
        const { strokes, shift, leftOut, total } = blown(from, own, level);
        const { lowest, highest } = rangeOf(own, level);
        const written = lineNotes(from).map((n) => [n.at, midi(n.pitches.at(-1)!) + shift].join());
        for (const s of strokes) {
          expect(written).toContain([s.at, s.noteNumber].join());
          expect(s.noteNumber >= lowest && s.noteNumber <= highest).toBe(true);
          for (const a of s.alternatives) expect(a.cost).toBeGreaterThanOrEqual(0);
        }
        expect(strokes.length < written.length).toBe(leftOut.length > 0);
        expect(total).toBeGreaterThanOrEqual(0);
      }),
    );
  });
});
