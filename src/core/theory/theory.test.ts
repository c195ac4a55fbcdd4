import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { arbitraryKey } from "../../testing/arbitraryTune";
import {
  alterIn,
  chord,
  chordNoteName,
  chordWords,
  degreeOf,
  fifthsName,
  fifthsOf,
  inKey,
  intervalName,
  intervalNumber,
  midi,
  parseChord,
  parsePitch,
  pitchName,
  roman,
  scale,
  scaleStep,
  semitoneOf,
  signature,
  spellTonic,
  triadOn,
} from ".";

describe("pitch", () => {
  test.each([
    ["C4", 60],
    ["B3", 59],
    ["Cb4", 59],
    ["F#5", 78],
    ["A4", 69],
    ["B#3", 60],
    ["Ebb4", 62],
  ])("%s sounds as MIDI %i", (name, number) => {
    expect(midi(parsePitch(name))).toBe(number);
    expect(pitchName(parsePitch(name))).toBe(name);
  });
  it("says what it cannot read", () => {
    expect(() => parsePitch("H4")).toThrow(/"H4" is not a pitch/);
  });
  test.each([
    ["B4", "G4", 3, "third"],
    ["D5", "A4", 4, "fourth"],
    ["A4", "A4", 1, "unison"],
    ["C4", "C5", 8, "octave"],
    ["F4", "G#4", 2, "second"],
  ])("%s to %s is a %s", (a, b, number, name) => {
    expect(intervalNumber(parsePitch(a), parsePitch(b))).toBe(number);
    expect(intervalName(number)).toBe(name);
  });
});

describe("key", () => {
  test.each([
    ["D", "major", ["D", "E", "F#", "G", "A", "B", "C#"], 2],
    ["E", "dorian", ["E", "F#", "G", "A", "B", "C#", "D"], 2],
    ["A", "mixolydian", ["A", "B", "C#", "D", "E", "F#", "G"], 2],
    ["G", "minor", ["G", "A", "Bb", "C", "D", "Eb", "F"], -2],
    ["F", "lydian", ["F", "G", "A", "B", "C", "D", "E"], 0],
    ["E", "phrygian", ["E", "F", "G", "A", "B", "C", "D"], 0],
  ] as const)("%s %s", (tonic, mode, notes, signs) => {
    expect(scale({ tonic, mode })).toEqual(notes);
    expect(signature({ tonic, mode })).toBe(signs);
  });
  it("keeps extra steps of a signature", () => {
    const key = { tonic: "D", mode: "major", extra: { C: 0 } } as const;
    expect(scale(key)).toContain("C");
    expect(inKey(parsePitch("C#5"), key)).toBe(false);
  });
  test.each([
    ["B4", -2, "G4"],
    ["D4", -3, "A3"],
    ["C#5", 2, "E5"],
  ])("from %s by %i steps in D is %s", (from, steps, to) => {
    expect(pitchName(scaleStep(parsePitch(from), steps, { tonic: "D", mode: "major" }))).toBe(to);
  });
  it("names fifths both ways and tonics by the smaller signature", () => {
    for (let f = -12; f <= 12; f++) expect(fifthsOf(fifthsName(f))).toBe(f);
    expect(spellTonic(10, "major")).toBe("Bb");
    expect(spellTonic(6, "minor")).toBe("F#");
  });
  it("holds for every key: seven different letters, degrees in order, steps inside the key", () => {
    fc.assert(
      fc.property(arbitraryKey, (key) => {
        const notes = scale(key);
        expect(new Set(notes.map((n) => n[0])).size).toBe(7);
        notes.forEach((name, i) => {
          const pitch = parsePitch(`${name}4`);
          expect(degreeOf(pitch, key)).toBe(i + 1);
          expect(pitch.alter).toBe(alterIn(key, pitch.step));
          expect(inKey(scaleStep(pitch, -2, key), key)).toBe(true);
        });
      }),
    );
  });
});

describe("chord symbols", () => {
  test.each([
    ["Em", ["E", "G", "B"]],
    ["A7", ["A", "C#", "E", "G"]],
    ["D/F#", ["D", "F#", "A"]],
    ["Bb", ["Bb", "D", "F"]],
    ["F#m7", ["F#", "A", "C#", "E"]],
    ["G5", ["G", "D"]],
    ["Bdim", ["B", "D", "F"]],
    ["E♭", ["Eb", "G", "Bb"]],
    ["G-", ["G", "Bb", "D"]],
  ])("%s is %j", (symbol, notes) => {
    expect(parseChord(symbol)?.tones).toEqual(notes);
  });
  test.each(["", "slowly", "N.C.", "1.", "Fine", "H7", "<b>"])("%j is no chord", (text) => {
    expect(parseChord(text)).toBeNull();
  });
  test.each([
    ["G", "D", "major", "IV"],
    ["A7", "D", "major", "V7"],
    ["Em", "D", "major", "ii"],
    ["C", "D", "mixolydian", "bVII"],
    ["G", "E", "dorian", "bIII"],
    ["B7", "E", "minor", "V7"],
  ] as const)("%s in %s %s is %s", (symbol, tonic, mode, numeral) => {
    expect(roman(chord(symbol), { tonic, mode })).toBe(numeral);
  });
  it("names chord notes and reads itself aloud", () => {
    expect(chordNoteName(chord("A7"), semitoneOf("G"))).toBe("seventh");
    expect(chordNoteName(chord("A7"), semitoneOf("D"))).toBeUndefined();
    expect(chordWords(chord("Em"))).toBe("E minor");
    expect(triadOn(7, { tonic: "D", mode: "major" }).symbol).toBe("C#dim");
  });
});
