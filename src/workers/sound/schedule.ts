import type { PlayedBar, Staff } from "../../core/score";

/** The stretch of played ticks that covers written bars `from` to `to`, in the first pass that has them all. */
export function stretchOf(bars: readonly PlayedBar[], from: number, to: number): { start: number; end: number } {
  const first = bars.find((b) => b.index === from) ?? bars[0];
  if (!first) return { start: 0, end: 0 };
  const begin = bars.indexOf(first);
  const last = bars.slice(begin).find((b) => b.index === to) ?? first;
  return { start: first.at, end: last.at + last.ticks };
}

/** The bar that sounds at a tick. */
export const barAt = (bars: readonly PlayedBar[], tick: number): PlayedBar | undefined =>
  bars.findLast((b) => b.at <= tick);

/** Ids of the engraved notes that sound so many ticks into a written bar, as drawings name them: staff, bar, event. */
export const notesAt = (staves: readonly Pick<Staff, "id" | "bars">[], bar: number, into: number): string[] =>
  staves.flatMap(({ id, bars }) => {
    let at = 0;
    const event = (bars[bar] ?? []).findIndex(({ ticks }) => {
      at += ticks;
      return into < at;
    });
    return event < 0 ? [] : [`${id}.${bar}.${event}`];
  });
