import { type Place, playingOrder } from "../score";
import type { Direction, StrokeNote } from "./model";

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
