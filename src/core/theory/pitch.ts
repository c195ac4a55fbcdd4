import { z } from "zod";
import { record } from "./record";

/** The seven steps of the staff, in the order the staff counts them. */
export const STEPS = ["C", "D", "E", "F", "G", "A", "B"] as const;
export type Step = (typeof STEPS)[number];

/** Semitones of each natural step above C. */
const STEP_SEMITONES: Record<Step, number> = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 };

/** A spelled pitch: the step, its alteration in semitones, and the octave (middle C is C4). */
export const Pitch = record({
  step: z.enum(STEPS),
  alter: z.int().min(-3).max(3),
  octave: z.int().min(-2).max(11),
});
export type Pitch = z.infer<typeof Pitch>;

/** A spelled pitch without its octave, such as `F#` or `Bb`. */
export const PitchClass = z.string().regex(/^[A-G](#{1,3}|b{1,3})?$/);

const signs = (alter: number) => (alter < 0 ? "b".repeat(-alter) : "#".repeat(alter));

/** Position of a step, 0 for C to 6 for B. */
export const stepIndex = (step: Step): number => STEP_INDEX[step];
const STEP_INDEX: Record<Step, number> = { C: 0, D: 1, E: 2, F: 3, G: 4, A: 5, B: 6 };

/** Count of staff positions from C0, so that neighbouring steps differ by one. `diatonic(C4) // => 28` */
export const diatonic = (pitch: Pitch): number => pitch.octave * 7 + stepIndex(pitch.step);

/** MIDI number of a pitch, 60 for C4. Derived from the spelling, never the other way round. */
export const midi = (pitch: Pitch): number => (pitch.octave + 1) * 12 + STEP_SEMITONES[pitch.step] + pitch.alter;

/** `pitchName({ step: "C", alter: 1, octave: 5 }) // => "C#5"` */
export const pitchName = (pitch: Pitch): string => `${className(pitch)}${pitch.octave}`;

/** `className({ step: "B", alter: -1 }) // => "Bb"` */
export const className = ({ step, alter }: Pick<Pitch, "step" | "alter">): string => step + signs(alter);

/** Reads `F#4`, `Bb3`. Throws a RangeError naming the text it could not read. */
export function parsePitch(name: string): Pitch {
  const match = /^([A-G])(#{0,3}|b{0,3})(-?\d+)$/.exec(name);
  if (!match)
    throw new RangeError(`"${name}" is not a pitch. Write a letter, its sharps or flats, and the octave: F#4.`);
  const [, letter = "", sign = "", octave] = match;
  return { ...parseClass(letter + sign), octave: Number(octave) };
}

/** Reads `F#` or `Bb` as step and alteration. Throws a RangeError naming the text it could not read. */
export function parseClass(name: string): { step: Step; alter: number } {
  if (!/^[A-G](#{0,3}|b{0,3})$/.test(name))
    throw new RangeError(`"${name}" is not a note name. Write a letter and its sharps or flats: F#.`);
  const alter = name.length - 1;
  return { step: name[0] as Step, alter: name[1] === "b" ? -alter : alter };
}

/** Semitones above C, 0 to 11, of a note name. `semitoneOf("Bb") // => 10` */
export function semitoneOf(name: string): number {
  const { step, alter } = parseClass(name);
  return (STEP_SEMITONES[step] + alter + 36) % 12;
}

/** The natural pitch at a staff position counted as `diatonic` does. */
export const naturalAt = (position: number): Pitch => ({
  step: STEPS[((position % 7) + 7) % 7] as Step,
  alter: 0,
  octave: Math.floor(position / 7),
});

/** Interval between two pitches as players count it, the first note being one: a third below is 3. */
export const intervalNumber = (a: Pitch, b: Pitch): number => Math.abs(diatonic(a) - diatonic(b)) + 1;

const INTERVAL_NAMES = ["unison", "second", "third", "fourth", "fifth", "sixth", "seventh", "octave"];

/** `intervalName(3) // => "third"`, `intervalName(10) // => "tenth"`; above two octaves the number is given. */
export const intervalName = (number: number): string =>
  INTERVAL_NAMES[number - 1] ??
  ["ninth", "tenth", "eleventh", "twelfth", "thirteenth", "fourteenth", "fifteenth"][number - 9] ??
  `interval of ${number}`;

/** An interval with its article: `anInterval(8) // => "an octave"`, "a third", "an eleventh". */
export function anInterval(number: number): string {
  const name = intervalName(number);
  return `${/^(octave|eighth|eleventh|interval)/.test(name) ? "an" : "a"} ${name}`;
}

/** Semitones of the perfect and major intervals, by steps from 0. */
const WIDEST = [0, 2, 4, 5, 7, 9, 11];

/** Whether going from pitch to pitch is hard to sing: by a tritone however spelled, or by an augmented interval. */
export function isHard(from: Pitch, to: Pitch): boolean {
  const steps = Math.abs(diatonic(to) - diatonic(from));
  const semitones = Math.abs(midi(to) - midi(from));
  const widest = (WIDEST[steps % 7] as number) + 12 * Math.floor(steps / 7);
  return semitones === 6 || semitones > widest;
}
