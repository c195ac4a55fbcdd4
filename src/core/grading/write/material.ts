import type { PlannedChord } from "../../chords";
import type { HarmonyLine } from "../../harmony";
import type { Instrument } from "../../instruments";
import { placeAbove } from "../../technique";
import { beatTicks, type LineNote, type Place } from "../../score";
import { chord, type Chord, type Key, midi, type Pitch, semitoneOf } from "../../theory";
import type { Learner } from "../learner";
import type { Limits } from "../limits";
import type { RoleName } from "../roles";

/** A phrase by its first and last bar, and the order of the earlier phrase it is the same as. */
export type Phrased = { from: number; to: number; like: number | null };

/** What parts are written from: the tune, its chords, its form, its tempo, and harmony lines by side and instrument. */
export type Material = {
  places: readonly Place[];
  chords: readonly PlannedChord[];
  key: Key;
  /** Seconds of a tick. */
  tick: number;
  phrases: readonly Phrased[];
  melody: readonly LineNote[];
  dance: string | null;
  /** A harmony line of a side; of another school where `other` is asked for. */
  harmony: (side: "below" | "above", other?: boolean) => HarmonyLine;
};

/** One note of a part: its bar (index), ticks into it, what it sounds; strokes of a drum have no pitches. */
export type PartNote = {
  bar: number;
  at: number;
  ticks: number;
  pitches: readonly number[];
  strings?: readonly number[];
  frets?: readonly string[];
  fingers?: readonly number[];
  stroke?: "down" | "up" | "heavy" | "light" | "bass" | "brush" | "chop";
  /** Notes with one number are in one bow. */
  slur?: number;
  /** Played low, to let another be heard. */
  quiet?: true;
};

/** How a part is written: as the level has it, with less in it, or otherwise within the same limits. */
export const MANNERS_OF_WRITING = ["usual", "plainer", "another"] as const;
export type Writing = (typeof MANNERS_OF_WRITING)[number];

/** What is asked of a writer; `avoid` are the notes of the usual part, by bar and tick, where another one is wanted. */
export type Request = {
  who: Learner;
  on: Instrument;
  role: RoleName;
  limits: Limits;
  avoid?: ReadonlyMap<string, number>;
};
/** Where a note stands, as `avoid` knows it. */
export const spotOf = (bar: number, at: number): string => `${bar}.${at}`;
/**
 * What a writer gives: its notes in order, what it leaves to others, how they lie (said to the learner), and how much
 * of the tune's beats it has.
 */
export type Draft = { notes: PartNote[]; leftOut: string[]; remarks?: string[]; kept?: number };

export const topOf = (pitches: readonly Pitch[]): number => midi(pitches.at(-1) as Pitch);

/** A chord in force: its notes as classes, and where it begins and ends in its bar. */
export type Segment = { bar: number; at: number; ticks: number; symbol: string; chord: Chord };
const known = new Map<string, Chord>();
export function chordOf(symbol: string): Chord {
  const found = known.get(symbol) ?? chord(symbol);
  known.set(symbol, found);
  return found;
}
export const rootClass = (of: Chord): number => semitoneOf(of.root);
export const bassClass = (of: Chord): number => semitoneOf(of.bass ?? of.root);

/** The chords of each bar in order. */
export function segmentsOf({ places, chords }: Material): Segment[][] {
  const bars: Segment[][] = places.map(() => []);
  for (const { bar, at, ticks, symbol } of chords) {
    const own = bars[bar];
    const last = own?.at(-1);
    if (last && last.symbol === symbol && last.at + last.ticks === at) last.ticks += ticks;
    else own?.push({ bar, at, ticks, symbol, chord: chordOf(symbol) });
  }
  return bars;
}
export const segmentAt = (own: readonly Segment[], at: number): Segment | undefined =>
  own.findLast((s) => s.at <= at && at < s.at + s.ticks);

