import { FIDDLE, type Instrument, instrument } from "../instruments";
import { melodyOf, QUARTER } from "../score";
import type { Key } from "../theory";
import { readTyped, type TypedSpelling } from "./typed";

/** Keys in which letters and syllables without signs are read: those that tunes are most often written in. */
const KEYS: readonly Key[] = ["C", "G", "D", "A", "E", "F", "Bb"].map((tonic) => ({ tonic, mode: "major" }));
const PLAIN = KEYS.slice(0, 1);
/** Semitones of the degrees of a major scale from 1. */
const DEGREES = [0, 2, 4, 5, 7, 9, 11, 12];
const MIDDLE_C = 60;

type Way = { spelling: TypedSpelling; keys: readonly Key[]; on: Instrument };
const MANDOLIN = instrument("mandolin") ?? FIDDLE;
const WAYS: readonly Way[] = [
  { spelling: "letters", keys: KEYS, on: FIDDLE },
  { spelling: "syllables", keys: KEYS, on: FIDDLE },
  { spelling: "string and finger", keys: KEYS, on: FIDDLE },
  { spelling: "frets", keys: PLAIN, on: MANDOLIN },
];

/**
 * A few notes as someone remembers them, in any spelling: letters (also run together), syllables, degrees of the scale,
 * string and finger, or frets. Gives every melody they can mean, as MIDI numbers: letters without signs depend on the
 * key they are thought in. Empty where they are no notes. `askedNotes("1 2 3 5") // => [[60, 62, 64, 67]]`
 */
export function askedNotes(text: string): number[][] {
  const plain = text.replace(/[|:]+(?=\s|$)(?<!\w:)|\|/g, " ").trim();
  if (/^[1-8](?:[\s,]+[1-8])*$/.test(plain))
    return [plain.split(/[\s,]+/).map((d) => MIDDLE_C + (DEGREES[Number(d) - 1] as number))];
  const apart = /^[A-Ga-g#♯♭n',\d]+$/.test(plain) ? plain.replace(/(?<=.)(?=[A-Ga-g])/g, " ") : plain;
  const words = apart.replace(/[,']/g, " ");
  const found = new Map<string, number[]>();
  for (const { spelling, keys, on } of WAYS) {
    for (const key of keys) {
      const read = readTyped(words, { spelling, key, metre: { beats: 4, unit: 4 }, step: QUARTER / 2, on });
      const notes = read.tune && read.problems.length === 0 ? melodyOf(read.tune) : [];
      if (notes.length > 0) found.set(notes.join(), notes);
    }
    if (found.size > 0) break;
  }
  return [...found.values()];
}
