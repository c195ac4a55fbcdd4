import type { Place } from "../score";
import type { Choice } from "./choice";
import type { Slot } from "./slots";

/**
 * How harsh each interval sounds, in semitones folded into an octave, 0 to 1 (after Plomp and Levelt's roughness,
 * rounded by ear).
 */
const HARSHNESS = [0, 1, 0.55, 0.05, 0, 0.15, 0.7, 0, 0.05, 0, 0.45, 0.85];
const FOREIGN = 0.25;

/**
 * Clash of each bar by index: harshness against every melody note it sounds with and notes outside the chord, weighed
 * by time and beat; 0 to 100.
 */
export function clashOf(slots: readonly Slot[], path: readonly Choice[], places: readonly Place[]): number[] {
  const sums = places.map(() => ({ harsh: 0, weight: 0 }));
  slots.forEach((slot, i) => {
    const choice = path[i] as Choice;
    const sum = sums[slot.place.index];
    if (!choice.pitch || !sum) return;
    for (const under of slot.unders) {
      const ticks = Math.min(slot.at + slot.ticks, under.at + under.ticks) - Math.max(slot.at, under.at);
      const weight = ticks * (under.strong ? 1.5 : 1);
      const foreign = slot.chord && !choice.fits ? FOREIGN * (under.strong ? 1 : 0.4) : 0;
      sum.harsh += weight * Math.min(1, (HARSHNESS[Math.abs(choice.number - under.number) % 12] as number) + foreign);
      sum.weight += weight;
    }
  });
  return sums.map((s) => (s.weight ? Math.round((100 * s.harsh) / s.weight) : 0));
}
