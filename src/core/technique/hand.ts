import type { Instrument } from "../instruments";
import { midi } from "../theory";

/**
 * Where a note lies in first position: its string (order from the player's lowest course), and the finger, or the
 * fret's label. `low` is a finger drawn back a semitone, `high` one stretched up.
 */
export type Placement = { string: number; finger: number; low: boolean; high?: boolean; fret?: string };
type Fingered = Omit<Placement, "string">;

/**
 * Semitones above the open string to finger, the violin family: 1 low first, 2 first, 3 low second, 4 second, 5 third,
 * 6 high third, 7 fourth.
 */
const VIOLIN: readonly Fingered[] = [
  { finger: 0, low: false },
  { finger: 1, low: true },
  { finger: 1, low: false },
  { finger: 2, low: true },
  { finger: 2, low: false },
  { finger: 3, low: false },
  { finger: 3, low: false, high: true },
  { finger: 4, low: false },
];

/** The cello's first position: a finger a semitone, the first stretched back, the fourth stretched up. */
const CELLO: readonly Fingered[] = [
  { finger: 0, low: false },
  { finger: 1, low: true },
  { finger: 1, low: false },
  { finger: 2, low: false },
  { finger: 3, low: false },
  { finger: 4, low: false },
  { finger: 4, low: false, high: true },
];

const fingersOf = (on: Instrument) => (on.hand === "cello" ? CELLO : VIOLIN);

/** Placement so many semitones above an open string; undefined out of reach. */
export function placeAbove(on: Instrument, above: number): Fingered | undefined {
  if (on.hand !== "frets") return fingersOf(on)[above];
  const fret = on.frets?.find((f) => f.semitones === above);
  return fret && { finger: 0, low: false, fret: fret.label };
}

/**
 * Semitones above the open string of a finger as teachers say it: 2, L2 (low), H3 (high). Undefined where there is no
 * such finger.
 */
export function semitonesOf(on: Instrument, finger: number, shade: "" | "L" | "H"): number | undefined {
  const found = fingersOf(on).findIndex(
    (p) => p.finger === finger && p.low === (shade === "L") && Boolean(p.high) === (shade === "H"),
  );
  return found < 0 ? undefined : found;
}

/**
 * String and finger (or fret) of a note in first position, an open string before a fourth finger; undefined where no
 * finger reaches.
 */
export function firstPosition(on: Instrument, noteNumber: number): Placement | undefined {
  const ways = on.strings.flatMap(({ open, shortFrom }, string) => {
    // A short string is the thumb's: nothing is stopped on it.
    if (shortFrom) return [];
    const reach = noteNumber - midi(open);
    const place = placeAbove(on, reach);
    return place ? [{ string, ...place, reach }] : [];
  });
  const best = ways.sort((a, b) => a.reach - b.reach || b.string - a.string)[0];
  if (!best) return undefined;
  const { reach: _, ...place } = best;
  return place;
}
