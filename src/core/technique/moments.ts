import type { LineNote, Place } from "../score";
import type { Chord } from "../theory";
import type { NoteRole } from "./grips";

/** What can be made of a tune for one who plays strings. */
export const KINDS = ["melody", "double stops", "melody with chords", "roll"] as const;
export type Kind = (typeof KINDS)[number];

/** A note as it is played: string by number, fret by label, finger (0 open), what sounds and what it is there for. */
export type ArrangedNote = { string: number; fret: string; finger: number; noteNumber: number; role: NoteRole };
export type ArrangedStroke = {
  place: Place;
  at: number;
  ticks: number;
  notes: ArrangedNote[];
  /** Fingers that stay down from the stroke before. */
  hold: number[];
  /** What the left hand does on the way. */
  move: "shift" | "slide" | null;
  /** The finger of the right hand that plucks, in a roll. */
  pluck?: string;
  reason: string;
  locked: boolean;
  /** Other places of the melody note, with what the whole would cost more: exact. */
  alternatives: { string: number; fret: string; cost: number }[];
};
/** One note to arrange: the melody note, the chord it stands in, and how many strings are wanted under it. */
export type Moment = {
  note: LineNote;
  noteNumber: number;
  chord: Chord | undefined;
  wanted: number;
  seconds: number;
  /** Whether it is to have a double stop. */
  doubled: boolean;
};
