import type { Performance } from "../score";

/** Seconds of a tick and the tick of a second, at the written tempos. Ticks before the start keep its first tempo. */
export type Clock = { seconds: (tick: number) => number; tick: (seconds: number) => number };

type Stretch = { at: number; from: number; perTick: number };

/** The clock of a performance: every tempo holds from its tick to the next one. */
export function clockOf({ tempos }: Pick<Performance, "tempos">): Clock {
  const stretches: Stretch[] = [];
  for (const { at, bpm, beat } of tempos) {
    const last = stretches[stretches.length - 1];
    const from = last ? last.from + (at - last.at) * last.perTick : 0;
    stretches.push({ at, from, perTick: 60 / (bpm * beat) });
  }
  const first = stretches[0];
  if (!first) throw new RangeError("A performance has a tempo from its first tick.");
  return {
    seconds: (tick) => {
      const { at, from, perTick } = stretches.findLast((s) => s.at <= tick) ?? first;
      return from + (tick - at) * perTick;
    },
    tick: (seconds) => {
      const { at, from, perTick } = stretches.findLast((s) => s.from <= seconds) ?? first;
      return at + (seconds - from) / perTick;
    },
  };
}

/**
 * The clock of a stretch of a performance from tick `start`: seconds are counted from there, before it at its own
 * tempo. A loop's ticks count on past `end`, time after time.
 */
export function takeClock(whole: Clock, start: number, end: number, loop: boolean): Clock {
  const begun = whole.seconds(start);
  const length = end - start;
  const lasts = whole.seconds(end) - begun;
  const perTick = whole.seconds(start + 1) - begun;
  const laps = (past: number, lap: number) => (loop && past > 0 && lap > 0 ? Math.floor(past / lap) : 0);
  return {
    seconds: (tick) => {
      if (tick < start) return (tick - start) * perTick;
      const lap = laps(tick - start, length);
      return lap * lasts + whole.seconds(tick - lap * length) - begun;
    },
    tick: (seconds) => {
      if (seconds < 0) return start + seconds / perTick;
      const lap = laps(seconds, lasts);
      return lap * length + whole.tick(begun + seconds - lap * lasts);
    },
  };
}
