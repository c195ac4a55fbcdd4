import type { Instrument } from "../instruments";
import {
  alterIn,
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
  type Step,
} from "../theory";
import type { Choice } from "./choice";
import { isKept } from "./promises";
import type { Slot, Spelled } from "./slots";

/** Intervals a line that goes with the melody may use, counted inclusively. */
const INTERVALS = [3, 4, 6, 5, 8, 10, 1];
/** How far an independent line may lie from the melody, in semitones. */
const FAR = 24;
const OCTAVES = [1, 2, 3, 4, 5, 6, 7];

export const holds = (chord: Chord | null, pitch: Pitch) => chord?.classes.includes(midi(pitch) % 12) === true;

/**
 * The form of a letter that sounds at a slot: the melody's own in its bar, of several the one nearest in time; else
 * that of the chord in force; else the key's.
 */
export function formAt({ at, ticks, around, chord, key }: Slot, step: Step): number {
  const inChord = chord?.tones.map(parseClass).find((t) => t.step === step && Math.abs(t.alter) < 2)?.alter;
  const own = around.filter((n) => n.step === step);
  const away = (n: Spelled) => Math.max(0, n.at - (at + ticks), at - (n.at + n.ticks));
  const nearest = Math.min(...own.map(away));
  const forms = own.filter((n) => away(n) === nearest).map((n) => n.alter);
  if (forms.length > 0) return forms.find((f) => f === inChord) ?? (forms[0] as number);
  return inChord ?? alterIn(key, step);
}

/** Notes that keep every promise over a slot. */
export function choices(slot: Slot, on: Instrument): Choice[] {
  const found = slot.school.pace === "melody" ? withMelody(slot, on) : onItsOwn(slot, on);
  return found.filter((choice) => isKept(choice, slot, on));
}

/** A pitch as a choice over a slot, whether or not it keeps the promises. */
export function choiceOf(pitch: Pitch, slot: Slot, on: Instrument): Choice {
  const { melody, chord, key, around, leadsTo } = slot;
  const number = midi(pitch);
  const tonic = semitoneOf(key.tonic);
  const fits = holds(chord, pitch);
  return {
    pitch,
    number,
    place: diatonic(pitch),
    interval: melody ? intervalNumber(pitch, melody) : 0,
    gap: melody ? Math.abs(number - midi(melody)) % 12 : 0,
    fits,
    figure: isAsked(slot) && !fits ? "loose" : undefined,
    way: 0,
    chordNote: chord ? chord.classes.indexOf(number % 12) : -1,
    leads: leadsTo?.classes.some((c) => [1, 2, 10, 11].includes((number - c + 120) % 12)) === true,
    open: on.strings.some(({ open }) => midi(open) === number),
    chromatic: !inKey(pitch, key),
    sounded: around.some((n) => n.step === pitch.step && n.alter === pitch.alter),
    tonic: number % 12 === tonic,
    fifth: number % 12 === (tonic + 7) % 12,
  };
}

/** Whether a note outside the chord has to pass or neighbour here. */
const isAsked = ({ school, weighty, chord }: Slot): boolean =>
  school.pace === "melody" && !school.plain && !weighty && chord !== null;

/** Intervals at which a line passes beside the melody; farther off, and on its own note, it does not. */
const CLOSE = [3, 4, 5, 6];

/**
 * Light notes outside the chord once more, as what they could be: passing up or down, a neighbour from below or above.
 * Only where the notes beside them leave room for it.
 */
export function figured(open: readonly (readonly Choice[])[]): Choice[][] {
  const places = open.map((own) => new Set(own.map((c) => c.place)));
  const has = (i: number, place: number) => places[i]?.has(place) === true;
  return open.map((own, i) =>
    own.flatMap((choice) => {
      if (choice.figure !== "loose" || !CLOSE.includes(choice.interval)) return [choice];
      const ways = ([1, -1] as const).filter((way) => has(i - 1, choice.place - way));
      const passing = ways.filter((way) => has(i + 1, choice.place + way));
      const neighbour = ways.filter((way) => has(i + 1, choice.place - way));
      return [
        ...passing.map((way): Choice => ({ ...choice, figure: "passing", way })),
        ...neighbour.map((way): Choice => ({ ...choice, figure: "neighbour", way })),
        choice,
      ];
    }),
  );
}

/** Notes of a close: wherever on its side the chord lies, so that one is to be had. */
const CLOSES = [3, 4, 6, 5, 8, 10, 1, 7, 2, 9, 11, 12, 13];

function withMelody(slot: Slot, on: Instrument): Choice[] {
  const { melody, key, chord, school, cadence } = slot;
  const way = slot.side === "below" ? -1 : 1;
  if (!melody) return [];
  const plain = (school.seconds ? [...INTERVALS, 2] : INTERVALS).map((interval) => offered(interval));
  if (!cadence || school.plain || !chord || plain.some((c) => c.fits && isKept(c, slot, on))) return plain;
  return CLOSES.map((interval) => offered(interval));

  function offered(interval: number): Choice {
    const { step, octave } = scaleStep(melody as Pitch, way * (interval - 1), key);
    return choiceOf({ step, octave, alter: formAt(slot, step) }, slot, on);
  }
}

/**
 * Letters an independent line draws on: the chord's; for drones tonic and fifth; where notes pass, those of the key.
 */
function lettersFor({ chord, key, school }: Slot): Step[] {
  const notes = scale(key);
  const rooted = school.drones ? [notes[0] as string, notes[4] as string] : [];
  const passing = school.pace === "held" || !chord || school.drones ? notes : [];
  return [...new Set([...(chord?.tones ?? []), ...rooted, ...passing].map((name) => parseClass(name).step))];
}

/** Notes of an independent line in every octave near the melody. */
function onItsOwn(slot: Slot, on: Instrument): Choice[] {
  const near = slot.unders.map((u) => u.number);
  const [low, high] = near.length ? [Math.max(...near) - FAR, Math.min(...near) + FAR] : [0, 127];
  const names = lettersFor(slot).map((step) => ({ step, alter: formAt(slot, step) }));
  return OCTAVES.flatMap((octave) => names.map((name) => choiceOf({ ...name, octave }, slot, on)))
    .filter((c) => c.number >= low && c.number <= high)
    .filter((c) => !slot.school.drones || c.open || c.tonic || c.fifth || c.fits);
}

/** The key's plain third from the melody note. */
export const plainThird = (melody: Pitch, side: "below" | "above", key: Key): Pitch =>
  scaleStep(melody, side === "below" ? -2 : 2, key);
