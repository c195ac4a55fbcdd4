import { z } from "zod";
import { chord, className, type Key, type Mode, parseClass, scale, triadOn } from "../theory";

/**
 * The chords a style allows, as scale degrees with their quality in each mode. Where several sets are listed the search
 * takes
 * the one that fits the strain best: a minor tune has its dominant or its flat seventh.
 */
export type Style = {
  name: string;
  sets: Record<Mode, readonly (readonly string[])[]>;
  /** Its triads may wear what `colour.ts` lists. */
  colour?: true;
  /** It takes every triad that the tune's own accidentals spell; the others only forms of their own chords. */
  borrows?: true;
  /** Its chords have no thirds. */
  fifths?: true;
};

/**
 * Each word is a degree of the mode, with a suffix that overrides the triad of the scale: "5" is the scale's triad,
 * "5M" major, "5M7" with a seventh, "15" an open fifth on 1; "b7" is the degree lowered.
 */
export const THREE_CHORD: Style = {
  name: "Three-chord",
  sets: {
    major: [["1", "4", "5", "5M7"]],
    lydian: [["1", "2", "5", "5M7"]],
    mixolydian: [
      ["1", "7", "4"],
      ["1", "7", "5"],
    ],
    dorian: [
      ["1", "7", "4"],
      ["1", "7", "5"],
      ["1", "7", "3"],
    ],
    minor: [
      ["1", "7", "4"],
      ["1", "4", "5M", "5M7"],
      ["1", "7", "6"],
      ["1", "7", "5M", "5M7"],
    ],
    phrygian: [
      ["1", "2", "7"],
      ["1", "2", "4"],
    ],
    locrian: [["1", "2", "7"]],
  },
};

/** Tonic and one other, as the plainest backing has it. */
const TWO_CHORD: Style = {
  name: "Two-chord",
  sets: {
    major: [
      ["1", "5", "5M7"],
      ["1", "4"],
    ],
    lydian: [
      ["1", "2"],
      ["1", "5"],
    ],
    mixolydian: [
      ["1", "7"],
      ["1", "4"],
    ],
    dorian: [["1", "7"]],
    minor: [
      ["1", "5M", "5M7"],
      ["1", "7"],
    ],
    phrygian: [
      ["1", "2"],
      ["1", "7"],
    ],
    locrian: [["1", "2"]],
  },
};

/** What a dance band plays: the triads of the mode, the flat seventh, and in minor keys the dominant in both forms. */
const DANCE_BAND: Style = {
  name: "Dance band",
  borrows: true,
  sets: {
    major: [["1", "4", "5", "5M7", "2", "6", "3", "b7M"]],
    lydian: [["1", "2", "5", "5M7", "6", "3", "7"]],
    mixolydian: [["1", "4", "7", "2", "5", "5M", "6"]],
    dorian: [["1", "7", "5", "4", "3", "2", "5M"]],
    minor: [["1", "7", "3", "5M", "5M7", "5", "4", "6"]],
    phrygian: [["1", "2", "7", "3", "4", "6"]],
    locrian: [["1", "2", "7", "3", "6"]],
  },
};

/** Open fifths that take no side, and the flat seventh. */
const MODAL: Style = {
  name: "Modal",
  fifths: true,
  sets: {
    major: [["15", "45", "55", "b75"]],
    lydian: [["15", "25", "55"]],
    mixolydian: [["15", "75", "45", "55"]],
    dorian: [["15", "75", "45", "55", "35"]],
    minor: [["15", "75", "45", "55", "35"]],
    phrygian: [["15", "25", "75", "45"]],
    locrian: [["15", "25", "75"]],
  },
};

/**
 * The dance band's triads, dressed: sevenths, suspensions, borrowed dominants, a bass that walks, one augmented
 * dominant, a closing chord.
 */
const triads = (mode: Mode) => DANCE_BAND.sets[mode].map((set) => set.filter((word) => !word.endsWith("M7")));
const COLOUR: Style = {
  name: "Colour",
  colour: true,
  borrows: true,
  sets: {
    major: triads("major"),
    lydian: triads("lydian"),
    mixolydian: triads("mixolydian"),
    dorian: triads("dorian"),
    minor: triads("minor"),
    phrygian: triads("phrygian"),
    locrian: triads("locrian"),
  },
};

export const STYLES: readonly Style[] = [THREE_CHORD, TWO_CHORD, DANCE_BAND, MODAL, COLOUR];

/** The name of a style. */
export const StyleName = z.enum(
  STYLES.map((s) => s.name),
  {
    error: ({ input }) => `There is no style of chords called “${String(input).slice(0, 40)}”`,
  },
);

/** The chord of a degree word in a key. `chordOn("5M7", E minor) // => B7` */
export function chordOn(word: string, key: Key): string {
  const [, flat, digit, quality = ""] = /^(b?)(\d)(.*)$/.exec(word) ?? ["", "", "1", ""];
  const degree = Number(digit);
  if (!quality && !flat) return triadOn(degree, key).symbol;
  const { step, alter } = parseClass(scale(key)[degree - 1] as string);
  return chord(className({ step, alter: alter - (flat ? 1 : 0) }) + quality.replace("M", "")).symbol;
}

/**
 * Major and minor triads that a melody's own accidentals spell: one note at least from outside the key, the others from
 * the key
 * or from outside it too. A tune printed in D major whose melody has F natural may be chorded in D minor; D# spells B
 * major, not C minor.
 * `heard` are the note names of the melody.
 */
export function borrowed(heard: ReadonlySet<string>, key: Key): string[] {
  const own = new Set(scale(key));
  const notes = new Set([...own, ...heard]);
  return [...notes]
    .flatMap((root) => [chord(root), chord(`${root}m`)])
    .filter(({ tones }) => tones.every((t) => notes.has(t)) && tones.some((t) => !own.has(t)))
    .map((c) => c.symbol);
}

/** Triads of the key that no set of the style names; heard as runners-up, taken only when a teacher locks one. */
export function outsiders(key: Key, inside: readonly string[]): string[] {
  const triads = [1, 2, 3, 4, 5, 6, 7]
    .map((d) => triadOn(d, key))
    .filter((c) => c.suffix !== "dim" && c.suffix !== "aug")
    .map((c) => c.symbol);
  return [...new Set([...triads, chordOn("5M7", key)])].filter((s) => !inside.includes(s));
}
