import { difficultyOf } from "../grading";
import type { Instrument } from "../instruments";
import { type Event, type Place, strength } from "../score";
import { type Key, midi } from "../theory";
import type { Bars } from "./bars";
import { STEPS } from "./steps";

/** One form of a tune: what was done to reach it, how hard it is, and how much of the tune's beats it has. */
export type Rung = { name: string; says: string; bars: Bars; difficulty: number; kept: number };

/** The form as it is written. */
const WRITTEN = "as it is written";

type Request = { places: readonly Place[]; on: Instrument; key: Key; tick: number };

/** Share of the tune's notes on beats that a form has at their pitch and place. */
function keptOf(places: readonly Place[], bars: Bars): number {
  const beats = (of: (i: number) => readonly Event[]) =>
    places.flatMap((place, i) => {
      let at = 0;
      return of(i).flatMap((e) => {
        const here = at;
        at += e.ticks;
        const pitch = e.pitches.at(-1);
        return pitch && strength(place, place.at + here) >= 2 ? [`${i}.${here}.${midi(pitch)}`] : [];
      });
    });
  const own = new Set(beats((i) => bars[i] ?? []));
  const all = beats((i) => places[i]?.bar.events ?? []);
  return all.length === 0 ? 1 : all.filter((b) => own.has(b)).length / all.length;
}

/**
 * A tune from its barest form to its richest: each easier step taken after the ones before it, each richer one
 * likewise.
 * A step that has nothing to do, or would make an easier form harder or a richer one easier, is not taken.
 */
export function ladder({ places, on, key, tick }: Request): Rung[] {
  const weigh = (bars: Bars) => difficultyOf(places, bars, on, tick).difficulty;
  const written = places.map((p) => p.bar.events);
  const start: Rung = {
    name: WRITTEN,
    says: "Every note of the page.",
    bars: written,
    difficulty: weigh(written),
    kept: 1,
  };
  const climb = (way: "easier" | "richer"): Rung[] => {
    const rungs: Rung[] = [];
    for (const step of STEPS.filter((s) => s.rung && s.way === way)) {
      const before = rungs.at(-1) ?? start;
      const bars = step.take(before.bars, { places, on, key });
      if (!bars) continue;
      const difficulty = weigh(bars);
      const wrong = way === "easier" ? difficulty > before.difficulty : difficulty < before.difficulty;
      if (!wrong) rungs.push({ name: step.name, says: step.says, bars, difficulty, kept: keptOf(places, bars) });
    }
    return rungs;
  };
  return [...climb("easier").reverse(), start, ...climb("richer")];
}

/** One step taken by itself: what it does, the line after it, how much harder that is; or what the line must have. */
export type Single = {
  name: string;
  way: "easier" | "richer";
  says: string;
  needs: string;
  taken: { bars: Bars; change: number; kept: number } | null;
};

/**
 * Every step by itself on the tune as it is written. One that would go the wrong way in difficulty, as one that has
 * nothing to do, is not to be had.
 */
export function singles({ places, on, key, tick }: Request): Single[] {
  const weigh = (bars: Bars) => difficultyOf(places, bars, on, tick).difficulty;
  const written = places.map((p) => p.bar.events);
  const own = weigh(written);
  return STEPS.map(({ name, way, says, needs, take }): Single => {
    const bars = take(written, { places, on, key });
    const change = bars ? weigh(bars) - own : 0;
    const wrong = way === "easier" ? change > WRONG : change < -WRONG;
    return { name, way, says, needs, taken: bars && !wrong ? { bars, change, kept: keptOf(places, bars) } : null };
  });
}
/** Points that are nothing. */
const WRONG = 1e-9;
