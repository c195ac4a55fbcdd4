import { chord, type Key, type Mode, scale, triadOn } from "../theory";

/**
 * The chords a style allows, as scale degrees with their quality in each mode. Where several sets are listed the search takes
 * the one that fits the strain best: a minor tune has its dominant or its flat seventh.
 */
export type Style = { name: string; sets: Record<Mode, readonly (readonly string[])[]> };

/** Each word is a degree of the mode, with a suffix that overrides the triad of the scale: "5" is the scale's triad, "5M" major, "5M7" with a seventh. */
export const THREE_CHORD: Style = {
  name: "Three-chord",
  sets: {
    major: [["1", "4", "5", "5M7"]],
    lydian: [["1", "2", "5", "5M7"]],
    mixolydian: [["1", "7", "4"], ["1", "7", "5"]],
    dorian: [["1", "7", "4"], ["1", "7", "5"], ["1", "7", "3"]],
    minor: [["1", "7", "4"], ["1", "4", "5M", "5M7"], ["1", "7", "6"], ["1", "7", "5M", "5M7"]],
    phrygian: [["1", "2", "7"], ["1", "2", "4"]],
    locrian: [["1", "2", "7"]],
  },
};

export const STYLES: readonly Style[] = [THREE_CHORD];

/** The chord of a degree word in a key. `chordOn("5M7", E minor) // => B7` */
export function chordOn(word: string, key: Key): string {
  const degree = Number(word[0]);
  const quality = word.slice(1);
  if (!quality) return triadOn(degree, key).symbol;
  return chord((scale(key)[degree - 1] as string) + quality.replace("M", "")).symbol;
}

/** Triads of the key that no set of the style names; heard as runners-up, taken only when a teacher locks one. */
export function outsiders(key: Key, inside: readonly string[]): string[] {
  const triads = [1, 2, 3, 4, 5, 6, 7].map((d) => triadOn(d, key)).filter((c) => c.suffix !== "dim" && c.suffix !== "aug").map((c) => c.symbol);
  return [...new Set([...triads, chordOn("5M7", key)])].filter((s) => !inside.includes(s));
}