/** Melody notes as they sound, by absolute tick. */
export type Sounding = { at: number; until: number; pitch: number };
export const soundingMelody = ({ melody }: Material): Sounding[] =>
  melody.map((n) => ({ at: n.at, until: n.at + n.ticks, pitch: topOf(n.pitches) }));

/** Intervals that rub, in semitones within the octave: the semitone, the major seventh, the minor ninth. */
const HARSH = new Set([1, 11]);
export const isHarsh = (a: number, b: number): boolean => a !== b && HARSH.has(Math.abs(a - b) % 12);

/** Whether a pitch rubs against a note of a chord that is not the pitch itself. */
export const rubsIn = (of: Chord, pitch: number): boolean =>
  !of.classes.includes(pitch % 12) && of.classes.some((c) => isHarsh(c, pitch % 12));

/**
 * How harshly a pitch held over a stretch rubs against the melody: half beats of it where a beat falls; 0 where it does
 * not. What only passes between the beats is heard as passing.
 */
export function rubs(
  material: Material,
  melody: readonly Sounding[],
  from: number,
  until: number,
  pitch: number,
): number {
  let sum = 0;
  for (const n of melody) {
    if (n.until <= from || n.at >= until || !isHarsh(n.pitch, pitch)) continue;
    const both = Math.min(until, n.until) - Math.max(from, n.at);
    const place = material.places.findLast((p) => p.at <= Math.max(from, n.at));
    const half = place ? beatTicks(place.metre) / 2 : both;
    if (both >= half && (!place || hasBeat(place, Math.max(from, n.at), both))) sum += both / half;
  }
  return sum;
}

/** Whether a beat falls in a stretch (absolute ticks, and its length). */
function hasBeat(place: Place, from: number, ticks: number): boolean {
  const beat = beatTicks(place.metre);
  const into = place.offset + from - place.at;
  return into % beat === 0 || Math.floor((into + ticks - 1) / beat) > Math.floor(into / beat);
}

/** Whether a learner has a pitch. */
export const isWithin = ({ pitches, lowest, highest }: Limits, pitch: number): boolean =>
  pitches ? pitches.has(pitch) : pitch >= lowest && pitch <= highest;

/** Where a pitch lies on the strings a learner uses: the lowest place of the hand; undefined where it is not there. */
export function lieOn(on: Instrument, pitch: number, strings: readonly number[] | null): Lie | undefined {
  let best: (Lie & { reach: number }) | undefined;
  on.strings.forEach(({ number, open, shortFrom }, order) => {
    if (shortFrom || (strings && !strings.includes(number))) return;
    const reach = pitch - midi(open);
    const place = placeAbove(on, reach);
    if (place && (!best || reach < best.reach)) best = { order, number, reach, finger: place.finger, fret: place.fret };
  });
  return best;
}
/** A string by its order and its number, the finger, and the fret where there are frets. */
type Lie = { order: number; number: number; finger: number; fret: string | undefined };

/** The beat of a bar, in ticks: of a reel the half bar is felt, its blocks still count quarters. */
export const pulse = ({ metre }: Place): number => beatTicks(metre);
export const barSeconds = (material: Material, place: Place): number => place.ticks * material.tick;
/** Most notes of a bar for a learner. */
export const mostIn = (material: Material, place: Place, { perSecond }: Limits): number =>
  Math.floor(barSeconds(material, place) * perSecond + 1e-6);

/** A note that is longer than a bow or a breath, struck anew in even pieces on pulses. */
export function inBows(material: Material, place: Place, note: PartNote, { bow }: Limits): PartNote[] {
  if (bow === null || note.ticks * material.tick <= bow + 1e-9) return [note];
  const unit = pulse(place);
  const most = Math.max(1, Math.floor(bow / (unit * material.tick))) * unit;
  const longest = most * material.tick <= bow + 1e-9 ? most : Math.max(1, Math.floor(bow / material.tick));
  const pieces: PartNote[] = [];
  for (let at = note.at; at < note.at + note.ticks; at += longest)
    pieces.push({ ...note, at, ticks: Math.min(longest, note.at + note.ticks - at) });
  return pieces;
}
