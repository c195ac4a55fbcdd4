import {
  breaches,
  chordOf,
  isWithin,
  type Limits,
  type Material,
  type PartNote,
  rubs,
  soundingMelody,
} from "../../grading";
import type { Change, EveningRequest } from "./model";

// A part after it was written: room that was made in it, bars written by hand, and what is taken out again.

/** The part of someone, as changes look at it. */
type Changing = { name: string; limits: Limits };

/** A note moved by semitones where its part has all of that; as it is otherwise. */
function shifted(note: PartNote, by: number, limits: Limits): PartNote {
  const pitches = note.pitches.map((p) => p + by);
  const { strings: _s, frets: _f, fingers: _n, ...free } = note;
  return pitches.every((p) => isWithin(limits, p)) ? { ...free, pitches } : note;
}

/** How far another note of the chord may lie, in semitones; what a rub with the tune costs against that. */
const AROUND = 7;
const RUB = 20;
/** A single note on another note of its chord: the nearest within the limits that rubs least with the tune. */
function elsewhere(material: Material, note: PartNote, limits: Limits): PartNote {
  const [pitch] = note.pitches;
  const symbol = material.chords.findLast((c) => c.bar === note.bar && c.at <= note.at)?.symbol;
  if (pitch === undefined || note.pitches.length > 1 || !symbol) return note;
  const { classes } = chordOf(symbol);
  const melody = soundingMelody(material);
  const from = (material.places[note.bar]?.at ?? 0) + note.at;
  const cost = (p: number) => Math.abs(p - pitch) + RUB * rubs(material, melody, from, from + note.ticks, p);
  const near = Array.from({ length: 2 * AROUND + 1 }, (_, i) => pitch - AROUND + i);
  const own = near.filter((p) => p !== pitch && classes.includes(p % 12) && isWithin(limits, p));
  const [best] = own.sort((a, b) => cost(a) - cost(b));
  return best === undefined ? note : shifted(note, best - pitch, limits);
}

type Changed = (material: Material, note: PartNote, limits: Limits) => PartNote[];
const CHANGED: Readonly<Record<Change, Changed>> = {
  rest: () => [],
  "another note": (material, note, limits) => [elsewhere(material, note, limits)],
  "octave higher": (_, note, limits) => [shifted(note, 12, limits)],
  "octave lower": (_, note, limits) => [shifted(note, -12, limits)],
  quieter: (_, note) => [{ ...note, quiet: true }],
};

/** A part with what was changed in it to make room, bar by bar, where it has that. */
export function withChanges(
  material: Material,
  notes: readonly PartNote[],
  { name, limits }: Changing,
  changes: NonNullable<EveningRequest["changes"]>,
): PartNote[] {
  const own = new Map(changes.filter((c) => c.name === name).map((c) => [c.bar, c.what]));
  return notes.flatMap((note): PartNote[] => {
    const what = own.get(note.bar);
    return what === undefined ? [note] : CHANGED[what](material, note, limits);
  });
}

/** A part with the bars that were written by hand in the place of its own. */
export function byHand(notes: readonly PartNote[], edits: NonNullable<EveningRequest["edits"]>): PartNote[] {
  if (edits.length === 0) return [...notes];
  const bars = new Map(edits.map((e) => [e.bar, e.notes.map((n): PartNote => ({ ...n, bar: e.bar }))]));
  const others = notes.filter((n) => !bars.has(n.bar));
  return [...others, ...[...bars.values()].flat()].sort((a, b) => a.bar - b.bar || a.at - b.at);
}

/** Notes that are taken out at most until nothing is broken. */
const MENDS = 60;

/**
 * A part without the notes that break a limit, since one between them is no longer there: what rubbed has gone, and its
 * neighbours may be too far apart or too soon.
 */
export function mended(part: Parameters<typeof breaches>[0], hands: ReadonlySet<number>): PartNote[] {
  let notes = [...part.notes];
  for (let i = 0; i < MENDS; i++) {
    // What was written by hand stands, whatever it breaks.
    const worst = breaches({ ...part, notes }).find((b) => !hands.has(b.bar));
    if (!worst) return notes;
    const { leap } = part.limits;
    const far = notes.findIndex((n, k) => {
      const [a, b] = [notes[k - 1]?.pitches[0], n.pitches[0]];
      return n.bar === worst.bar && a !== undefined && b !== undefined && leap !== null && Math.abs(a - b) > leap;
    });
    const out = worst.limit === "leap" && far >= 0 ? far : notes.findIndex((n) => n.bar === worst.bar);
    if (out < 0) return notes;
    notes = notes.filter((_, k) => k !== out);
  }
  return notes;
}
