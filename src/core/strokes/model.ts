import type { LineNote, Place } from "../score";

export const DIRECTIONS = ["down", "up"] as const;
export type Direction = (typeof DIRECTIONS)[number];
export const otherWay = (direction: Direction): Direction => (direction === "down" ? "up" : "down");

/** A note of the melody as a hand meets it. */
export type StrokeNote = LineNote & {
  /** The string it lies on, counted from the lowest; undefined without strings. */
  string: number | undefined;
  /** It is the open string: the string below has it too, under the fourth finger. */
  open: boolean;
};

/** One stroke over one note or several; of a strum over none of the melody's. */
export type Stroke = {
  /** The bar it begins in; when, from the start of the tune; and how long it lasts. Ticks. */
  place: Place;
  at: number;
  ticks: number;
  notes: StrokeNote[];
  direction: Direction | null;
  /** The direction of the stroke before, in playing order, comes again. */
  retake: boolean;
  kind: string;
  /** A run that swells into the beat it leads to. */
  swell?: true;
  reason: string;
  /** The finger that strikes, where fingers do. */
  pluck?: string;
  /** The other direction, with what the whole plan would cost more: exact. */
  alternatives: { direction: Direction; cost: number }[];
  locked: boolean;
};

export type StrokePlan = {
  style: string;
  /** What the whole plan costs. */
  total: number;
  strokes: Stroke[];
  /** Downbeats on which a note starts, and how many of them are on a down-stroke. */
  downbeats: { down: number; all: number };
};

/**
 * A stroke a teacher has settled: what starts `at` ticks into bar `bar` (an index) goes this way, for `ticks`; any way
 * where none is given.
 */
export type StrokeLock = {
  bar: number;
  at: number;
  ticks?: number | undefined;
  direction?: Direction | undefined;
};
