import type { ChordPlan } from "../chords";
import type { Instrument } from "../instruments";
import { type Place, QUARTER } from "../score";
import { midi, type Pitch, pitchName, scaleStep } from "../theory";
import { holds } from "./choices";
import { THIRDS } from "./schools";
import { slotsOf } from "./slots";

/** A place where third and fourth part ways: exactly one of them is in the chord. Hear both, choose, and see why. */
export type ThirdOrFourth = {
  bar: number;
  /** Ticks from the start of the bar. */
  at: number;
  melody: Pitch;
  third: Pitch;
  fourth: Pitch;
  chord: string;
  fits: "third" | "fourth";
  why: string;
};

/** Shortest melody note a question is asked about: an eighth goes by too quickly to choose. */
const SHORTEST = QUARTER / 2;

/** Questions a tune can ask, in its order; a melody note over the same chord is asked about once. */
export function thirdOrFourth(
  places: readonly Place[],
  plan: ChordPlan,
  side: "below" | "above",
  on: Instrument,
): ThirdOrFourth[] {
  const asked = new Set<string>();
  const inRange = (p: Pitch) => midi(p) >= midi(on.lowest) && midi(p) <= midi(on.highest);
  return slotsOf(places, plan, side, new Set(), () => THIRDS).flatMap((slot): ThirdOrFourth[] => {
    const { melody, chord, key, place } = slot;
    if (!melody || !chord || !slot.weighty || slot.ticks <= SHORTEST) return [];
    const way = side === "below" ? -1 : 1;
    const [third, fourth] = [scaleStep(melody, 2 * way, key), scaleStep(melody, 3 * way, key)];
    const [a, b] = [holds(chord, third), holds(chord, fourth)];
    const name = `${pitchName(melody)} ${chord.symbol}`;
    if (a === b || !inRange(third) || !inRange(fourth) || asked.has(name)) return [];
    asked.add(name);
    const [good, bad] = a ? [third, fourth] : [fourth, third];
    const plain = (p: Pitch) => pitchName(p).slice(0, -1);
    return [
      {
        bar: place.index,
        at: slot.at - place.at,
        melody,
        third,
        fourth,
        chord: chord.symbol,
        fits: a ? "third" : "fourth",
        why: `${plain(good)} is in the chord of ${chord.symbol} (${chord.tones.join(", ")}); ${plain(bad)} is not.`,
      },
    ];
  });
}
