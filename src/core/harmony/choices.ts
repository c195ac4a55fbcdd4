import type { Instrument } from "../instruments";
import {
  type Chord,
  diatonic,
  inKey,
  intervalNumber,
  type Key,
  midi,
  parseClass,
  type Pitch,
  scale,
  scaleStep,
  semitoneOf,
} from "../theory";
import type { Choice } from "./choice";
import { isKept } from "./promises";
import type { Slot } from "./slots";

/** Intervals a line that goes with the melody may use, counted inclusively. */
const INTERVALS = [3, 4, 6, 5, 8, 10, 1];
/** How far an independent line may lie from the melody, in semitones. */
const FAR = 24;
const OCTAVES = [1, 2, 3, 4, 5, 6, 7];

export const holds = (chord: Chord | null, pitch: Pitch) => chord?.classes.includes(midi(pitch) % 12) === true;

/** Notes that keep every promise over a slot. */
export function choices(slot: Slot, on: Instrument): Choice[] {
  const found = slot.school.pace === "melody" ? withMelody(slot, on) : onItsOwn(slot, on);
  return found.filter((choice) => isKept(choice, slot, on));
}

/** A pitch as a choice over a slot, whether or not it keeps the promises. */
export function choiceOf(pitch: Pitch, { melody, chord, key }: Slot, on: Instrument): Choice {
  const number = midi(pitch);
  const tonic = semitoneOf(key.tonic);
  return {
    pitch,
    number,
    place: diatonic(pitch),
    interval: melody ? intervalNumber(pitch, melody) : 0,
    fits: holds(chord, pitch),
    chordNote: chord ? chord.classes.indexOf(number % 12) : -1,
    open: on.strings.some(({ open }) => midi(open) === number),
    chromatic: !inKey(pitch, key),
    tonic: number % 12 === tonic,
    fifth: number % 12 === (tonic + 7) % 12,
  };
}

function withMelody(slot: Slot, on: Instrument): Choice[] {
  const { melody, key } = slot;
  const way = slot.side === "below" ? -1 : 1;
  if (!melody) return [];
  return INTERVALS.flatMap((interval) => {
    const plain = interval === 1 ? melody : scaleStep(melody, way * (interval - 1), key);
    return [plain, ...altered(plain, slot)].map((pitch) => choiceOf(pitch, slot, on));
  });
}

/**
 * The same step as the chord spells it, where that differs from the key: the leading note of a minor tune's dominant.
 */
function altered(pitch: Pitch, { chord }: Slot): Pitch[] {
  if (!chord || holds(chord, pitch)) return [];
  return chord.tones
    .map(parseClass)
    .filter((t) => t.step === pitch.step && t.alter !== pitch.alter && Math.abs(t.alter) < 2)
    .map((t) => ({ ...pitch, alter: t.alter }));
}

/**
 * Note names an independent line draws on: the chord's; for drones tonic and fifth; where notes pass, those of the
 * key.
 */
function namesFor({ chord, key, school }: Slot): string[] {
  const notes = scale(key);
  const rooted = school.drones ? [notes[0] as string, notes[4] as string] : [];
  const passing = school.pace === "held" || !chord || school.drones ? notes : [];
  return [...new Set([...(chord?.tones ?? []), ...rooted, ...passing])];
}

/** Notes of an independent line in every octave near the melody. */
function onItsOwn(slot: Slot, on: Instrument): Choice[] {
  const classes = namesFor(slot)
    .map(parseClass)
    .filter((c) => Math.abs(c.alter) < 2);
  const near = slot.unders.map((u) => u.number);
  const [low, high] = near.length ? [Math.max(...near) - FAR, Math.min(...near) + FAR] : [0, 127];
  return OCTAVES.flatMap((octave) => classes.map((c) => choiceOf({ ...c, octave }, slot, on)))
    .filter((c) => c.number >= low && c.number <= high)
    .filter((c) => !slot.school.drones || c.open || c.tonic || c.fifth || c.fits);
}

/** The key's plain third from the melody note. */
export const plainThird = (melody: Pitch, side: "below" | "above", key: Key): Pitch =>
  scaleStep(melody, side === "below" ? -2 : 2, key);
