import type { Instrument } from "../instruments";
import { firstPosition } from "../technique";
import { className, degreeOf, alterIn, type Key, midi, type Pitch, STEPS } from "../theory";

/** How a class names notes. */
export const SPELLINGS = ["letters", "string and finger", "syllables", "degrees", "tablature"] as const;
export type Spelling = (typeof SPELLINGS)[number];

/** Fixed-do syllables, C to B. */
export const SYLLABLES = ["do", "re", "mi", "fa", "sol", "la", "si"] as const;

const sign = (alter: number) => (alter < 0 ? "♭".repeat(-alter) : "♯".repeat(alter));

/** A finger as teachers say it: "2", "L2", "H3"; a fret by its name. */
export const placeName = ({
  finger,
  low,
  high,
  fret,
}: {
  finger: number;
  low: boolean;
  high?: boolean | undefined;
  fret?: string | undefined;
}): string => fret ?? `${low ? "L" : ""}${high ? "H" : ""}${finger}`;

/** The name of a string: its letter; courses that share a letter get their number from the player's lowest. */
export function stringName(on: Instrument, string: number): string {
  const names = on.strings.map(({ open }) => className(open));
  const name = names[string] ?? "?";
  return names.filter((n) => n === name).length > 1 ? `${name}${string + 1}` : name;
}

export type Named = {
  text: string;
  /** False where the note cannot be played as named. */
  playable: boolean;
  /** The string it lies on, and that string's name. */
  string?: number;
  stringName?: string;
};

/**
 * A note as a class names it. `nameOf(F#4, "degrees", { key: D major, on: fiddle }) // => { text: "3", playable: true
 * }`
 */
export function nameOf(pitch: Pitch, spelling: Spelling, { key, on }: { key: Key; on: Instrument }): Named {
  if (spelling === "letters") return { text: pitch.step + sign(pitch.alter), playable: true };
  if (spelling === "syllables")
    return { text: (SYLLABLES[STEPS.indexOf(pitch.step)] ?? "") + sign(pitch.alter), playable: true };
  if (spelling === "degrees")
    return { text: sign(pitch.alter - alterIn(key, pitch.step)) + degreeOf(pitch, key), playable: true };
  const place = firstPosition(on, midi(pitch));
  return place
    ? { text: placeName(place), playable: true, string: place.string, stringName: stringName(on, place.string) }
    : { text: "–", playable: false };
}
