import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { arbitraryKey } from "../../testing/arbitraryTune";
import {
  CHORD_NAMES,
  chord,
  functionOf,
  inKey,
  type Key,
  midi,
  nameChord,
  parseChord,
  pitchName,
  roman,
  scale,
  semitoneOf,
  spell,
  triadOn,
} from "./index";

const key = (text: string): Key => {
  const [tonic, mode] = text.split(" ");
  return { tonic: tonic as string, mode: mode as Key["mode"] };
};

describe("chords named by function and numeral", () => {
  test.each([
    ["G", "G major", "T", "I"],
    ["D7", "G major", "D7", "V7"],
    ["C", "G major", "S", "IV"],
    ["Em", "G major", "Tp", "vi"],
    ["Am", "G major", "Sp", "ii"],
    ["Bm", "G major", "Dp", "iii"],
    ["A", "G major", "DD", "II"],
    ["F", "G major", "SS", "bVII"],
    ["Am", "A minor", "t", "i"],
    ["C", "A minor", "tP", "bIII"],
    ["E7", "A minor", "D7", "V7"],
    ["Em", "A minor", "d", "v"],
    ["F", "A minor", "sP", "bVI"],
    ["G", "A minor", "dP", "bVII"],
    ["Dm", "A minor", "s", "iv"],
    ["Bb", "A minor", "sN", "bII"],
    ["G", "A mixolydian", "SS", "bVII"],
    ["G", "E dorian", "tP", "bIII"],
    ["A", "E dorian", "S", "IV"],
  ])("%s in %s is %s, and %s", (symbol, text, letter, numeral) => {
    expect(functionOf(chord(symbol), key(text))).toBe(letter);
    expect(roman(chord(symbol), key(text))).toBe(numeral);
  });
  it("a chord without a function there goes by its numeral", () => {
    expect(functionOf(chord("G#m"), key("G major"))).toBe(roman(chord("G#m"), key("G major")));
  });
  it("keeps a slashed bass, and text that is no chord, in every way of writing", () => {
    expect(CHORD_NAMES.map((way) => nameChord("D/F#", key("G major"), way))).toEqual(["D/F#", "V/F#", "D/F#"]);
    expect(CHORD_NAMES.map((way) => nameChord("slowly", key("G major"), way))).toEqual(["slowly", "slowly", "slowly"]);
  });
});

describe("spelling a sound in a key", () => {
  test.each([
    [66, "G major", "F#4"],
    [66, "Db major", "Gb4"],
    [70, "D minor", "Bb4"],
    [61, "D minor", "C#4"],
    [68, "A minor", "G#4"],
    [63, "E minor", "D#4"],
    [65, "D major", "F4"],
    [68, "D major", "G#4"],
    [71, "Gb major", "Cb5"],
    [60, "C# major", "B#3"],
  ])("%i in %s is %s", (sound, text, name) => {
    expect(pitchName(spell(sound, key(text)))).toBe(name);
  });
  it("sounds as asked in every key, and a note of the key is spelled as the key has it", () => {
    fc.assert(
      fc.property(arbitraryKey, fc.integer({ min: 36, max: 96 }), (own, sound) => {
        const pitch = spell(sound, own);
        expect(midi(pitch)).toBe(sound);
        if (scale(own).some((name) => semitoneOf(name) === sound % 12)) expect(inKey(pitch, own)).toBe(true);
      }),
    );
  });
});

describe("triads of the scale", () => {
  test.each([
    ["D major", ["D", "Em", "F#m", "G", "A", "Bm", "C#dim"]],
    ["E dorian", ["Em", "F#m", "G", "A", "Bm", "C#dim", "D"]],
    ["A mixolydian", ["A", "Bm", "C#dim", "D", "Em", "F#m", "G"]],
    ["A minor", ["Am", "Bdim", "C", "Dm", "Em", "F", "G"]],
    ["F lydian", ["F", "G", "Am", "Bdim", "C", "Dm", "Em"]],
    ["E phrygian", ["Em", "F", "G", "Am", "Bdim", "C", "Dm"]],
  ])("%s", (text, triads) => {
    expect([1, 2, 3, 4, 5, 6, 7].map((d) => triadOn(d, key(text)).symbol)).toEqual(triads);
  });
  it("hold for every key: chord notes are notes of the key, and symbols read back as themselves", () => {
    fc.assert(
      fc.property(arbitraryKey, fc.integer({ min: 1, max: 7 }), (own, degree) => {
        const triad = triadOn(degree, own);
        expect(triad.tones.every((t) => scale(own).includes(t))).toBe(true);
        expect(parseChord(triad.symbol)).toEqual(triad);
      }),
    );
  });
});
