import { type Bar, barTicks, beatTicks, type Event, type Place, places, QUARTER, type Tune } from "../score";
import { midi, type Pitch } from "../theory";
import { type Cell, cellFits } from "./cells";
import { withBars } from "./snaps";

const EIGHTH = QUARTER / 2;

/** A tune set to a rhythm cell, and how much of it is still there: the share of its beat notes that are kept. */
export type SetTune = { tune: Tune; kept: number };

/**
 * Sets a tune to a cell: in every whole bar of its metre the cell follows upon itself, each note taking what the melody
 * sounds at that moment, so that the notes on the beats stay. Each strain's last bar, pickups, and bars the cell does
 * not fill stay as they are.
 */
export function setToCell(tune: Tune, cell: Cell): SetTune {
  const from = places(tune);
  const made = new Map<number, Bar>();
  from.forEach((place, i) => {
    const next = from[i + 1];
    const last = next === undefined || next.strain !== place.strain || place.bar.repeatEnd !== undefined;
    const full = barTicks(place.metre);
    const lengths = cell.lengths.map((l) => Math.round(l * EIGHTH));
    const once = lengths.reduce((a, b) => a + b, 0);
    if (last || place.pickup || place.ticks !== full || !cellFits(cell, place) || full % once !== 0) return;
    made.set(i, { ...place.bar, events: cellEvents(place, lengths, full / once) });
  });
  const set = withBars(tune, made);
  return { tune: set, kept: keptBeats(from, places(set)) };
}

function cellEvents(place: Place, lengths: readonly number[], times: number): Event[] {
  const events: Event[] = [];
  let at = 0;
  const triplet = lengths.filter((l) => l * 3 === QUARTER).length === 3;
  for (let n = 0; n < times; n++) {
    lengths.forEach((ticks, k) => {
      const pitches = soundingAt(place, at);
      const tuplet = triplet && ticks * 3 === QUARTER ? { tuplet: tripletAt(k) } : {};
      events.push({ ticks, pitches, ...tuplet });
      at += ticks;
    });
  }
  return events;
}
const PLACES = ["first", "inner", "last"] as const;
const tripletAt = (k: number): NonNullable<Event["tuplet"]> => ({
  actual: 3,
  normal: 2,
  place: PLACES[k] ?? "inner",
});

/** The pitches the melody sounds so many ticks into a bar; where it rests, those of the note before. */
function soundingAt({ bar }: Place, into: number): Event["pitches"] {
  let at = 0;
  let last: Event["pitches"] = [];
  for (const { ticks, pitches } of bar.events) {
    if (at > into) break;
    if (pitches.length > 0) last = pitches;
    at += ticks;
  }
  return last.length > 0 ? last : (bar.events.find((e) => e.pitches.length > 0)?.pitches ?? []);
}

/** Share of the notes on felt beats that are still there. */
function keptBeats(before: readonly Place[], after: readonly Place[]): number {
  const beats = (from: readonly Place[]) =>
    new Map(
      from.flatMap((place) => {
        const beat = beatTicks(place.metre);
        let at = place.offset;
        return place.bar.events.flatMap(({ ticks, pitches }) => {
          const own = at;
          at += ticks;
          const top = pitches[pitches.length - 1] as Pitch | undefined;
          return own % beat === 0 && top ? [[`${place.index}.${own}`, midi(top)] as const] : [];
        });
      }),
    );
  const [old, now] = [beats(before), beats(after)];
  const same = [...old].filter(([at, note]) => now.get(at) === note).length;
  return old.size === 0 ? 1 : same / old.size;
}
