import type { Chord, Key, Pitch } from "../theory";
import type { HarmonyNote } from "./model";

/** What a school looks at when it weighs a note. */
export type Scene = {
  /** The melody note that sounds as the slot begins; null in its rests. */
  melody: Pitch | null;
  key: Key;
  chord: Chord | null;
  side: "below" | "above";
  /** The melody is on its leading note, a semitone under the tonic. */
  leading: boolean;
  /**
   * On a felt beat, longer than half of one, or reached and left by leap: it is heard as harmony. The others pass by
   * step.
   */
  weighty: boolean;
  /** Last note of a phrase. */
  cadence: boolean;
  /** In the last bar of a phrase. */
  closing: boolean;
  /** At the start of its bar. */
  start: boolean;
};

/** A light note outside the chord: on its way by step, a step away and back, or neither. */
export type Figure = "passing" | "neighbour" | "loose";

/** A note under consideration: the interval it makes with the melody, and what it is. */
export type Offer = {
  /** Counted inclusively; 0 where the melody rests. */
  interval: number;
  /** Semitones from the melody, folded into an octave; 0 where it rests. */
  gap: number;
  fits: boolean;
  /** What it does where it stands off the beat outside the chord; undefined where nothing is asked of it. */
  figure: Figure | undefined;
  /** Its place in the chord: 0 root, 1 third, 2 fifth ... or -1. */
  chordNote: number;
  /** The last note before a downbeat, a step from a note of the chord there. */
  leads: boolean;
  open: boolean;
  tonic: boolean;
  fifth: boolean;
};

/**
 * How a line moves from one note to the next, in scale steps; `melody` is the melody's own move, `same` a kept
 * interval.
 */
export type Step = {
  own: number;
  melody: number;
  same: boolean;
  /** The interval it arrives at. */
  interval: number;
  weighty: boolean;
  near: boolean;
  closing: boolean;
  repeated: boolean;
  /** The chord in force is still the one before. */
  sameChord: boolean;
  /** From the melody's leading note, doubled, to anywhere but the tonic. */
  astray: boolean;
};

/** A named wish about a note, and one about going on to it: points against it, or for it below 0. */
export type Wish = { name: string; of: (offer: Offer, scene: Scene) => number };
export type Going = { name: string; of: (step: Step) => number };
/** A named must of one school, beside those that hold for all. */
export type Must = { name: string; broken: (offer: Offer, scene: Scene) => boolean };

/** What the search paid for a note, for reasons to be read off. */
export type Paid = {
  /** Points paid under a name, 0 where there were none. */
  points: (name: string) => number;
  /** The step that led here; undefined after a rest. */
  step: Step | undefined;
  /** What the note does outside the chord, by how it is reached and left. */
  figure: HarmonyNote["figure"];
  /** The cheapest other note that is in the chord, with its price. */
  inChord: { name: string; cost: number } | undefined;
  /** The price of the third, where one was to be had and another note was taken. */
  third: number | undefined;
};

/** A way to harmonise: a named setting of one search. */
export type School = {
  name: string;
  /** Its rule in a few words. */
  rule: string;
  /** What its notes go with: the melody's notes, the chords, the beats, or the melody's held notes. */
  pace: "melody" | "chord" | "beat" | "held";
  /** Side it is written for where the teacher does not say. */
  side: "below" | "above";
  wishes: readonly Wish[];
  goings: readonly Going[];
  musts?: readonly Must[];
  /** Octaves may run in parallel. */
  octaves?: true;
  /** Draws on open strings, tonic and fifth beside the chord. */
  drones?: true;
  /** May stay on its note while the melody comes within a second of it. */
  seconds?: true;
  /** Keeps its interval whatever the chord; the others end phrases in the chord, and off the beat pass by step. */
  plain?: true;
  because: (offer: Offer, scene: Scene, paid: Paid) => { rule: string; words: string };
};

export type Words = ReturnType<School["because"]>;
export type Points = Readonly<Record<number, number>>;
