import { midi, parsePitch } from "../theory";
import type { Instrument } from "./model";

/** The five levels of players, from their first months on. */
export const LEVELS = ["First sounds", "Steady", "Moving", "Fluent", "Leading"] as const;
export type Level = (typeof LEVELS)[number];

/** A number for each level, from the first. */
type ByLevel<T> = readonly [T, T, T, T, T];
export const atLevel = <T>(values: ByLevel<T>, level: Level): T => values[LEVELS.indexOf(level)] as T;

/** Strings (by number, as players count them) and the highest fret a level plays on; no strings named for all. */
type Reach = { strings?: readonly number[]; highest: number };
const frets = (...highest: ByLevel<number>): ByLevel<Reach> =>
  highest.map((h) => ({ highest: h })) as unknown as ByLevel<Reach>;
const from = (first: Reach, second: Reach, ...more: readonly [number, number, number]): ByLevel<Reach> => {
  const [, , a, b, c] = frets(0, 0, ...more);
  return [first, second, a, b, c];
};

/** How far up the strings each level goes, by instrument: teachers' judgement. Frets by their number. */
const REACHES: Readonly<Record<string, ByLevel<Reach>>> = {
  mandolin: from({ strings: [2, 3], highest: 5 }, { highest: 5 }, 7, 10, 15),
  guitar: from({ strings: [1, 2, 3], highest: 3 }, { strings: [1, 2, 3, 4], highest: 4 }, 5, 9, 15),
  banjo: from({ strings: [1, 2, 3, 4], highest: 2 }, { highest: 4 }, 7, 12, 17),
  ukulele: frets(3, 5, 7, 10, 12),
  "mountain dulcimer": from({ strings: [1], highest: 7 }, { strings: [1], highest: 9 }, 9, 12, 14),
};
const LIKE: Readonly<Record<string, string>> = {
  "octave mandola": "mandolin",
  "tenor banjo": "mandolin",
  "small lute": "ukulele",
};
/** Semitones above the open string that bowed players reach: first position, third, and beyond. */
const BOWED: ByLevel<Reach> = frets(7, 7, 7, 10, 15);

/** The strings and frets of a level on an instrument. */
export function reachOf({ name, hand }: Instrument, level: Level): Reach {
  const own = REACHES[LIKE[name] ?? name];
  if (own) return atLevel(own, level);
  return hand === "frets" ? { highest: 12 } : atLevel(BOWED, level);
}

/** Semitones a whistle and its like goes above its lowest note, by level. */
const BLOWN: Readonly<Record<string, ByLevel<readonly [low: string, high: string]>>> = {
  flute: [
    ["G4", "D5"],
    ["D4", "D5"],
    ["D4", "G5"],
    ["D4", "B5"],
    ["D4", "D6"],
  ],
};
const WHISTLE: ByLevel<number> = [9, 14, 17, 21, 24];
/** The highest notes trained voices reach, from the fourth level on. */
const TRAINED: Readonly<Record<string, string>> = { soprano: "A5", alto: "E5", tenor: "A4", "bass voice": "E4" };
const TRAINED_FROM = 3;

/** The lowest and the highest note (MIDI) a level plays or sings on an instrument. */
export function rangeOf(on: Instrument, level: Level): { lowest: number; highest: number } {
  const [low, high] = [midi(on.lowest), midi(on.highest)];
  if (on.strings.length > 0) {
    const { strings, highest } = reachOf(on, level);
    const used = on.strings
      .filter((s) => !s.shortFrom && (strings?.includes(s.number) ?? true))
      .map((s) => midi(s.open));
    const reached = on.frets?.filter((f) => Number.parseFloat(f.label) <= highest).at(-1)?.semitones ?? highest;
    return { lowest: Math.min(...used), highest: Math.max(...used) + reached };
  }
  const own = BLOWN[on.name];
  if (own) {
    const [lowest, highest] = atLevel(own, level).map((p) => midi(parsePitch(p))) as [number, number];
    return { lowest, highest };
  }
  if (on.name.endsWith("whistle")) return { lowest: low, highest: low + atLevel(WHISTLE, level) };
  const trained = LEVELS.indexOf(level) >= TRAINED_FROM ? TRAINED[on.name] : undefined;
  return { lowest: low, highest: trained ? midi(parsePitch(trained)) : high };
}

/** Widest stretch by the place of the lowest finger: from that fret on, so many frets. */
export type Span = { from: number; span: number };
type Spans = ByLevel<readonly [number, number, number]>;
/** Frets of a hand, near the nut, farther up and up the neck, by how far apart they lie: teachers' judgement. */
const SPANS: Readonly<Record<string, { at: readonly [number, number, number]; spans: Spans }>> = {
  long: {
    at: [1, 5, 9],
    spans: [
      [2, 3, 3],
      [3, 3, 4],
      [3, 4, 4],
      [4, 4, 5],
      [4, 5, 6],
    ],
  },
  middle: {
    at: [1, 5, 9],
    spans: [
      [3, 3, 4],
      [4, 4, 5],
      [4, 5, 6],
      [5, 5, 6],
      [5, 6, 7],
    ],
  },
  short: {
    at: [1, 5, 9],
    spans: [
      [4, 4, 5],
      [5, 5, 6],
      [6, 6, 7],
      [6, 6, 7],
      [6, 7, 8],
    ],
  },
  diatonic: {
    at: [1, 3, 7],
    spans: [
      [2, 2, 3],
      [2, 3, 3],
      [2, 3, 4],
      [3, 4, 5],
      [3, 4, 6],
    ],
  },
};
/** Strings shorter than these have a wide and a middling hand. Centimetres. */
const SHORT = 45;
const MIDDLE = 60;

/** How frets lie under the hand: far apart, close, or a scale's steps apart. */
export function spacingOf({ hand, scale = 35, frets: all = [] }: Instrument): "long" | "middle" | "short" | "diatonic" {
  if (hand !== "frets") return "short";
  if (!all.some((f) => f.semitones === 1)) return "diatonic";
  if (scale < SHORT) return "short";
  return scale < MIDDLE ? "middle" : "long";
}

/** How wide a level's hand opens along the neck. Frets; labels where frets are a scale's steps. */
export function spansOf(on: Instrument, level: Level): Span[] {
  const known = SPANS[spacingOf(on)] as (typeof SPANS)[string];
  return atLevel(known.spans, level).map((span, i) => ({ from: known.at[i] as number, span }));
}

/** Most fingers a chord asks of a level, and whether the first may lie across strings. */
const CHORD_FINGERS: ByLevel<{ fingers: number; barre: boolean }> = [
  { fingers: 2, barre: false },
  { fingers: 3, barre: false },
  { fingers: 4, barre: false },
  { fingers: 4, barre: true },
  { fingers: 4, barre: true },
];
export const chordFingers = (level: Level) => atLevel(CHORD_FINGERS, level);
