import type { Place } from "./time";

/**
 * The order in which bars sound: repeats and endings unfolded, as indexes into `places`.
 * A repeat without a start goes back to the last repeat end, or to the beginning (ABC 2.1, 4.8).
 * Never longer than eight times the written tune.
 */
export function playingOrder(from: readonly Place[]): number[] {
  const order: number[] = [];
  const limit = from.length * 8;
  let start = 0;
  let pass = 1;
  let i = 0;
  while (i < from.length && order.length < limit) {
    const { bar } = from[i] as Place;
    if (bar.repeatStart && start !== i) [start, pass] = [i, 1];
    if (bar.ending && !bar.ending.includes(pass)) {
      const next = nextEnding(from, i, pass);
      if (next !== undefined) {
        i = next;
        continue;
      }
    }
    order.push(i);
    const more = bar.repeatEnd !== undefined && pass < Math.max(bar.repeatEnd, lastPass(from, i));
    if (more) {
      pass += 1;
      i = start;
      continue;
    }
    const endingDone = bar.endingStop && !endingFollows(from, i);
    if ((bar.repeatEnd !== undefined && !endingFollows(from, i)) || endingDone) [start, pass] = [i + 1, 1];
    i += 1;
  }
  return order;
}

/** One time through a strain: the strain, and which time it is, from 1. */
export type TimeThrough = { strain: number; pass: number };

/** Which time through which strain each played bar belongs to, in playing order. */
export function timesThrough(from: readonly Place[]): TimeThrough[] {
  const counts = new Map<number, number>();
  const order = playingOrder(from);
  let before: number | undefined;
  return order.map((index) => {
    const { strain } = from[index] as Place;
    const goesOn = before !== undefined && index > before && from[before]?.strain === strain;
    if (!goesOn) counts.set(strain, (counts.get(strain) ?? 0) + 1);
    before = index;
    return { strain, pass: counts.get(strain) ?? 1 };
  });
}

const endingFollows = (from: readonly Place[], i: number) =>
  from[i + 1]?.bar.ending !== undefined && !from[i + 1]?.bar.repeatStart;

/** The ending of this group that the pass takes, searched forward from a bar that starts another ending. */
function nextEnding(from: readonly Place[], i: number, pass: number): number | undefined {
  for (let j = i + 1; j < from.length; j++) {
    const { bar } = from[j] as Place;
    if (bar.repeatStart) return undefined;
    if (bar.ending?.includes(pass)) return j;
  }
  return undefined;
}

/** Highest pass named by the endings up to the one that follows this repeat end. */
function lastPass(from: readonly Place[], i: number): number {
  return Math.max(2, ...(endingFollows(from, i) ? (from[i + 1]?.bar.ending ?? []) : []));
}
