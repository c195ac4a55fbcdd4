import { barTicks, beatTicks, type Place, type PlayedNote } from "../../score";
import { chord, type Key, semitoneOf } from "../../theory";

/** What a part may sound in the last chord: its line, notes it has (MIDI, the likeliest first), and its loudness. */
export type ChordNote = { line: string; pitches: readonly number[]; velocity: number };

const MINOR: ReadonlySet<string> = new Set(["minor", "dorian", "phrygian", "locrian"]);
/** Share of the bar that an open chord sounds. */
const HELD = 0.9;

/** Pitch classes of the tonic's chord: all of them, or the first and fifth alone. */
export function tonicClasses({ tonic, mode }: Key, open: boolean): readonly number[] {
  const { root, classes } = chord(MINOR.has(mode) ? `${tonic}m` : tonic);
  const first = semitoneOf(root);
  return open ? [first, (first + 7) % 12] : classes;
}

/** The last chord after a bar: one beat for all, or a bar long and open, on the first and fifth of the key. */
export function closingChord(place: Place, open: boolean, close: readonly ChordNote[]) {
  const ticks = barTicks(place.metre) || place.ticks;
  const length = open ? Math.round(ticks * HELD) : Math.min(ticks, beatTicks(place.metre));
  const beats = Math.max(1, Math.round(ticks / beatTicks(place.metre)));
  const notes = close.flatMap(({ line, pitches, velocity }) =>
    pitches.map((noteNumber): PlayedNote => ({ line, at: 0, ticks: length, noteNumber, cents: 0, velocity })),
  );
  return { notes, ticks, beats };
}
