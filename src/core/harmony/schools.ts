import { type Chord, degreeOf, type Key, type Pitch, inKey } from "../theory";

/** What a school looks at when it weighs an interval against one melody note. */
export type Scene = {
  melody: Pitch;
  key: Key;
  chord: Chord | null;
  side: "below" | "above";
  /** On a felt beat, longer than half of one, or reached and left by leap: it is heard as harmony. The others pass by step. */
  weighty: boolean;
  /** Last note of a phrase. */
  cadence: boolean;
};

/** A way to harmonise: what each interval costs here, and the rule in the school's own words. */
export type School = {
  name: string;
  /** Points against an interval (counted inclusively); `fits` tells whether its note is in the chord. */
  cost: (interval: number, fits: boolean, scene: Scene) => number;
  /** Points for leaving the interval of the note before, on notes that pass by. */
  parallel: number;
  because: (interval: number, fits: boolean, scene: Scene) => { rule: string; words: string };
};

/** Order in which a school without a choice of its own falls back when its interval is not to be had. */
const FALLBACK: Record<number, number> = { 3: 0, 4: 3, 6: 3.4, 5: 4, 8: 4.6, 1: 5.2, 10: 5.5 };
const fallback = (interval: number) => FALLBACK[interval] ?? 7;

const plainThird = { rule: "third", words: "the school keeps a third throughout" };
const instead = { rule: "fallback", words: "the third is not to be had here" };

/** A diatonic third throughout. Practice: rules 1 and 2. */
export const THIRDS: School = {
  name: "Thirds",
  cost: fallback,
  parallel: 0,
  because: (interval) => (interval === 3 ? plainThird : instead),
};

/**
 * Thirds, but a fourth where the two notes are tonic and fifth: under the tonic for a low line, over the fifth degree for a high one.
 * Practice: rule 3.
 */
export const FOURTH_UNDER_TONIC: School = {
  name: "Fourth under the tonic",
  cost: (interval, _, scene) => (turns(scene) ? ({ 4: 0, 3: 2 } as Record<number, number>)[interval] ?? fallback(interval) : fallback(interval)),
  parallel: 0,
  because: (interval, _, scene) =>
    turns(scene) && interval === 4
      ? { rule: "fourth under the tonic", words: scene.side === "below" ? "the melody is on the tonic, and the fourth below is the fifth of the key" : "the melody is on the fifth of the key, and the fourth above is the tonic" }
      : interval === 3 ? { rule: "third", words: "a third, in the key" } : instead,
};

const turns = ({ melody, key, side }: Scene) => inKey(melody, key) && degreeOf(melody, key) === (side === "below" ? 1 : 5);

const IN_CHORD: Record<number, number> = { 3: 0, 4: 0.2, 6: 0.9, 5: 1.1, 8: 1.9, 1: 2.4, 10: 2.4 };
const OUT_OF_CHORD: Record<number, number> = { 3: 2.6, 4: 3.2, 6: 3.4, 5: 3.8, 8: 5, 1: 5.2, 10: 5 };
const PASSING: Record<number, number> = { 3: 0.1, 4: 0.5, 6: 0.6, 5: 1.4, 8: 2.5, 1: 3, 10: 2.5 };

/** Third or fourth, whichever is in the chord; sixth or fifth where neither is; passing notes keep the parallel. Practice: rule 4. */
export const CHORD_FIT: School = {
  name: "Chord-fit",
  cost: (interval, fits, scene) => {
    if (!scene.weighty) return (PASSING[interval] ?? 4) - (fits ? 0.15 : 0);
    return (fits ? IN_CHORD[interval] ?? 3 : OUT_OF_CHORD[interval] ?? 6) + (scene.cadence && !fits ? 2 : 0);
  },
  parallel: 0.7,
  because: (interval, fits, scene) => {
    const inChord = scene.chord ? `in the chord of ${scene.chord.symbol}` : "in the key";
    if (!scene.weighty) return { rule: "parallel", words: "a passing note keeps the line moving with the melody" };
    if (!fits) return { rule: "smooth line", words: scene.chord ? `no near note of ${scene.chord.symbol} could be reached smoothly` : "no chord is set here, so it stays in the key" };
    return { rule: `${interval === 3 ? "third" : interval === 4 ? "fourth" : "nearest chord note"}`, words: `it is ${inChord}` };
  },
};

export const SCHOOLS: readonly School[] = [THIRDS, FOURTH_UNDER_TONIC, CHORD_FIT];
