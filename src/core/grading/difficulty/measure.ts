import type { Instrument } from "../../instruments";
import type { Event, Place } from "../../score";
import { readOn } from "../../technique";
import { midi } from "../../theory";
import { FEATURES, type Weighed } from "./features";
import { met } from "./lined";
import fitted from "./weights.json";

/** The hardest there is. */
const MOST = 100;
const WEIGHTS: Readonly<Record<string, number>> = fitted.weights;
/** Points for one of a feature: fitted on parts that teachers rated, or judged. */
export const weightOf = (name: string): number => WEIGHTS[name] ?? FEATURES.find((f) => f.name === name)?.judged ?? 0;

/** Whether pitches are those of the page, or those that sound. */
type As = "written" | "sounding";

/** What a part is made of: one line of notes, chords, or strokes of a drum. */
export type Kind = "line" | "chords" | "drum";
/** What is hard about chords and strokes: not the leaps between their notes. */
const STRUCK = new Set(["speed", "quickest run", "quick notes", "off the beat", "chord changes"]);
const counts = (kind: Kind, name: string): boolean => kind === "line" || STRUCK.has(name);

/** A part ready to be weighed; `tick` is how many seconds a tick lasts. */
export function weighed(
  places: readonly Place[],
  bars: readonly (readonly Event[])[],
  on: Instrument,
  tick: number,
  as: As = "written",
): Weighed {
  const read = as === "written" && on.strings.length > 0 ? readOn(on, places) : on;
  const lowest = midi(on.lowest) - (as === "written" ? on.transposition : 0);
  const seconds = places.reduce((sum, p) => sum + p.ticks, 0) * tick;
  return { notes: met(places, bars, read, tick), places, on, lowest, tick, seconds };
}

/** How hard a part is, 0 to 100: the sum of its features' points; and how hard each bar would be by itself. */
export type Difficulty = {
  difficulty: number;
  features: { name: string; value: number; points: number }[];
  bars: number[];
};

/** How hard a part is on an instrument at a tempo; `tick` in seconds. */
export function difficultyOf(
  places: readonly Place[],
  bars: readonly (readonly Event[])[],
  on: Instrument,
  tick: number,
  as: As = "written",
  kind: Kind = "line",
): Difficulty {
  const part = weighed(places, bars, on, tick, as);
  const features = FEATURES.map(({ name, value }) => {
    const own = counts(kind, name) ? value(part) : 0;
    return { name, value: own, points: own * weightOf(name) };
  });
  const total = features.reduce((sum, f) => sum + f.points, 0);
  // What is harder than the hardest shares the hundred points.
  const share = total > MOST ? MOST / total : 1;
  return {
    difficulty: Math.min(MOST, total),
    features: features.map((f) => ({ ...f, points: f.points * share })),
    bars: barPoints(part, kind),
  };
}

function barPoints(part: Weighed, kind: Kind): number[] {
  const byBar = new Map<number, Weighed["notes"][number][]>();
  for (const n of part.notes) byBar.set(n.bar, [...(byBar.get(n.bar) ?? []), n]);
  return part.places.map((place, i) => {
    const notes = byBar.get(i) ?? [];
    if (notes.length === 0) return 0;
    const bar = { ...part, notes, places: part.places, seconds: place.ticks * part.tick };
    return Math.min(
      MOST,
      FEATURES.reduce((sum, { name, value }) => sum + (counts(kind, name) ? value(bar) * weightOf(name) : 0), 0),
    );
  });
}
