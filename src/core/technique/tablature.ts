import type { Instrument } from "../instruments";
import type { Event, Staff } from "../score";
import { midi } from "../theory";
import { firstPosition } from "./hand";

/** An event with string and fret of each of its notes, where its own technique does not name them yet. */
function placed(event: Event, on: Instrument): Event {
  if (event.pitches.length === 0) return event;
  const notes = event.pitches.map((pitch, i) => {
    const own = event.technique?.notes?.[i];
    if (own?.string !== undefined && own.fret !== undefined) return own;
    const place = firstPosition(on, midi(pitch));
    if (!place?.fret) return {};
    return { string: on.strings[place.string]?.number, fret: place.fret };
  });
  return { ...event, technique: { ...event.technique, notes } };
}

/**
 * A staff as tablature for a fretted instrument: every note on the string and fret its technique names, or in first
 * position.
 */
export const tabStaff = (staff: Staff, on: Instrument): Staff => ({
  ...staff,
  id: `${staff.id}-tab`,
  lyrics: false,
  tab: on.strings.map(({ number, open }) => ({ number, open })),
  bars: staff.bars.map((bar) => bar.map((event) => placed(event, on))),
});
