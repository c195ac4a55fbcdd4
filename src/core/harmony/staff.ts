import { type Event, type Place, rest, type Staff } from "../score";
import type { HarmonyLine } from "./model";

/** A line as a staff: the melody's rhythm and ties with the line's pitches. */
export function harmonyStaff(line: HarmonyLine, places: readonly Place[], staff: Omit<Staff, "bars">): Staff {
  const byPlace = new Map(line.notes.map((n) => [`${n.bar}:${n.event}`, n]));
  let held: HarmonyLine["notes"][number] | undefined;
  let tied = false;
  const bars = places.map((place) => place.bar.events.map((event, i): Event => {
    const own = byPlace.get(`${place.index}:${i}`);
    held = tied && event.pitches.length > 0 ? held : own;
    tied = event.tie === true;
    const shape = { ticks: event.ticks, ...(event.tuplet ? { tuplet: event.tuplet } : {}) };
    if (!held?.pitch || event.pitches.length === 0) return { ...rest(event.ticks), ...shape };
    return { ...shape, pitches: [held.pitch], ...(event.tie ? { tie: true } : {}), ...(event.slurs ? { slurs: event.slurs } : {}) };
  }));
  return { ...staff, bars };
}
