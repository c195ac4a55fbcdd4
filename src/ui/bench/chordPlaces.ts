import type { PlannedChord } from "../../core/chords";
import { beatTicks, type Place, type Sheet } from "../../core/score";
import type { Measured } from "../../engraving";

/** A planned chord with its order in the plan, and whether it only goes on from the bar before. */
export type Laned = { chord: PlannedChord; index: number; goesOn: boolean };
/** A chord where it stands on the page, and how much room it has before the next. Pixels. */
export type PlacedChord = Laned & { place: Place; x: number; room: number };

/** A row as it stands on the page, and where in each bar (by index) every moment with a note is. */
export type Timed = Measured & { times: ReadonlyMap<number, readonly { at: number; x: number }[]> };

/** A measured row at another size. */
export function enlarged(measured: Measured, by: number): Measured {
  if (by === 1) return measured;
  return {
    bars: measured.bars.map((b) => ({
      index: b.index,
      left: b.left * by,
      right: b.right * by,
      top: b.top * by,
      bottom: b.bottom * by,
    })),
    notes: new Map([...measured.notes].map(([id, x]) => [id, x * by])),
    staves: measured.staves.map((s) => ({
      ...s,
      top: s.top * by,
      bottom: s.bottom * by,
      lowest: s.lowest * by,
      notes: s.notes.map((n) => ({ event: n.event, x: n.x * by })),
      heads: new Map([...s.heads].map(([event, y]) => [event, y * by])),
    })),
  };
}

/** Finds where the moments of a row stand: at the notes of any of its staves that begin then. */
export function timed(measured: Measured, { staves, places }: Pick<Sheet, "staves" | "places">): Timed {
  const order = new Map(places.map((p, i) => [p.index, i]));
  const times = new Map<number, Map<number, number>>();
  for (const { bar, staff, notes } of measured.staves) {
    const events = staves.find((s) => s.id === staff)?.bars[order.get(bar) ?? -1] ?? [];
    const own = times.get(bar) ?? new Map<number, number>();
    let at = 0;
    events.forEach(({ ticks }, event) => {
      const x = notes.find((n) => n.event === event)?.x;
      if (x !== undefined && !own.has(at)) own.set(at, x);
      at += ticks;
    });
    times.set(bar, own);
  }
  const inOrder = (own: Map<number, number>) => [...own].map(([at, x]) => ({ at, x })).sort((a, b) => a.at - b.at);
  return { ...measured, times: new Map([...times].map(([bar, own]) => [bar, inOrder(own)])) };
}

/** From the middle of a head to its left edge. Pixels. */
const HALF_HEAD = 6;
/** Left edge of a chord: its note's head, or the proper point between two when it starts inside a held note. */
export function positionOf(place: Place, at: number, { times, bars }: Timed): number | undefined {
  const bar = bars.find((b) => b.index === place.index);
  const own = times.get(place.index) ?? [];
  const here = own.findLastIndex((t) => t.at <= at);
  const before = own[here];
  if (!before) return bar?.left;
  if (before.at === at) return before.x - HALF_HEAD;
  const after = own[here + 1] ?? { at: place.ticks, x: bar?.right ?? before.x };
  return before.x - HALF_HEAD + ((after.x - before.x) * (at - before.at)) / Math.max(1, after.at - before.at);
}

/** Every felt beat of a row with its place on the page, in order. */
export const beatsIn = (places: readonly Place[], measured: Timed): { at: number; x: number }[] =>
  places.flatMap((place) => {
    const beat = beatTicks(place.metre);
    return Array.from({ length: Math.ceil(place.ticks / beat) }, (_, i) => ({
      at: place.at + i * beat,
      x: positionOf(place, i * beat, measured) ?? 0,
    }));
  });

/** Room after the last chord of a bar nobody has measured. */
const SOME_ROOM = 40;
/** The chords of a row where they stand. */
export function placedChords(
  chords: readonly Laned[],
  places: readonly Place[],
  measured: Timed | null,
): PlacedChord[] {
  if (!measured) return [];
  const placed = chords.flatMap((laned) => {
    const place = places.find((p) => p.index === laned.chord.bar);
    const x = place && positionOf(place, laned.chord.at, measured);
    return place && x !== undefined ? [{ ...laned, place, x }] : [];
  });
  return placed.map((here, i) => {
    const next = placed[i + 1];
    const end = measured.bars.find((b) => b.index === here.chord.bar)?.right ?? here.x + SOME_ROOM;
    const right = next?.chord.bar === here.chord.bar ? next.x - 4 : end - 2;
    return { ...here, room: right - here.x };
  });
}
