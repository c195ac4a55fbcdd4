/** How somebody taps along: how late each tap was (milliseconds, early below 0), on the whole, and how evenly. */
export type Tapped = { taps: number; mean: number; spread: number; words: string };

/** Within so many milliseconds nobody hears a tap as early or late; within so many it is even. */
const TOGETHER = 20;
const EVEN = 25;
const UNEVEN = 50;
/** Taps that are needed before anything is said. */
const FEW = 4;

/** What a row of taps says, each in milliseconds late. */
export function tapped(late: readonly number[]): Tapped {
  const taps = late.length;
  if (taps === 0) return { taps, mean: 0, spread: 0, words: "Tap along while it plays." };
  const mean = late.reduce((a, b) => a + b, 0) / taps;
  const spread = Math.sqrt(late.reduce((sum, l) => sum + (l - mean) ** 2, 0) / taps);
  return { taps, mean, spread, words: wordsOf(taps, mean, spread) };
}

function wordsOf(taps: number, mean: number, spread: number): string {
  if (taps < FEW) return "A few more taps.";
  const off = Math.round(Math.abs(mean));
  const side = mean > 0 ? "late" : "early";
  const whole = off <= TOGETHER ? "Together with the tune" : `${off} ms ${side} on the whole`;
  if (spread <= EVEN) return `${whole}, and even.`;
  return spread <= UNEVEN ? `${whole}, a little uneven.` : `${whole}, but uneven: try it slower.`;
}

/**
 * How late a tap is against the nearest of some moments, in the unit they share (below 0 is early); undefined where it
 * lies farther from all of them than `most`. Moments go up.
 */
export function lateness(tap: number, moments: readonly number[], most: number): number | undefined {
  const after = moments.findIndex((m) => m >= tap);
  const near = after < 0 ? [moments.at(-1)] : [moments[after - 1], moments[after]];
  const late = near.flatMap((m) => (m === undefined ? [] : [tap - m]));
  const best = late.sort((a, b) => Math.abs(a) - Math.abs(b))[0];
  return best !== undefined && Math.abs(best) <= most ? best : undefined;
}
