import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { tuneOf } from "../../testing/abc";
import { INSTRUMENTS, instrument, type Level, LEVELS } from "../instruments";
import { lineNotes, places } from "../score";
import { midi, type Mode } from "../theory";
import { arrange, settingsFor, withCapo } from ".";

const TUNES = {
  A: ["A2cA eAcA|B2dB e4|", "A E D"],
  D: ["F2AF dFAF|G2BG d4|", "D G A"],
  G: ["G2BG dGBG|A2cA d4|", "G D C"],
  Bb: ["B2dB fBdB|c2ec f4|", "Bb F Eb"],
} as const;
const settings = (name: string, tonic: keyof typeof TUNES, level: Level = "Fluent") => {
  const [abc, symbols] = TUNES[tonic];
  const on = instrument(name)!;
  return settingsFor({
    places: places(tuneOf(abc, { key: tonic })),
    instrument: on,
    key: { tonic, mode: "major" as Mode },
    symbols: symbols.split(" "),
    level,
    shift: on.transposition,
  });
};

describe("where a tune lies best, in the key of the class", () => {
  test.each([
    ["guitar", "A", "EADGBE", 0],
    ["guitar", "D", "EADGBE", 0],
    ["guitar", "Bb", "EADGBE", 1],
    ["banjo", "G", "GDGBD", 0],
    ["banjo", "A", "GDGBD", 2],
    ["mountain dulcimer", "D", "DAD", 0],
    ["mountain dulcimer", "G", "DAD", 3],
    ["mountain dulcimer", "A", "DAD", 4],
    ["mandolin", "G", "GDAE", 0],
    ["ukulele", "G", "GCEA", 0],
  ] as const)("on the %s in %s: %s, capo %i", (name, tonic, tuning, capo) => {
    expect(settings(name, tonic)[0]).toMatchObject({ tuning, capo });
  });
  it("says why: the shapes, what lies across, the basses", () => {
    expect(settings("banjo", "A")[0]!.words).toBe(
      "You play G shapes; no chord lies across the strings; tonic and dominant are open basses.",
    );
  });
  it("offers nothing that lacks a note, the best first, and nothing without frets", () => {
    for (const tonic of ["A", "D", "G", "Bb"] as const)
      for (const name of ["guitar", "banjo", "mountain dulcimer", "ukulele"]) {
        const found = settings(name, tonic);
        expect(found.map((s) => s.cost)).toEqual(found.map((s) => s.cost).sort((a, b) => a - b));
        for (const { tuning, capo } of found.slice(0, 4)) {
          const on = instrument(name)!;
          const { strings } = on.tunings.find((t) => t.name === tuning)!;
          const own = places(tuneOf(TUNES[tonic][0], { key: tonic }));
          const playable = arrange({
            places: own,
            instrument: withCapo({ ...on, strings }, capo),
            kind: "melody",
            level: "Fluent",
            bpm: 90,
          })!;
          expect(playable.leftOut).toEqual([]);
          expect(playable.strokes).toHaveLength(lineNotes(own).length);
        }
      }
    expect(settings("fiddle", "D")).toEqual([]);
  });
});

describe("a capo on any fretted instrument", () => {
  const FRETTED = INSTRUMENTS.filter((i) => i.capo);
  it("sounds what the fret behind it sounded, and frets count from it", () => {
    fc.assert(
      fc.property(fc.constantFrom(...FRETTED), fc.integer({ min: 1, max: 4 }), (on, capo) => {
        const fret = on.frets!.find((f) => f.label === String(capo))!;
        const raised = withCapo(on, capo);
        expect(raised.frets![0]).toEqual({ label: "0", semitones: 0 });
        for (const [i, s] of raised.strings.entries())
          for (const { label, semitones } of raised.frets!) {
            const whole = label.replace(/^\d+/, (n) => String(Number(n) + capo));
            const before = on.frets!.find((f) => f.label === whole)!;
            expect(midi(s.open) + semitones).toBe(midi(on.strings[i]!.open) + before.semitones);
          }
        expect(midi(raised.lowest) - midi(on.lowest)).toBe(fret.semitones);
      }),
    );
  });
  it("on level after level a tune never loses a setting by knowing more", () => {
    const counts = LEVELS.map((l) => settings("guitar", "D", l).length);
    expect(counts).toEqual([...counts].sort((a, b) => a - b));
  });
});
