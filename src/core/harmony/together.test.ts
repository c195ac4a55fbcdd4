import { describe, expect, it, test } from "vitest";
import { tuneOf } from "../../testing/abc";
import { analyse, strainKeys } from "../analysis";
import { deriveChords, fileLocks } from "../chords";
import { melodyStaff, places } from "../score";
import { midi } from "../theory";
import { rootBass, together } from ".";

const voice = (name: string, music: string) => ({ name, bars: melodyStaff(places(tuneOf(music)), name).bars });
const check = (a: string, b: string, octaves: string[] = []) =>
  together([voice("upper", a), voice("lower", b)], places(tuneOf(a)), octaves).map((f) => `${f.bar} ${f.what}`);

describe("voices together", () => {
  test.each([
    ["thirds are clean", "f4 g4|", "d4 e4|", []],
    ["a semitone on a beat", "d4 e4|", "^c4 c4|", ["0 semitone"]],
    ["a major seventh is the same rub", "d4 e4|", "^D4 c4|", ["0 semitone"]],
    ["off the beat it passes", "fd d2 d4|", "A^c d2 B4|", []],
    ["a tritone on a beat", "g4 f4|", "^c4 d4|", ["0 tritone"]],
    ["running fifths", "a4 b4|", "d4 e4|", ["0 running fifths"]],
    ["running octaves, twelfths apart too", "d4 e4|f8|", "D4 E4|A8|", ["0 running octaves"]],
    ["a held voice does not run", "a4 a4|", "d4 d4|", []],
    ["over a rest nothing runs", "a2z2 b4|", "d2z2 e4|", []],
  ] as [string, string, string, string[]][])("%s", (_, a, b, faults) => {
    expect(check(a, b)).toEqual(faults);
  });
  it("lets a voice run in octaves that is meant to", () => {
    expect(check("d4 e4|", "D4 E4|", ["lower"])).toEqual([]);
  });
  it("says each fault once a bar, in time order", () => {
    expect(check("d2d2d2d2|a4 b4|", "^c2^c2^c2^c2|d4 e4|")).toEqual(["0 semitone", "1 running fifths"]);
  });
  it("joins tied notes", () => {
    expect(check("a4-a4|", "d4 d4|")).toEqual([]);
  });
});

describe("a bass of roots", () => {
  const tune = tuneOf('A2|"D"d4 "G/B"g4|"Bb"f8|');
  const analysis = analyse(tune);
  const plan = deriveChords({
    places: analysis.places,
    phrases: analysis.form.phrases,
    keys: strainKeys(tune, analysis),
    locks: fileLocks(analysis.places),
  });
  it("holds each chord's root, or its slashed bass, from E2 up; the bare pickup rests", () => {
    const { bars } = rootBass(plan, analysis.places);
    expect(bars.map((b) => b.map((e) => e.pitches.map(midi)[0] ?? null))).toEqual([[null], [50, 47], [46]]);
    expect(bars.map((b) => b.reduce((sum, e) => sum + e.ticks, 0))).toEqual(analysis.places.map((p) => p.ticks));
  });
});
