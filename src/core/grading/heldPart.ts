import type { ChordPlan } from "../chords";
import type { Instrument } from "../instruments";
import { type Event, laidEvents, type Place, rest, type Technique } from "../score";
import { ConflictError, isConflict } from "../search";
import { HELD_NOTES, type HeldNote, planTechnique } from "../technique";
import { midi } from "../theory";

/** Whether a chord and the one before it share a bar, and one of them lasts less than half of it. */
function hurried(places: readonly Place[], { chords }: ChordPlan, i: number): boolean {
  const [before, here] = [chords[i - 1], chords[i]];
  if (!before || !here || before.bar !== here.bar) return false;
  return Math.min(before.ticks, here.ticks) * 2 < (places[here.bar]?.ticks ?? 0);
}

/**
 * One long note per chord, a note that two chords of a bar have in common held through both; rests where no chord is
 * set or none of its notes is in reach. One event list a bar, chords' lengths filled exactly with notes that exist.
 */
export function heldNotes(places: readonly Place[], plan: ChordPlan, on: Instrument): Event[][] {
  const moments = plan.chords.map((c, i) => ({ symbol: c.symbol, hurried: hurried(places, plan, i) }));
  const found = planTechnique(HELD_NOTES, moments, on);
  // Every moment may rest, so that there always is a plan.
  if (isConflict(found)) throw new ConflictError(found);
  const byBar = places.map((): { at: number; ticks: number; note: HeldNote }[] => []);
  plan.chords.forEach((c, i) => {
    byBar[c.bar]?.push({ at: c.at, ticks: c.ticks, note: found.ways[i]?.way ?? null });
  });
  return places.map((place, i) => laidEvents(barOf(place, byBar[i] ?? [], on), place.metre, place.offset));
}

function barOf(place: Place, held: readonly { at: number; ticks: number; note: HeldNote }[], on: Instrument): Event[] {
  const events: Event[] = [];
  let at = 0;
  for (const { at: start, ticks, note } of held) {
    if (start > at) events.push(rest(start - at));
    const last = events[events.length - 1];
    const same = note && last?.pitches[0] && midi(last.pitches[0]) === midi(note.pitch);
    if (same && last && start === at) last.ticks += ticks;
    else events.push(note ? { ticks, pitches: [note.pitch], technique: techniqueOf(note, on) } : rest(ticks));
    at = start + ticks;
  }
  if (at < place.ticks) events.push(rest(place.ticks - at));
  return events;
}

function techniqueOf({ placement }: NonNullable<HeldNote>, on: Instrument): Technique {
  const string = on.strings[placement.string]?.number;
  if (string === undefined) return {};
  const where = placement.fret === undefined ? { finger: placement.finger } : { fret: placement.fret };
  return { notes: [{ string, ...where }] };
}
