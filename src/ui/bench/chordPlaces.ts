import type { PlannedChord } from "../../core/chords";
import { beatTicks, type Place } from "../../core/score";
import type { Measured } from "../../engraving";

/** A planned chord with its order in the plan, and whether it only goes on from the bar before. */
export type Laned = { chord: PlannedChord; index: number; goesOn: boolean };
/** A chord where it stands on the page, and how much room it has before the next. Pixels. */
export type PlacedChord = Laned & { place: Place; x: number; room: number };

/** Left edge of a chord: its note's head, or the proper point between two when it starts inside a held note. */
export function positionOf(place: Place, at: number, measured: Measured): number | undefined {
  let start = 0;
  for (const [i, event] of place.bar.events.entries()) {
    const x = measured.notes.get(`${place.index}.${i}`);
    if (at < start + event.ticks && x !== undefined) {
      if (at === start) return x - 6;
      const right =
        measured.notes.get(`${place.index}.${i + 1}`) ?? measured.bars.find((b) => b.index === place.index)?.right ?? x;
      return x - 6 + ((right - x) * (at - start)) / event.ticks;
    }
    start += event.ticks;
  }
  return measured.bars.find((b) => b.index === place.index)?.left;
}

/** Every felt beat of a row with its place on the page, in order. */
export const beatsIn = (places: readonly Place[], measured: Measured): { at: number; x: number }[] =>
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
  measured: Measured | null,
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
