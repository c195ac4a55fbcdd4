import { inKey, type Key, midi, type Pitch, spell } from "../theory";
import type { Board } from "./board";

/**
 * By how many cents the upper note of an interval is moved to sound pure, by semitones: the whole-number ratios 6/5,
 * 5/4, 4/3, 3/2, 8/5 and 5/3 against the tempered scale.
 */
const PURE: Readonly<Record<number, { name: string; cents: number }>> = {
  0: { name: "unison", cents: 0 },
  3: { name: "minor third", cents: 16 },
  4: { name: "major third", cents: -14 },
  5: { name: "fourth", cents: -2 },
  7: { name: "fifth", cents: 2 },
  8: { name: "minor sixth", cents: 14 },
  9: { name: "major sixth", cents: -16 },
  12: { name: "octave", cents: 0 },
};

/** A double stop's interval by name, and how far its upper note is moved to ring pure (cents); undefined for others. */
export const pureInterval = (low: number, high: number): { name: string; cents: number } | undefined =>
  PURE[high - low] ?? PURE[(high - low) % 12];

/** Cents that no finger can hear itself move. */
const HEARD = 5;

/** What to do with the upper finger, in words; empty where it stays. */
export function pureWords(low: number, high: number): string {
  const found = pureInterval(low, high);
  if (!found) return "";
  const named = `${found.name.startsWith("o") ? "An" : "A"} ${found.name}`;
  if (Math.abs(found.cents) < HEARD) return `${named}: let it ring still.`;
  const way = found.cents < 0 ? "low" : "high";
  return `${named}: the upper note a little ${way}, ${Math.abs(found.cents)} cents, until it rings still.`;
}

/** A double stop to find before the tune begins: both notes, each on its string. */
export type Found = {
  low: Pitch;
  high: Pitch;
  strings: readonly [number, number];
  fingers: readonly [number, number];
  words: string;
};

/** How many double stops are looked for before the tune. */
const THREE = 3;

/**
 * Three double stops of a key to find before the tune begins: on neighbouring strings of a bowed instrument, an open
 * string and a finger, in first position; the third of the key first, since it wants the most care.
 */
export function threeToFind({ strings }: Board, key: Key): Found[] {
  const found = strings.slice(1).flatMap(({ open, stops, number }, i): (Found & { care: number })[] => {
    const below = strings[i];
    if (!below) return [];
    return stops.flatMap((stop) => {
      const [low, high] = [below.open, open + stop.semitones];
      const pure = PURE[high - low];
      const [a, b] = [spell(low, key), spell(high, key)];
      if (!pure || !inKey(a, key) || !inKey(b, key) || stop.number === 0 || stop.number > FIRST_POSITION) return [];
      const finger = Math.ceil(stop.number / 2);
      return [
        {
          low: a,
          high: b,
          strings: [below.number, number] as const,
          fingers: [0, finger] as const,
          words: pureWords(low, high),
          care: Math.abs(pure.cents),
        },
      ];
    });
  });
  const tonic = (f: Found) => Number([f.low, f.high].some((p) => midi(p) % 12 === midi(tonicOf(key)) % 12));
  return found
    .sort((a, b) => tonic(b) - tonic(a) || b.care - a.care)
    .slice(0, THREE)
    .map(({ care: _, ...f }) => f);
}
const FIRST_POSITION = 7;
const tonicOf = ({ tonic }: Key): Pitch => ({
  step: tonic[0] as Pitch["step"],
  alter: (tonic.match(/#/g)?.length ?? 0) - (tonic.slice(1).match(/b/g)?.length ?? 0),
  octave: 4,
});

/** A note of a double stop: what it sounds, and whether the string is open. */
type Stopped = { noteNumber: number; open: boolean };

/**
 * Cents that each of two notes is moved so that they ring pure: the upper one, or the lower where the upper string is
 * open. An open string cannot move; two open ones stay as they are tuned.
 */
export function pureCents(low: Stopped, high: Stopped): { low: number; high: number } {
  const cents = pureInterval(low.noteNumber, high.noteNumber)?.cents ?? 0;
  if (!high.open) return { low: 0, high: cents };
  return { low: low.open || cents === 0 ? 0 : -cents, high: 0 };
}
