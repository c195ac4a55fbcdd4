import { type Place, playingOrder } from "../score";
import type { Direction, StrokeNote, StrokePlan } from "./model";

type Going = { direction: Direction | null; notes: readonly StrokeNote[] };

/**
 * Which strokes come the same way as the one before them, as the tune is played: through every pass, repeat and ending.
 */
export function retakesOf(strokes: readonly Going[], places: readonly Place[]): boolean[] {
  const byBar = new Map<number, number[]>();
  strokes.forEach(({ notes }, k) => {
    const bar = (notes[0] as StrokeNote).place.index;
    byBar.set(bar, [...(byBar.get(bar) ?? []), k]);
  });
  const found = strokes.map(() => false);
  let before: number | undefined;
  for (const bar of playingOrder(places)) {
    for (const k of byBar.get(bar) ?? []) {
      if (before !== undefined && strokes[before]?.direction === strokes[k]?.direction) found[k] = true;
      before = k;
    }
  }
  return found;
}

/** Bars (indexes) in which two plans over the same notes differ: in where strokes begin, or which way they go. */
export function differing({ strokes: a }: StrokePlan, { strokes: b }: StrokePlan): number[] {
  const named = (s: StrokePlan["strokes"][number]) => `${s.at} ${s.ticks} ${s.direction}`;
  const [ours, theirs] = [new Set(a.map(named)), new Set(b.map(named))];
  const odd = [...a.filter((s) => !theirs.has(named(s))), ...b.filter((s) => !ours.has(named(s)))];
  return [...new Set(odd.map((s) => s.place.index))].sort((x, y) => x - y);
}
