import { type Fret, type Instrument, type Level, type Tuning, tuned } from "../instruments";
import { lineNotes, type Place } from "../score";
import { chord, type Key, midi, type Pitch, spell } from "../theory";
import { boardOf } from "./board";
import { stopsOf } from "./grips";
import { type Shape, shapesFor } from "./shapes";

const PLAIN = { tonic: "C", mode: "major" } as const;

/** Semitones a capo on a fret raises the strings by: on diatonic frets, what lies between. */
const raiseOf = ({ frets = [] }: Instrument, capo: number): number =>
  frets.find((f) => f.label === String(capo))?.semitones ?? capo;

/**
 * An instrument with a capo on a fret: every string sounds that much higher, the short one too, and frets count from
 * there.
 */
export function withCapo(on: Instrument, capo: number): Instrument {
  if (capo === 0) return on;
  const by = raiseOf(on, capo);
  const raised = (open: Pitch): Pitch => spell(midi(open) + by, PLAIN);
  const strings = on.strings.map((s) => ({ ...s, open: raised(s.open) }));
  const counted = (label: string) => label.replace(/^\d+/, (n) => String(Number(n) - capo));
  const frets = on.frets
    ?.filter((f) => f.semitones >= by)
    .map((f): Fret => ({ label: counted(f.label), semitones: f.semitones - by }));
  return { ...on, strings, lowest: raised(on.lowest), highest: raised(on.highest), ...(frets ? { frets } : {}) };
}

/** What speaks against a tuning or a capo, in points: teachers' judgement. */
export const CAPO_PRICES = {
  /** All chords in shapes that lie across the strings. */
  barres: 2,
  /** A fret of the shapes, on average. */
  fret: 0.25,
  /** All of the tune below the top three strings. */
  low: 1,
  /** A tonic or a dominant that is not an open bass string. */
  closedBass: 1,
  /** Each fret beyond the fourth. */
  far: 1,
  retuning: 2,
} as const;

/** Frets a capo is near the nut, and strings the tune lies best on. */
const NEAR = 4;
const TOP = 3;
const FIFTH = 7;

/** A way to tune for a tune: the tuning, the capo (0 for none), what speaks against it, and why in words. */
export type Setting = { tuning: string; capo: number; cost: number; words: string };

type Request = {
  places: readonly Place[];
  instrument: Instrument;
  key: Key;
  symbols: readonly string[];
  level: Level;
  /** Semitones from the page to the sound. */
  shift: number;
};

/**
 * Every tuning and capo in which a fretted instrument has all of a tune in the key of the class, the best first. Empty
 * without frets, or where none has it all.
 */
export function settingsFor({ instrument, ...request }: Request): Setting[] {
  if (!instrument.frets) return [];
  const [usual] = instrument.tunings;
  const found = instrument.tunings.flatMap((tuning) =>
    capos(instrument).flatMap((capo) => settingOf(request, instrument, tuning, capo, tuning.name === usual?.name)),
  );
  return found.sort((a, b) => a.cost - b.cost || a.capo - b.capo);
}

/** Where a capo may lie: at the nut, and on every fret that instruments of its kind take it on. */
const capos = ({ capo = 0, frets = [] }: Instrument): number[] => [
  0,
  ...frets.filter((f) => f.semitones > 0 && f.semitones <= capo && /^\d+$/.test(f.label)).map((f) => Number(f.label)),
];

function settingOf(
  { places, key, symbols, level, shift }: Omit<Request, "instrument">,
  instrument: Instrument,
  tuning: Tuning,
  capo: number,
  usual: boolean,
): Setting[] {
  const on = withCapo(tuned(instrument, tuning.name) ?? instrument, capo);
  const board = boardOf(on, level);
  const notes = lineNotes(places);
  if (!board || notes.length === 0) return [];
  const lies = notes.map((n) => stopsOf(board, midi(n.pitches.at(-1) as Pitch) + shift)[0]);
  if (lies.some((l) => l === undefined)) return [];
  const low = lies.filter((l) => (l?.string ?? 0) < on.strings.length - TOP).length / lies.length;
  const shapes = shapesFor(on, symbols, level).filter((s): s is Shape => s !== null);
  const barres = shapes.filter((s) => s.barre > 0).length / Math.max(1, shapes.length);
  const frets = shapes.flatMap((s) => s.held.map((h) => h.fret.semitones));
  const mean = frets.reduce((sum, f) => sum + f, 0) / Math.max(1, frets.length);
  const tonic = chord(key.tonic).classes[0] ?? 0;
  const bass = basses(on);
  const closed = [tonic, (tonic + FIFTH) % 12].filter((c) => !bass.includes(c)).length;
  const cost =
    barres * CAPO_PRICES.barres +
    mean * CAPO_PRICES.fret +
    low * CAPO_PRICES.low +
    closed * CAPO_PRICES.closedBass +
    Math.max(0, capo - NEAR) * CAPO_PRICES.far +
    (usual ? 0 : CAPO_PRICES.retuning);
  return [{ tuning: tuning.name, capo, cost, words: wordsOf(tonic, raiseOf(instrument, capo), barres, closed, usual) }];
}

/** What the lower strings sound open, the thumb's short one aside. Pitch classes. */
function basses({ strings }: Instrument): number[] {
  const open = strings.filter((s) => !s.shortFrom).map((s) => midi(s.open));
  return open.slice(0, Math.max(2, open.length - TOP)).map((n) => n % 12);
}

function wordsOf(tonic: number, raised: number, barres: number, closed: number, usual: boolean): string {
  const shapes = spell(60 + ((tonic - raised + 120) % 12), PLAIN);
  const name = `${shapes.step}${shapes.alter > 0 ? "#" : ""}${shapes.alter < 0 ? "b" : ""}`;
  const said = [
    raised > 0 ? `You play ${name} shapes` : "",
    barres > 0
      ? `${Math.round(barres * 100)} % of the chords lie across the strings`
      : "no chord lies across the strings",
    closed === 0 ? "tonic and dominant are open basses" : "",
    usual ? "" : "the strings are tuned anew",
  ].filter(Boolean);
  return `${(said[0]?.[0] ?? "").toUpperCase()}${said.join("; ").slice(1)}.`;
}
