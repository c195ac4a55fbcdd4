import type { Metre } from "../../score";
import type { Mode } from "../../theory";
import type { NoteRole } from "../model";

/** The 24 chords the model tells apart: roots in semitones above the tonic, major (0) or minor (1). */
export const LABELS = 24;
export const labelOf = (root: number, minor: boolean): number => root * 2 + (minor ? 1 : 0);

/** Modes with tables of their own; the rarer ones borrow. */
export const TABLE_OF: Record<Mode, number> = {
  major: 0,
  lydian: 0,
  mixolydian: 1,
  dorian: 2,
  minor: 3,
  phrygian: 3,
  locrian: 3,
};
export const TABLES = 4;

export const ROLES = [
  "passing",
  "neighbour",
  "suspension",
  "appoggiatura",
  "anticipation",
  "escape",
  "free",
] as const satisfies readonly NoteRole[];

/** Where in its bar a beat stands. */
export const STARTS = ["bar", "half", "beat"] as const;
/** Where in its phrase a beat stands, as a player feels the cadence coming. */
export const SPOTS = [
  "opening",
  "phrase start",
  "inside",
  "half close",
  "before the close",
  "later before the close",
  "close",
  "last beat",
  "end",
] as const;
/** How bars are built, as far as the rate of chords goes. */
export const BUILDS = ["two beats", "four beats", "three beats", "three threes"] as const;

export const buildOf = (metre: Metre): number => {
  const beats = metre.beats % 3 === 0 ? metre.beats / 3 : 0;
  if (metre.unit >= 8 && metre.beats === 9) return 3;
  if (metre.beats === 3) return 2;
  return beats === 4 || (beats === 0 && metre.beats >= 4) ? 1 : 0;
};
