import { type Chord, degreeOf, inKey, type Key, type Pitch } from "../theory";

/** What a school looks at when it weighs a note. */
export type Scene = {
  /** The melody note that sounds as the slot begins; null in its rests. */
  melody: Pitch | null;
  key: Key;
  chord: Chord | null;
  side: "below" | "above";
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

/**
 * A note under consideration: the interval it makes with the melody (counted inclusively, 0 where the melody rests),
 * and what it is.
 */
export type Offer = {
  interval: number;
  fits: boolean /** Its place in the chord: 0 root, 1 third, 2 fifth ... or -1. */;
  chordNote: number;
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
  weighty: boolean;
  near: boolean;
  closing: boolean;
  repeated: boolean;
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
  /** Points against a note. Infinity where the school would rather rest. */
  cost: (offer: Offer, scene: Scene) => number;
  /** Points for going from one note to the next. */
  move: (step: Step) => number;
  /** Octaves may run in parallel. */
  octaves?: true;
  /** Draws on open strings, tonic and fifth beside the chord. */
  drones?: true;
  because: (offer: Offer, scene: Scene) => { rule: string; words: string };
};

type Words = ReturnType<School["because"]>;
type Points = Record<number, number>;

/** Order in which a school without a choice of its own falls back when its interval is not to be had. */
const FALLBACK: Points = { 3: 0, 4: 3, 6: 3.4, 5: 4, 8: 4.6, 1: 5.2, 10: 5.5 };
const fallback = ({ interval }: Offer) => FALLBACK[interval] ?? 7;

/** Points for a leap of the line beyond what the melody itself leaps. */
const leaps = ({ own, melody }: Step) =>
  0.12 * Math.max(0, Math.abs(own) - Math.max(Math.abs(melody), 2)) + (Math.abs(own) > 6 ? 0.6 : 0);
const parallel = (points: number) => (step: Step) =>
  leaps(step) + (!step.same && !step.weighty && step.near ? points : 0);
/** Points for a line that goes its own way: by step if it can. */
const smooth =
  (each: number) =>
  ({ own, repeated }: Step) =>
    repeated ? 0 : each * Math.max(0, Math.abs(own) - 1) + (Math.abs(own) > 4 ? each * 2 : 0);

const inChord = ({ chord }: Scene) => (chord ? `in the chord of ${chord.symbol}` : "in the key");
const instead: Words = { rule: "fallback", words: "the third is not to be had here" };

/** A diatonic third throughout. Practice: rules 1 and 2. */
export const THIRDS: School = {
  name: "Thirds",
  rule: "a third all the way",
  pace: "melody",
  side: "below",
  cost: fallback,
  move: leaps,
  because: ({ interval }) =>
    interval === 3 ? { rule: "third", words: "the school keeps a third throughout" } : instead,
};

/**
 * Thirds, but a fourth where the two notes are tonic and fifth: under the tonic for a low line, over the fifth degree
 * for a high one. Practice: rule 3.
 */
export const FOURTH_UNDER_TONIC: School = {
  name: "Fourth under the tonic",
  rule: "a third, but a fourth where the melody is on the tonic",
  pace: "melody",
  side: "below",
  move: leaps,
  cost: (offer, scene) =>
    turns(scene) ? (({ 4: 0, 3: 2 } as Points)[offer.interval] ?? fallback(offer)) : fallback(offer),
  because: ({ interval }, scene) =>
    turns(scene) && interval === 4
      ? {
          rule: "fourth under the tonic",
          words:
            scene.side === "below"
              ? "the melody is on the tonic, and the fourth below is the fifth of the key"
              : "the melody is on the fifth of the key, and the fourth above is the tonic",
        }
      : interval === 3
        ? { rule: "third", words: "a third, in the key" }
        : instead,
};

const turns = ({ melody, key, side }: Scene) =>
  melody !== null && inKey(melody, key) && degreeOf(melody, key) === (side === "below" ? 1 : 5);

const IN_CHORD: Points = { 3: 0, 4: 0.2, 6: 0.9, 5: 1.1, 8: 1.9, 1: 2.4, 10: 2.4 };
const OUT_OF_CHORD: Points = { 3: 2.6, 4: 3.2, 6: 3.4, 5: 3.8, 8: 5, 1: 5.2, 10: 5 };
const PASSING: Points = { 3: 0.1, 4: 0.5, 6: 0.6, 5: 1.4, 8: 2.5, 1: 3, 10: 2.5 };

/** The reasoning of Chord-fit with its own liking for intervals. */
const byChord =
  (inside: Points, passing: Points): School["cost"] =>
  ({ interval, fits }, scene) => {
    if (!scene.weighty) return (passing[interval] ?? 4) - (fits ? 0.15 : 0);
    return (fits ? (inside[interval] ?? 3) : (OUT_OF_CHORD[interval] ?? 6)) + (scene.cadence && !fits ? 2 : 0);
  };

const FIT_RULES: Record<number, string> = { 3: "third", 4: "fourth" };
function fitReason({ interval, fits }: Offer, scene: Scene): Words {
  if (!scene.weighty) return { rule: "parallel", words: "a passing note keeps the line moving with the melody" };
  if (fits && scene.cadence) return { rule: "cadence", words: `the phrase ends here, on a note ${inChord(scene)}` };
  if (fits) return { rule: FIT_RULES[interval] ?? "nearest chord note", words: `it is ${inChord(scene)}` };
  return {
    rule: "smooth line",
    words: scene.chord
      ? `the chord rule lost: no near note of ${scene.chord.symbol} could be reached smoothly`
      : "no chord is set here, so it stays in the key",
  };
}

/**
 * Third or fourth, whichever is in the chord; sixth or fifth where neither is; passing notes keep the parallel.
 * Practice: rule 4.
 */
export const CHORD_FIT: School = {
  name: "Chord-fit",
  rule: "third or fourth, whichever is in the chord",
  pace: "melody",
  side: "below",
  cost: byChord(IN_CHORD, PASSING),
  move: parallel(0.7),
  because: fitReason,
};

const HIGH_IN: Points = { 3: 0, 6: 0.3, 4: 0.5, 5: 1.3, 8: 1.4, 10: 1.6, 1: 3 };
const HIGH_PASSING: Points = { 3: 0.1, 6: 0.2, 4: 0.6, 5: 1.4, 8: 2.2, 10: 1.2, 1: 3 };
/**
 * The same reasoning above the melody, where sixths ring as well as thirds and a calm line is kept out of the tune's
 * way.
 */
const HIGH_LINE: School = {
  name: "High line",
  rule: "the chord’s thirds and sixths, kept calm above the tune",
  pace: "melody",
  side: "above",
  cost: byChord(HIGH_IN, HIGH_PASSING),
  move: (step) => parallel(0.3)(step) + 0.16 * Math.max(0, Math.abs(step.own) - 2),
  because: fitReason,
};

const NORDIC: Points = { 3: 0, 6: 0.5, 1: 0.9, 8: 0.7, 4: 1, 5: 1.2, 10: 0.8 };
const NORDIC_CLOSE: Points = { 1: 0, 8: 0.1, 3: 2, 6: 2.4, 10: 2.6, 5: 2.2, 4: 3 };
/**
 * A second voice with a shape of its own: thirds, unisons and octaves in turn, against the melody where a phrase
 * closes, together on its last note.
 */
const NORDIC_SECOND: School = {
  name: "Nordic second",
  rule: "a shape of its own; against the tune at closes, together at the end",
  pace: "melody",
  side: "below",
  cost: ({ interval, fits }, scene) =>
    ((scene.cadence ? NORDIC_CLOSE : NORDIC)[interval] ?? 4) + (scene.weighty && !fits && !scene.cadence ? 0.6 : 0),
  move: (step) => {
    const together = Math.sign(step.own) === Math.sign(step.melody) && step.own !== 0;
    const against = step.own !== 0 && step.melody !== 0 && !together;
    return (
      0.3 * Math.max(0, Math.abs(step.own) - 2) +
      (step.same && step.weighty ? 0.35 : 0) +
      (step.closing ? (together ? 0.45 : 0) - (against ? 0.7 : 0) : 0)
    );
  },
  because: ({ interval, fits }, scene) => {
    if (scene.cadence)
      return interval === 1 || interval === 8
        ? { rule: "meeting at the close", words: "the two voices meet where the phrase ends" }
        : { rule: "close", words: "no unison or octave is to be had, and this is the nearest rest" };
    if (interval === 1 || interval === 8) return { rule: "own shape", words: "the voices touch, and part again" };
    return scene.closing
      ? { rule: "contrary motion", words: "the second goes against the melody towards the close" }
      : {
          rule: "own shape",
          words: fits
            ? `a note ${inChord(scene)}, with a shape of its own`
            : "it keeps a shape of its own between the chord notes",
        };
  },
};

/**
 * The tune itself an octave away, in unison where the octave is out of reach. The one school that wants octaves to run.
 */
const OCTAVE: School = {
  name: "Octave",
  rule: "the tune itself, an octave away",
  pace: "melody",
  side: "below",
  octaves: true,
  cost: (offer) => (({ 8: 0, 1: 1.5 }) as Points)[offer.interval] ?? 6 + fallback(offer),
  move: leaps,
  because: ({ interval }) =>
    interval === 8
      ? { rule: "octave", words: "the tune itself, an octave away" }
      : interval === 1
        ? { rule: "unison", words: "the octave is out of reach, so the line joins the tune" }
        : { rule: "fallback", words: "the octave is out of reach or out of the key here" },
};

/** Open strings or one held finger; changes only when it must. */
const DRONE: School = {
  name: "Drone and pedal",
  rule: "an open string or one held finger",
  pace: "beat",
  side: "below",
  drones: true,
  cost: ({ fits, open, tonic, fifth, interval }) =>
    (fits ? 0 : 0.8) + (open ? 0 : 0.35) + (tonic ? 0 : fifth ? 0.15 : 0.8) + (interval > 12 ? 0.3 : 0),
  move: ({ repeated, own }) => (repeated ? 0 : 1.8 + 0.03 * Math.abs(own)),
  because: ({ open, tonic, fifth, fits }, scene) => ({
    rule: open ? "open string" : "held finger",
    words: `${tonic ? "the tonic" : fifth ? "the fifth of the key" : fits ? `a note ${inChord(scene)}` : "a note of the key"} ${open ? "on an open string, left ringing" : "held down under one finger"}`,
  }),
};

/** One note to each chord, along the smoothest path. */
const ONE_NOTE: School = {
  name: "One note per chord",
  rule: "the nearest note of each chord, held",
  pace: "chord",
  side: "below",
  cost: ({ fits, chordNote, interval }, scene) =>
    (fits ? ([0.1, 0, 0.15][chordNote] ?? 0.5) : scene.chord ? Number.POSITIVE_INFINITY : 0) +
    (interval === 1 ? 0.6 : interval > 10 ? 0.5 : 0),
  move: (step) => smooth(0.3)(step) + (Math.abs(step.own) === 1 ? 0.1 : 0),
  because: ({ chordNote }, scene) => ({
    rule: "one note per chord",
    words: scene.chord
      ? `the ${["root", "third", "fifth"][chordNote] ?? "seventh"} of ${scene.chord.symbol}, the nearest chord note to the one before`
      : "a note of the key, held",
  }),
};

/** Moves while the melody holds, rests while it moves. */
const COUNTER: School = {
  name: "Counter-figure",
  rule: "moves while the tune holds, rests while it moves",
  pace: "held",
  side: "below",
  cost: ({ fits, interval }, scene) =>
    (fits ? 0 : scene.weighty ? 2.5 : 0.6) + (interval === 1 ? 1 : interval > 10 ? 0.6 : 0),
  move: (step) => (step.repeated ? 1.2 : 0.2 * Math.max(0, Math.abs(step.own) - 2)),
  because: ({ fits }, scene) => ({
    rule: "answer",
    words: `the melody ${scene.melody ? "holds" : "rests"}, and the figure moves${fits ? ` through the chord${scene.chord ? ` of ${scene.chord.symbol}` : ""}` : " between chord notes"}`,
  }),
};

export const SCHOOLS: readonly School[] = [
  THIRDS,
  FOURTH_UNDER_TONIC,
  CHORD_FIT,
  HIGH_LINE,
  NORDIC_SECOND,
  OCTAVE,
  DRONE,
  ONE_NOTE,
  COUNTER,
];
