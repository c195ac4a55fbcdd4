import type { ChordPlan } from "../chords";
import { FIDDLE, type Instrument } from "../instruments";
import { type Place, type Timed, timeline } from "../score";
import { type LocalCost, type MoveCost, solve } from "../search";
import { type Chord, degreeOf, diatonic, inKey, intervalName, midi, type Pitch, parseClass, pitchName, scaleStep } from "../theory";
import { clashOf } from "./clash";
import type { HarmonyLine, HarmonyNote, Side } from "./model";
import { type MelodyNote, melodyNotes } from "./scene";
import { CHORD_FIT, type School } from "./schools";

/** A note the line could take: the interval it makes, whether the chord holds it, whether it is foreign to the key. A rest has no pitch. */
type Choice = { pitch: Pitch | null; sound: number; place: number; interval: number; fits: boolean; chromatic: boolean };
const REST: Choice = { pitch: null, sound: 0, place: 0, interval: 0, fits: false, chromatic: false };

/** Intervals any line may use, counted inclusively. */
const INTERVALS = [3, 4, 6, 5, 8, 10, 1];
const REST_COST = 9;
/** Semitones, folded into an octave, that may not meet the melody on a beat: the semitone either way, and the tritone. */
const HARSH = [1, 6, 11];

export type HarmonyRequest = { places: readonly Place[]; plan: ChordPlan; phraseEnds: ReadonlySet<number>; school?: School; side?: Side; instrument?: Instrument };

/**
 * A second line to the tune by one school: the cheapest path over its melody notes.
 * Holds always: every note in the instrument's range; in the key, or in the chord when that asks for another note; never across the
 * melody; no semitone or tritone against it on a beat; no two fifths, octaves or unisons running. Where nothing keeps all of that, a rest.
 */
export function deriveHarmony({ places, plan, phraseEnds, school = CHORD_FIT, side = "below", instrument = FIDDLE }: HarmonyRequest): HarmonyLine {
  const notes = melodyNotes(places, plan, side, phraseEnds);
  const states = notes.map((note) => [...choices(note, instrument), REST]);
  const local: LocalCost<Choice>[] = [
    { name: "interval", at: (i, s) => (s.pitch ? school.cost(s.interval, s.fits, notes[i] as MelodyNote) : REST_COST) },
    { name: "note outside the key", at: (_, s) => (s.chromatic ? 0.3 : 0) },
  ];
  const moves: MoveCost<Choice>[] = [
    { name: "running fifths or octaves", into: (i, a, b) => (runs(notes[i - 1] as MelodyNote, a, notes[i] as MelodyNote, b) ? Number.POSITIVE_INFINITY : 0) },
    { name: "leaving the parallel", into: (i, a, b) => (a.pitch && b.pitch && a.interval !== b.interval && !(notes[i] as MelodyNote).weighty && near(notes[i - 1] as MelodyNote, notes[i] as MelodyNote) ? school.parallel : 0) },
    { name: "leaps", into: (i, a, b) => leap(notes[i - 1] as MelodyNote, a, notes[i] as MelodyNote, b) },
  ];
  const { path } = solve({ states, local, moves });
  const line = notes.map((note, i) => described(note, path[i] as Choice, school, instrument, states[i] as Choice[]));
  const clashes = clashOf(line, places);
  return {
    school: school.name, side, instrument: instrument.name, notes: withRests(line, places), clashes,
    clash: clashes.length ? Math.round((10 * clashes.reduce((a, b) => a + b, 0)) / clashes.length) / 10 : 0,
  };
}

const holds = (chord: Chord | null, pitch: Pitch) => chord?.sounds.includes(midi(pitch) % 12) === true;

/** Notes that keep every rule about one moment. */
function choices(note: MelodyNote, on: Instrument): Choice[] {
  const way = note.side === "below" ? -1 : 1;
  return INTERVALS.flatMap((interval) => {
    const plain = interval === 1 ? note.melody : scaleStep(note.melody, way * (interval - 1), note.key);
    return [plain, ...altered(plain, note)].flatMap((pitch) => {
      const gap = (midi(pitch) - midi(note.melody)) * way;
      const chromatic = !inKey(pitch, note.key);
      const fits = holds(note.chord, pitch);
      const allowed = gap >= 0 && midi(pitch) >= midi(on.lowest) && midi(pitch) <= midi(on.highest)
        && (!chromatic || fits) && !(note.onBeat && HARSH.includes(gap % 12)) && !(interval > 1 && gap % 12 === 1);
      return allowed ? [{ pitch, sound: midi(pitch), place: diatonic(pitch), interval, fits, chromatic }] : [];
    });
  });
}

