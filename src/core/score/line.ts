import type { Event } from "./model";
import type { Place } from "./time";

/** A note of a line with what is tied to it. Times in ticks. */
export type LineNote = {
  place: Place;
  /** Order of its event in the bar. */
  event: number;
  /** From the start of the tune, and from the start of its full bar: a pickup starts late in its bar. */
  at: number;
  into: number;
  ticks: number;
  /** Ticks of rest before it. */
  rest: number;
  pitches: Event["pitches"];
  tuplet: Event["tuplet"];
};

/** The notes of a tune's own line: ties joined, rests told by the note after them. */
export function lineNotes(places: readonly Place[]): LineNote[] {
  const notes: LineNote[] = [];
  let [tied, rest] = [false, 0];
  for (const place of places) {
    let at = place.at;
    place.bar.events.forEach((event, order) => {
      const { ticks, pitches, tuplet } = event;
      const last = notes.at(-1);
      const sounds = pitches.length > 0;
      if (sounds && tied && last) last.ticks += ticks;
      else if (sounds)
        notes.push({ place, event: order, at, into: place.offset + at - place.at, ticks, rest, pitches, tuplet });
      rest = sounds ? 0 : rest + ticks;
      tied = sounds && event.tie === true;
      at += ticks;
    });
  }
  return notes;
}
