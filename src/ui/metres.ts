import type { Metre } from "../core/score";

/** Tonics a tune can be set in, the commonest of dance tunes first. */
export const TONICS = ["C", "G", "D", "A", "E", "B", "F#", "C#", "F", "Bb", "Eb", "Ab", "Db", "Gb"];
/** Metres a tune can be set in, the commonest first. */
export const METRES: readonly Metre[] = [
  { beats: 4, unit: 4 },
  { beats: 2, unit: 2, symbol: "cut" },
  { beats: 2, unit: 4 },
  { beats: 3, unit: 4 },
  { beats: 6, unit: 8 },
  { beats: 9, unit: 8 },
  { beats: 12, unit: 8 },
  { beats: 3, unit: 8 },
  { beats: 3, unit: 2 },
  { beats: 5, unit: 4 },
  { beats: 7, unit: 8 },
];