/** The same step as the chord spells it, where that differs from the key: the leading note of a minor tune's dominant. */
function altered(pitch: Pitch, { chord }: MelodyNote): Pitch[] {
  if (!chord || holds(chord, pitch)) return [];
  return chord.tones.map(parseClass).filter((t) => t.step === pitch.step && t.alter !== pitch.alter && Math.abs(t.alter) < 2).map((t) => ({ ...pitch, alter: t.alter }));
}

/** Whether two voices move from one fifth, octave or unison to another of the same kind. */
function runs(before: MelodyNote, a: Choice, after: MelodyNote, b: Choice): boolean {
  if (!a.pitch || !b.pitch) return false;
  const first = Math.abs(a.sound - before.sound) % 12;
  if (first !== Math.abs(b.sound - after.sound) % 12 || (first !== 0 && first !== 7)) return false;
  return a.sound !== b.sound || before.sound !== after.sound;
}

const near = (a: MelodyNote, b: MelodyNote) => Math.abs(a.position - b.position) <= 1;

/** Points for a leap of the line beyond what the melody itself leaps. */
function leap(before: MelodyNote, a: Choice, after: MelodyNote, b: Choice): number {
  if (!a.pitch || !b.pitch) return a.pitch === b.pitch ? 0 : 0.4;
  const own = Math.abs(b.place - a.place);
  const melody = Math.abs(after.position - before.position);
  return 0.12 * Math.max(0, own - Math.max(melody, 2)) + (own > 6 ? 0.6 : 0);
}

function described(note: MelodyNote, choice: Choice, school: School, on: Instrument, open: readonly Choice[]): HarmonyNote {
  const base = { bar: note.first.place.index, event: note.first.index, at: note.at, ticks: note.ticks, melody: note.melody, chord: note.chord?.symbol ?? null };
  const way = note.side === "below" ? -1 : 1;
  const third = scaleStep(note.melody, 2 * way, note.key);
  if (!choice.pitch) {
    const words = open.length > 1 ? "every note in reach would run in fifths or octaves with the melody" : `no note ${note.side} the melody lies in the range of the ${on.name} without a clash`;
    return { ...base, pitch: null, interval: null, rule: "rest", reason: `A rest: ${words}.` };
  }
  const { rule, words } = school.because(choice.interval, choice.fits, note);
  const foreign = choice.chromatic ? ` ${pitchName(choice.pitch).slice(0, -1)} is outside the key; the chord of ${note.chord?.symbol} asks for it.` : "";
  const plain = choice.interval === 3 ? "" : ` ${whyNotThird(note, third, on)}`;
  const name = choice.interval === 1 ? "The same note as the melody" : `A ${intervalName(choice.interval)} ${note.side}`;
  return { ...base, pitch: choice.pitch, interval: choice.interval, rule, reason: `${name}: ${words}.${foreign}${plain}` };
}

function whyNotThird(note: MelodyNote, third: Pitch, on: Instrument): string {
  const name = pitchName(third);
  if (midi(third) < midi(on.lowest)) return `The plain third, ${name}, lies below the ${on.name}.`;
  if (midi(third) > midi(on.highest)) return `The plain third, ${name}, lies above the ${on.name}’s range here.`;
  const degree = degreeOf(third, note.key);
  if (note.chord && !holds(note.chord, third)) return `The plain third would be ${name}, degree ${degree}, which is not in ${note.chord.symbol}.`;
  return `The plain third would be ${name}.`;
}

/** The melody's rests as rests of the line, in time order. */
function withRests(line: readonly HarmonyNote[], places: readonly Place[]): HarmonyNote[] {
  const rests = timeline(places).filter((t) => t.event.pitches.length === 0).map((t: Timed): HarmonyNote => ({
    bar: t.place.index, event: t.index, at: t.at, ticks: t.event.ticks, pitch: null, melody: null, interval: null, chord: null, rule: "rest", reason: "The melody rests.",
  }));
  return [...line, ...rests].sort((a, b) => a.at - b.at);
}

