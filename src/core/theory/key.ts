import { z } from "zod";
import { record } from "./record";
import {
  className,
  diatonic,
  naturalAt,
  parseClass,
  type Pitch,
  PitchClass,
  STEPS,
  type Step,
  semitoneOf,
  stepIndex,
} from "./pitch";

/** The modes, with the fifths their signature adds to that of the major key on the same tonic. */
export const MODE_FIFTHS = {
  lydian: 1,
  major: 0,
  mixolydian: -1,
  dorian: -2,
  minor: -3,
  phrygian: -4,
  locrian: -5,
} as const;
export const MODES = Object.keys(MODE_FIFTHS) as (keyof typeof MODE_FIFTHS)[];
export const Mode = z.enum(["lydian", "major", "mixolydian", "dorian", "minor", "phrygian", "locrian"]);
export type Mode = z.infer<typeof Mode>;

/** A key: tonic, mode, and any steps whose signature differs from that of the mode. */
export const Key = record({
  tonic: PitchClass,
  mode: Mode,
  extra: z.partialRecord(z.enum(STEPS), z.int().min(-2).max(2)).optional(),
});
export type Key = z.infer<typeof Key>;

/** The order in which sharps enter a signature; flats enter in reverse. */
const SHARP_ORDER: Step[] = ["F", "C", "G", "D", "A", "E", "B"];

/** Fifths from C of a note name: `fifthsOf("D") // => 2`, `fifthsOf("Bb") // => -2`. */
export function fifthsOf(name: string): number {
  const { step, alter } = parseClass(name);
  return SHARP_ORDER.indexOf(step) - 1 + 7 * alter;
}

/** The note name so many fifths from C. `fifthsName(-2) // => "Bb"` */
export const fifthsName = (fifths: number): string =>
  className({ step: SHARP_ORDER[(((fifths + 1) % 7) + 7) % 7] as Step, alter: Math.floor((fifths + 1) / 7) });

/** Sharps (positive) or flats (negative) of a key's signature, without its extra steps. */
export const signature = (key: Key): number => fifthsOf(key.tonic) + MODE_FIFTHS[key.mode];

const alterFromFifths = (step: Step, fifths: number) => Math.floor((fifths + 6 - SHARP_ORDER.indexOf(step)) / 7);

/** Alteration the key gives to a step. `alterIn({ tonic: "D", mode: "major" }, "F") // => 1` */
export const alterIn = (key: Key, step: Step): number => key.extra?.[step] ?? alterFromFifths(step, signature(key));

/** The seven note names of the key from its tonic up. */
export function scale(key: Key): string[] {
  const first = stepIndex(parseClass(key.tonic).step);
  return STEPS.map((_, i) => STEPS[(first + i) % 7] as Step).map((step) =>
    className({ step, alter: alterIn(key, step) }),
  );
}

/** Scale degree of a pitch, 1 to 7 by its letter, whatever its alteration. */
export const degreeOf = (pitch: Pick<Pitch, "step">, key: Key): number =>
  ((stepIndex(pitch.step) - stepIndex(parseClass(key.tonic).step) + 7) % 7) + 1;

/** Whether a pitch, as spelled, belongs to the key. */
export const inKey = (pitch: Pitch, key: Key): boolean => pitch.alter === alterIn(key, pitch.step);

/** The note of the key so many scale steps from a pitch; -2 is the third below. */
export function scaleStep(pitch: Pitch, steps: number, key: Key): Pitch {
  const natural = naturalAt(diatonic(pitch) + steps);
  return { ...natural, alter: alterIn(key, natural.step) };
}

/** `keyName({ tonic: "E", mode: "dorian" }) // => "E dorian"` */
export const keyName = (key: Key): string => `${key.tonic} ${key.mode}`;

/** The spelling of a tonic (semitones above C) that gives the mode the smaller signature. */
export function spellTonic(semitone: number, mode: Mode): string {
  const names = tonics.get(mode) ?? Array.from({ length: 12 }, (_, s) => simplest(s, mode));
  tonics.set(mode, names);
  return names[semitone] as string;
}
const tonics = new Map<Mode, string[]>();

function simplest(semitone: number, mode: Mode): string {
  const spellings = Array.from({ length: 23 }, (_, i) => fifthsName(i - 11)).filter(
    (name) => semitoneOf(name) === semitone,
  );
  return spellings.reduce((best, name) =>
    Math.abs(signature({ tonic: name, mode })) < Math.abs(signature({ tonic: best, mode })) ? name : best,
  );
}

/**
 * How far from the tonic's place in the circle of fifths a raised or lowered note is still spelled as one: minor keys
 * raise more.
 */
const WINDOW: Record<Mode, number> = {
  lydian: -5,
  major: -4,
  mixolydian: -4,
  dorian: -3,
  minor: -3,
  phrygian: -3,
  locrian: -3,
};

/** A sounding note spelled as the key would write it. `spell(66, { tonic: "G", mode: "major" }) // => F#4` */
export function spell(noteNumber: number, key: Key): Pitch {
  const lowest = signature(key) + WINDOW[key.mode];
  const own = STEPS.map((step) => className({ step, alter: alterIn(key, step) })).find(
    (name) => semitoneOf(name) === noteNumber % 12,
  );
  const name =
    own ??
    Array.from({ length: 12 }, (_, i) => fifthsName(lowest + i)).find((n) => semitoneOf(n) === noteNumber % 12) ??
    "C";
  const { step, alter } = parseClass(name);
  const octave = Math.floor((noteNumber - alter) / 12) - 1;
  return { step, alter, octave };
}
