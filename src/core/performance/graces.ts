import { beatTicks, type Event, type Performance, type PlayedNote, type Sheet, type Staff } from "../score";
import { midi } from "../theory";

/** How long a grace note sounds, taken from the note before it; its share of the loudness of the one it leads to. */
const GRACE = 0.05;
const LIGHT = 0.75;
/** The most of the note before that grace notes take. */
const MOST = 0.6;

/**
 * A performance with its grace notes: short notes stolen from before the note they lead to, which stays where it is.
 * `bpm` in felt beats a minute.
 */
export function withGraces(
  performance: Performance,
  { staves, places }: Sheet,
  events: (staff: Staff, order: number) => readonly Event[],
  bpm: number,
): Performance {
  const beat = places[0] ? beatTicks(places[0].metre) : 1;
  const length = Math.max(1, Math.round((GRACE * bpm * beat) / 60));
  const shortened = new Map<PlayedNote, number>();
  const made = staves.flatMap((staff) => {
    const own = performance.notes.filter((n) => n.line === staff.id);
    const written = graced(performance, staff, events);
    return written.flatMap(({ at, grace }): PlayedNote[] => {
      // The note it leads to is the one that sounds nearest to where it is written.
      const main = own.reduce<PlayedNote | undefined>((a, b) => (nearer(b, a, at) ? b : a), undefined);
      if (!main) return [];
      const before = own.findLast((n) => n.at < main.at);
      const room = before ? (main.at - before.at) * MOST : grace.length * length;
      const each = Math.max(1, Math.min(length, Math.floor(room / grace.length)));
      const start = main.at - each * grace.length;
      if (start < 0) return [];
      if (before) shortened.set(before, Math.min(before.ticks, Math.max(1, start - before.at)));
      const velocity = Math.max(1, Math.round(main.velocity * LIGHT));
      return grace.flatMap(({ pitches }, k) =>
        pitches.map((pitch) => ({
          line: staff.id,
          at: start + k * each,
          ticks: each,
          noteNumber: midi(pitch),
          cents: 0,
          velocity,
        })),
      );
    });
  });
  if (made.length === 0) return performance;
  const cut = performance.notes.map((n) => {
    const ticks = shortened.get(n);
    return ticks === undefined ? n : { ...n, ticks };
  });
  const notes = [...cut, ...made].sort((a, b) => a.at - b.at || a.line.localeCompare(b.line));
  return { ...performance, notes };
}

const nearer = (note: PlayedNote, than: PlayedNote | undefined, at: number): boolean =>
  than === undefined || Math.abs(note.at - at) < Math.abs(than.at - at);

/** Every event of a staff that has grace notes, with where it is written to sound. */
function graced({ bars }: Performance, staff: Staff, events: (staff: Staff, order: number) => readonly Event[]) {
  return bars.flatMap((bar, order) => {
    let at = bar.at;
    return events(staff, order).flatMap(({ ticks, grace, pitches }) => {
      const own = at;
      at += ticks;
      return grace && grace.length > 0 && pitches.length > 0 ? [{ at: own, grace }] : [];
    });
  });
}
