import { type Performance, type PlayedBar, QUARTER } from "../../core/score";

/** A click before the music. Ticks, negative. */
export type Click = { at: number; strong: boolean };

/** What the player needs of a performance: where its ticks lie in time at a tempo. */
export type Score = {
  performance: Performance;
  /** Channel of each line by id. */
  channels: Map<string, number>;
};

/** Seconds of one tick at so many percent of the written tempo. */
export const secondsPerTick = (performance: Performance, percent: number): number => {
  const tempo = performance.tempos[0] ?? { beat: QUARTER, bpm: 100 };
  return 60 / (tempo.bpm * tempo.beat * (percent / 100));
};

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
