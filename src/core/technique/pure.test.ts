import { describe, expect, it, test } from "vitest";
import { tuneOf } from "../../testing/abc";
import { instrument } from "../instruments";
import { places } from "../score";
import { midi, pitchName } from "../theory";
import { arrange, boardOf, threeToFind } from ".";
import { pureInterval, pureWords } from "./pure";

describe("pure intervals", () => {
  // By the ratios: 1200 log2(5/4) is 386.3, fourteen under the tempered third, and so on.
  test.each([
    [3, 6 / 5],
    [4, 5 / 4],
    [5, 4 / 3],
    [7, 3 / 2],
    [8, 8 / 5],
    [9, 5 / 3],
    [12, 2],
  ])("%d semitones are pure at the ratio %d", (semitones, ratio) => {
    const { cents } = pureInterval(60, 60 + semitones)!;
    expect(cents).toBe(Math.round(1200 * Math.log2(ratio) - 100 * semitones));
  });
  it("says what the finger does: thirds low, sixths low, fourths and fifths still", () => {
    expect(pureWords(62, 66)).toBe("A major third: the upper note a little low, 14 cents, until it rings still.");
    expect(pureWords(62, 69)).toBe("A fifth: let it ring still.");
    expect(pureWords(62, 71)).toContain("low, 16 cents");
    expect(pureWords(62, 63)).toBe("");
  });
  it("a tenth is a third", () => expect(pureInterval(62, 78)?.name).toBe("major third"));
});

describe("three double stops to find before the tune", () => {
  const board = boardOf(instrument("fiddle")!, "Moving")!;
  test.each([
    ["D", "major"],
    ["G", "major"],
    ["A", "mixolydian"],
    ["E", "dorian"],
  ] as const)("in %s %s: an open string and a finger on the next, both in the key", (tonic, mode) => {
    const found = threeToFind(board, { tonic, mode });
    expect(found).toHaveLength(3);
    for (const { low, high, strings, words } of found) {
      expect(strings[0] - strings[1]).toBe(1);
      expect(midi(high)).toBeGreaterThan(midi(low));
      expect(words).toMatch(/^An? (minor|major|fourth|fifth|octave|unison)/);
    }
  });
  it("begins with those that hold the tonic and want the most care", () => {
    const [first] = threeToFind(board, { tonic: "D", mode: "major" });
    expect([pitchName(first!.low), pitchName(first!.high)].some((p) => p.startsWith("D"))).toBe(true);
  });
});

describe("double stops of a bowed tune", () => {
  it("say their interval, and how to make it ring", () => {
    const { strokes } = arrange({
      places: places(tuneOf("F2A2 d2F2|", { key: "D" })),
      instrument: instrument("fiddle")!,
      kind: "double stops",
      level: "Moving",
      bpm: 80,
      chords: [{ bar: 0, at: 0, symbol: "D" }],
    })!;
    const doubled = strokes.filter((s) => s.notes.length === 2);
    expect(doubled.length).toBeGreaterThan(1);
    for (const { reason } of doubled) expect(reason).toMatch(/An? (minor|major|fourth|fifth|octave|unison)/);
  });
});
