import type { Instrument } from "../instruments";
import type { Event, Place } from "../score";
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

/** The notes of a tune that strokes are for: ties joined, rests told by the note after them. */
export function strokeNotes(places: readonly Place[], on: Instrument): StrokeNote[] {
  const notes: StrokeNote[] = [];
  let [tied, rest] = [false, 0];
  for (const place of places) {
    let at = place.at;
    place.bar.events.forEach((event, order) => {
      const last = notes.at(-1);
      const sounds = event.pitches.length > 0;
      if (sounds && tied && last) last.ticks += event.ticks;
      else if (sounds) {
        notes.push({
          place,
          event: order,
          at,
          into: place.offset + at - place.at,
          ticks: event.ticks,
          rest,
          pitches: event.pitches,
          ...stringOf(event.pitches, on),
          tuplet: event.tuplet,
        });
      }
      rest = sounds ? 0 : rest + event.ticks;
      tied = sounds && event.tie === true;
      at += event.ticks;
    });
  }
  return notes;
}
