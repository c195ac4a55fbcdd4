import { describe, expect, it, test } from "vitest";
import { tuneOf } from "../../testing/abc";
import { findForm } from "../analysis";
import { places } from "../score";
import { chord, type Key } from "../theory";
import { leadIns } from "./closes";
import { candidate } from "./costs";
import { functionOf } from "./explain";
import { segments } from "./segments";
import { isReal, namesOf, raisedSeventh, spellingCosts } from "./spelled";

const cutOf = (music: string, key = "D") => {
  const tune = tuneOf(music, { key });
  const from = places(tune);
  const ends = new Set(findForm(tune, from).phrases.map((p) => p.to));
  return { cut: segments(from, ends), keys: [tune.key] };
};

describe("the leading note of a minor key", () => {
  test.each([
    ["A", "minor", "G#"],
    ["E", "minor", "D#"],
    ["D", "dorian", "C#"],
    ["G", "minor", "F#"],
    ["C", "minor", "B"],
    ["F", "minor", "E"],
    ["F#", "minor", "E#"],
    ["B", "phrygian", "A#"],
    ["D", "major", undefined],
    ["A", "mixolydian", undefined],
  ] as const)("%s %s: %s", (tonic, mode, leading) => {
    expect(raisedSeventh({ tonic, mode })).toBe(leading);
  });
});

describe("notes that are heard as harmony", () => {
  it("are on the beat, long, or go nowhere by step; those that pass off the beat are not", () => {
    const { cut } = cutOf("d2^de f2a2|");
    const all = cut.flatMap((s) => s.notes.map((n) => [n.timed.event.pitches[0]!.step, isReal(n, s)]));
    expect(all).toEqual([
      ["D", true],
      ["D", true],
      ["E", true],
      ["F", true],
      ["A", true],
    ]);
    const { cut: run } = cutOf("d/e/f/g/ a2 a4|");
    expect(run[0]!.notes.map((n) => isReal(n, run[0]!))).toEqual([true, false, false, false]);
    expect([...namesOf(run, 0)].sort()).toEqual(["A", "D"]);
  });
});

describe("what the melody's spelling costs a chord", () => {
  const costs = (music: string, symbol: string, key = "D") => {
    const { cut, keys } = cutOf(music, key);
    const state = candidate(chord(symbol), keys[0] as Key, true);
    return spellingCosts(cut, keys).map((c) => cut.map((_, i) => (c.at(i, state) === 0 ? "-" : "x")).join(""));
  };
  test.each([
    // Music, chord, key, where it is denied, where its leading note is missed: a sign for every beat.
    ["=f2a2 =c'2a2|", "D", "D", "xxxx", "----"],
    ["=f2a2 =c'2a2|", "Dm", "D", "----", "----"],
    ["f2a2 d2f2|", "D", "D", "----", "----"],
    ["^c4 A4|", "D7", "G", "xx--", "----"],
    ["^c4 A4|", "A7", "G", "----", "----"],
    ["^G4 B4|", "G", "Amin", "xx--", "xx--"],
    ["^G4 B4|", "E", "Amin", "----", "----"],
    ["^G4 B4|", "Am", "Amin", "----", "xx--"],
    ["G4 B4|", "G", "Amin", "----", "----"],
  ])("%s under %s in %s", (music, symbol, key, denied, leading) => {
    expect(costs(music, symbol, key)).toEqual([denied, leading]);
  });
});

describe("functions by name", () => {
  test.each([
    ["D", "D", "major", "the tonic"],
    ["A7", "D", "major", "the dominant"],
    ["Am", "D", "mixolydian", "the minor dominant"],
    ["G", "D", "major", "the subdominant"],
    ["Bm", "D", "major", "the relative minor"],
    ["C", "A", "minor", "the relative major"],
    ["C", "D", "mixolydian", "the flat seventh"],
    ["Em", "D", "major", "the chord on the second degree"],
    ["F#m", "D", "major", "the chord on the third degree"],
    ["F", "A", "minor", "the chord on the sixth degree"],
  ] as const)("%s in %s %s is %s", (symbol, tonic, mode, words) => {
    expect(functionOf(symbol, { tonic, mode })).toBe(words);
  });
});

it("a lead-in is the last beat of a line with nothing but short notes, while the tune goes on", () => {
  const { cut } = cutOf("d4 e4|f4 g4|a4 f4|d6 AB|d4 e4|f4 g4|a4 f4|d6 AB|");
  expect(leadIns(cut).flatMap((led, i) => (led ? [i] : []))).toEqual([15]);
});
