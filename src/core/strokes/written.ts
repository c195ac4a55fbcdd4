import { timeline, type Place } from "../score";
import { MOST } from "./bowPrices";
import type { StrokeLock } from "./model";

/** Most notes of a written slur that one bow can take here; longer ones are phrasing, not bowing. */
const LONGEST = MOST.quick;

/**
 * The slurs a tune was printed with, as strokes that are settled in their length and free in their direction; those
 * over a rest, over more notes than a bow takes, and where a teacher has settled something else, are left aside.
 */
export function writtenSlurs(from: readonly Place[], settled: readonly StrokeLock[]): StrokeLock[] {
  const locks: StrokeLock[] = [];
  let open: { bar: number; at: number; ticks: number; notes: number; rests: boolean } | undefined;
  let [depth, tied] = [0, false];
  for (const { place, at, event } of timeline(from)) {
    const { slurs, ticks, pitches, tie } = event;
    const sounds = pitches.length > 0;
    if (depth === 0 && slurs && slurs.open > 0 && sounds && !tied) {
      open = { bar: place.index, at: at - place.at, ticks: 0, notes: 0, rests: false };
    }
    if (open) {
      open.ticks += ticks;
      if (!tied) open.notes += 1;
      if (!sounds) open.rests = true;
    }
    depth = Math.max(0, depth + (slurs?.open ?? 0) - (slurs?.close ?? 0));
    tied = sounds && tie === true;
    if (open && depth === 0 && !tied) {
      const { notes, rests, ...lock } = open;
      if (notes > 1 && notes <= LONGEST && !rests) locks.push(lock);
      open = undefined;
    }
  }
  const own = new Set(settled.map((l) => `${l.bar}.${l.at}`));
  return locks.filter((l) => !own.has(`${l.bar}.${l.at}`));
}
