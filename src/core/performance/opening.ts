import type { Performance, PlayedNote } from "../score";
import { chord, type Key } from "../theory";
import { CHORD_LINE, bassOf, voicing } from "./backing";

const LOUD = { bass: 62, chord: 50 };
/** Share of its bar that the opening chord sounds. */
const HELD = 0.9;
const MINOR: ReadonlySet<string> = new Set(["minor", "dorian", "phrygian", "locrian"]);

/** The tonic chord held for one bar before the tune, for dancers to honour each other. */
export function openingChord({ tonic, mode }: Key, ticks: number): PlayedNote[] {
  const tonicChord = chord(MINOR.has(mode) ? `${tonic}m` : tonic);
  const note = (noteNumber: number, velocity: number): PlayedNote => ({
    line: CHORD_LINE.id,
    at: 0,
    ticks: Math.round(ticks * HELD),
    noteNumber,
    cents: 0,
    velocity,
  });
  return [note(bassOf(tonicChord), LOUD.bass), ...voicing(tonicChord).map((n) => note(n, LOUD.chord))];
}

/** A performance that begins so many ticks later, after notes of their own. */
export function withOpening(performance: Performance, before: readonly PlayedNote[], ticks: number): Performance {
  const later = <T extends { at: number }>(all: readonly T[]): T[] => all.map((x) => ({ ...x, at: x.at + ticks }));
  /** What holds at the start holds for the opening too. */
  const fromStart = <T extends { at: number }>(all: readonly T[]): T[] =>
    later(all).map((x, i) => (i === 0 ? { ...x, at: 0 } : x));
  // A pickup stands under a short metre of its own; the opening is a full bar.
  const full = performance.metres[1] ?? performance.metres[0];
  const metres = later(performance.metres);
  const hasChords = performance.lines.some((l) => l.id === CHORD_LINE.id);
  return {
    ...performance,
    lines: hasChords ? performance.lines : [...performance.lines, CHORD_LINE],
    notes: [...before, ...later(performance.notes)],
    bars: later(performance.bars),
    metres: full ? [{ ...full, at: 0 }, ...metres] : metres,
    keys: fromStart(performance.keys),
    tempos: fromStart(performance.tempos),
    ticks: performance.ticks + ticks,
  };
}
