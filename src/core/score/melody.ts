import { midi } from "../theory";
import type { Tune } from "./model";

/** The sounding notes of a tune's melody in written order as MIDI numbers; what is tied counts once. */
export function melodyOf(tune: Tune): number[] {
  const notes: number[] = [];
  let tied = false;
  for (const { pitches, tie } of tune.strains.flatMap((s) => s.bars.flatMap((b) => b.events))) {
    const top = pitches[pitches.length - 1];
    if (top && !tied) notes.push(midi(top));
    tied = top !== undefined && tie === true;
  }
  return notes;
}
