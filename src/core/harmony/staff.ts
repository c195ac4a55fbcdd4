import { type Event, type Place, rest, type Staff } from "../score";
import type { HarmonyLine, HarmonyNote } from "./model";

/** A line as a staff: in bars that go with the melody its rhythm and ties, elsewhere the line's own notes and rests. */
export function harmonyStaff(line: HarmonyLine, places: readonly Place[], staff: Omit<Staff, "bars">): Staff {
  const byBar = new Map<number, HarmonyNote[]>();
  for (const note of line.notes) byBar.set(note.bar, [...(byBar.get(note.bar) ?? []), note]);
  let held: HarmonyNote | undefined;
  let tied = false;
  const bars = places.map((place) => {
    const own = byBar.get(place.index) ?? [];
    if (line.own[place.index]) {
      [held, tied] = [undefined, false];
      return own.map((n): Event => (n.pitch ? { ticks: n.ticks, pitches: [n.pitch] } : rest(n.ticks)));
    }
    return place.bar.events.map((event, i): Event => {
      const note = own.find((n) => n.event === i);
      held = tied && event.pitches.length > 0 ? held : note;
      // A tie into a bar with a rhythm of its own ends at the bar line.
      tied = event.tie === true && !(i === place.bar.events.length - 1 && line.own[place.index + 1]);
      const pitch = event.pitches.length > 0 ? held?.pitch : undefined;
      const tuplet = event.tuplet ? { tuplet: event.tuplet } : {};
      if (!pitch) return { ...rest(event.ticks), ...tuplet };
      return {
        ticks: event.ticks,
        pitches: [pitch],
        ...tuplet,
        ...(tied ? { tie: true } : {}),
        ...(event.slurs ? { slurs: event.slurs } : {}),
      };
    });
  });
  return { ...staff, bars };
}
