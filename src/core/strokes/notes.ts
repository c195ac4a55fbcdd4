import type { Instrument } from "../instruments";
import { type Event, lineNotes, type Place } from "../score";
import { midi } from "../theory";
import type { StrokeNote } from "./model";

/** The string a pitch lies on: the highest that has it in first position, or the nearest; and whether it is open. */
function stringOf(pitches: Event["pitches"], { strings }: Instrument): Pick<StrokeNote, "string" | "open"> {
  const top = pitches[pitches.length - 1];
  if (!top || strings.length === 0) return { string: undefined, open: false };
  const note = midi(top);
  const below = strings.flatMap(({ open }, i) => (midi(open) <= note ? [{ i, above: note - midi(open) }] : []));
  const nearest = below.reduce((a, b) => (b.above < a.above ? b : a), below[0] ?? { i: 0, above: -1 });
  return { string: nearest.i, open: nearest.above === 0 };
}

/** The notes of a tune that strokes are for, each with its string. */
export const strokeNotes = (places: readonly Place[], on: Instrument): StrokeNote[] =>
  lineNotes(places).map((note) => ({ ...note, ...stringOf(note.pitches, on) }));
