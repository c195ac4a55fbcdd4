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
import type { Offer } from "./schools";
import type { Slot, Under } from "./slots";

/** A note the line could take. A rest has no pitch. */
export type Choice = Offer & { pitch: Pitch | null; sound: number; place: number; chromatic: boolean };
export const REST: Choice = {
  pitch: null,
  sound: 0,
  place: 0,
  interval: 0,
  fits: false,
  chordNote: -1,
  open: false,
  tonic: false,
  fifth: false,
  chromatic: false,
};

/** Intervals a line that goes with the melody may use, counted inclusively. */
const INTERVALS = [3, 4, 6, 5, 8, 10, 1];
/**
 * Semitones, folded into an octave, that may not meet the melody on a beat: the semitone either way, and the tritone.
 */
const HARSH = [1, 6, 11];
/** How far an independent line may lie from the melody, in semitones. */
const FAR = 24;

export const holds = (chord: Chord | null, pitch: Pitch) => chord?.sounds.includes(midi(pitch) % 12) === true;

/** Notes that keep every promise over a slot. */
export function choices(slot: Slot, on: Instrument): Choice[] {
  const found = slot.school.pace === "melody" ? withMelody(slot) : onItsOwn(slot, on);
  return found.filter((c) => keeps(c, slot, on));
}

/**
 * What every school promises about one moment: range, key or chord, no crossing, no semitone or tritone with the melody
 * on a beat.
 */
function keeps({ pitch, sound, fits, chromatic }: Choice, { unders, side }: Slot, on: Instrument): boolean {
  if (!pitch || sound < midi(on.lowest) || sound > midi(on.highest) || (chromatic && !fits)) return false;
  return unders.every((under) => {
    const gap = (sound - under.sound) * (side === "below" ? -1 : 1);
    return (
      gap >= 0 && !(under.strong && HARSH.includes(gap % 12)) && !(gap % 12 === 1 && pitch.step !== under.pitch.step)
    );
  });
}

function choice(pitch: Pitch, { melody, chord, key }: Slot, open: boolean): Choice {
  const sound = midi(pitch);
  return {
    pitch,
    sound,
    place: diatonic(pitch),
    interval: melody ? intervalNumber(pitch, melody) : 0,
    fits: holds(chord, pitch),
    chordNote: chord ? chord.sounds.indexOf(sound % 12) : -1,
    open,
    chromatic: !inKey(pitch, key),
    tonic: sound % 12 === semitoneOf(key.tonic),
    fifth: sound % 12 === (semitoneOf(key.tonic) + 7) % 12,
  };
}

function withMelody(slot: Slot): Choice[] {
  const { melody, key } = slot;
  const way = slot.side === "below" ? -1 : 1;
  if (!melody) return [];
  return INTERVALS.flatMap((interval) => {
    const plain = interval === 1 ? melody : scaleStep(melody, way * (interval - 1), key);
    return [plain, ...altered(plain, slot)].map((pitch) => choice(pitch, slot, false));
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
 * Chord notes (for drones also open strings, tonic and fifth; for figures the notes of the key) in every octave near
 * the melody.
 */
function onItsOwn(slot: Slot, on: Instrument): Choice[] {
  const { chord, key, school, unders } = slot;
  const key7 = scale(key);
  const open = on.strings.map(midi);
  const names = [
    ...(chord?.tones ?? []),
    ...(school.drones ? ([key7[0], key7[4]] as string[]) : []),
    ...(school.pace === "held" || !chord || school.drones ? key7 : []),
  ];
  const classes = [...new Set(names)].map(parseClass).filter((c) => Math.abs(c.alter) < 2);
  const near = unders.map((u: Under) => u.sound);
  const [low, high] = near.length ? [Math.max(...near) - FAR, Math.min(...near) + FAR] : [0, 127];
  return [1, 2, 3, 4, 5, 6, 7]
    .flatMap((octave) => classes.map((c) => choice({ ...c, octave }, slot, false)))
    .filter((c) => c.sound >= low && c.sound <= high)
    .map((c) => ({ ...c, open: open.includes(c.sound) }))
    .filter((c) => !school.drones || c.open || c.tonic || c.fifth || c.fits);
}

/** The key's plain third from the melody note. */
export const plainThird = (melody: Pitch, side: "below" | "above", key: Key): Pitch =>
  scaleStep(melody, side === "below" ? -2 : 2, key);
