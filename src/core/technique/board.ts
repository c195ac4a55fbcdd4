import { atLevel, type Instrument, type Level, reachOf, spacingOf, type Span, spansOf } from "../instruments";
import { midi } from "../theory";

/** A fret as a hand meets it: its label, its number along the neck (6+ is 6.5), semitones above the open string. */
export type Stop = { label: string; number: number; semitones: number };
/** One string of a board: its number as players count it, what it sounds open, and where it may be stopped. */
export type BoardString = {
  number: number;
  open: number;
  stops: readonly Stop[];
  short: boolean;
  /** Whether this level plays the melody on it; elsewhere it only rings. */
  melody: boolean;
};

/** An instrument's strings as a level plays them, and how its hand lies over them. */
export type Board = {
  on: Instrument;
  level: Level;
  strings: readonly BoardString[];
  spans: readonly Span[];
  /** Frets that one finger looks after; bowed hands have their own fingers. */
  perFinger: number;
  hand: "frets" | "violin" | "cello";
  /** Fingers run from the nut with the first finger, or from above with the little one. */
  fromAbove: boolean;
};

const numberOf = (label: string): number => Number.parseInt(label, 10) + (label.endsWith("+") ? 0.5 : 0);
/** Frets of one finger where they lie close; elsewhere one. */
const CLOSE = 2;

/** Boards that were made, by their instrument: they never change. */
const known = new WeakMap<Instrument, Map<Level, Board>>();

/** The board of a strung instrument for a level; undefined where it has no strings. */
export function boardOf(on: Instrument, level: Level): Board | undefined {
  const { hand } = on;
  if (!hand || on.strings.length === 0) return undefined;
  const own = known.get(on) ?? new Map<Level, Board>();
  known.set(on, own);
  const found = own.get(level) ?? made(on, hand, level);
  own.set(level, found);
  return found;
}

function made(on: Instrument, hand: Board["hand"], level: Level): Board {
  const { strings: used, highest } = reachOf(on, level);
  const all: Stop[] =
    hand === "frets"
      ? (on.frets ?? []).map((f) => ({ ...f, number: numberOf(f.label) }))
      : Array.from({ length: highest + 1 }, (_, i) => ({ label: String(i), number: i, semitones: i })).filter((s) =>
          isBowed(hand, level, s.number),
        );
  const spacing = spacingOf(on);
  const strings = on.strings.map(({ number, open, shortFrom }): BoardString => {
    const plays = !shortFrom && (used === undefined || used.includes(number));
    return {
      number,
      open: midi(open),
      stops: plays ? all.filter((s) => s.number <= highest) : all.slice(0, 1),
      short: shortFrom !== undefined,
      melody: plays,
    };
  });
  return {
    on,
    level,
    strings,
    spans: spansOf(on, level),
    perFinger: spacing === "short" ? CLOSE : 1,
    hand,
    fromAbove: spacing === "diatonic",
  };
}

/** How far the hand opens with its lowest finger on a fret. */
export const spanAt = ({ spans }: Board, lowest: number): number =>
  (spans.findLast((s) => s.from <= lowest) ?? spans[0])?.span ?? 0;

/** Fingers by semitones above the first one's place: the violin family's tones, the cello's semitones. */
export const BOWED_FINGERS = { violin: [0, 1, 1, 2, 2, 3, 3, 4, 4], cello: [0, 1, 1, 2, 3, 4, 4] } as const;
/** Whether some finger of a bowed hand reaches so many semitones above the open string. */
const isBowed = (hand: "violin" | "cello", level: Level, semitones: number): boolean =>
  semitones === 0 || bowedPlaces(level).some((p) => semitones - p >= 1 && semitones - p < BOWED_FINGERS[hand].length);

/** Places of the first finger that bowed hands take at a level, in semitones above first position. */
const BOWED_PLACES: readonly [number[], number[], number[], number[], number[]] = [
  [0],
  [0],
  [0],
  [0, 3],
  [0, 2, 3, 5, 7, 8],
];
export const bowedPlaces = (level: Level): readonly number[] => atLevel(BOWED_PLACES, level);
