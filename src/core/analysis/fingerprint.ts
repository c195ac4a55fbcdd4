import type { Tune } from "../score";
import { midi } from "../theory";

/**
 * A short name for the music of a tune, the same in any key and spelling and for any title: its moves and lengths,
 * repeats and
 * ornaments left out (two running 32-bit hashes after FNV-1a).
 */
export function fingerprint(tune: Tune): string {
  let [high, low] = [0x811c9dc5, 0x1000193];
  const take = (n: number) => {
    high = Math.imul(high ^ (n & 0xffff), 0x01000193) >>> 0;
    low = Math.imul(low ^ ((n >>> 4) & 0xffff) ^ n, 0x85ebca6b) >>> 0;
  };
  let last: number | undefined;
  let held = 0;
  const flush = () => {
    if (held) take(held);
    held = 0;
  };
  for (const event of tune.strains.flatMap((s) => s.bars.flatMap((b) => b.events))) {
    const noteNumber = event.pitches.length ? midi(event.pitches[event.pitches.length - 1] as never) : undefined;
    flush();
    take(noteNumber === undefined ? 999 : 500 + noteNumber - (last ?? noteNumber));
    held = event.ticks;
    last = noteNumber ?? last;
  }
  flush();
  return high.toString(36) + low.toString(36);
}
