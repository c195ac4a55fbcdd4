import { midi } from "../theory";
import { type Instrument, LEVELS, type Level, type Reach } from "./model";

/** A number for each level, from the first. */
export type ByLevel<T> = readonly [T, T, T, T, T];
export const atLevel = <T>(values: ByLevel<T>, level: Level): T => values[LEVELS.indexOf(level)] as T;

/** The strings and frets of a level on an instrument; nothing where it has no strings. */
export const reachOf = ({ reach }: Instrument, level: Level): Reach => (reach ? atLevel(reach, level) : { highest: 0 });

/** The lowest and the highest note (MIDI) a level plays or sings on an instrument. */
export function rangeOf(on: Instrument, level: Level): { lowest: number; highest: number } {
  if (on.strings.length > 0) {
    const { strings, highest } = reachOf(on, level);
    const used = on.strings
      .filter((s) => !s.shortFrom && (strings?.includes(s.number) ?? true))
      .map((s) => midi(s.open));
    const reached = on.frets?.filter((f) => Number.parseFloat(f.label) <= highest).at(-1)?.semitones ?? highest;
    return { lowest: Math.min(...used), highest: Math.max(...used) + reached };
  }
  const own = on.ranges ? atLevel(on.ranges, level) : on;
  return { lowest: midi(own.lowest), highest: midi(own.highest) };
}

/** Widest stretch by the place of the lowest finger: from that fret on, so many frets. */
export type Span = { from: number; span: number };

/** Strings shorter than these have a wide and a middling hand. Centimetres. */
const SHORT = 45;
const MIDDLE = 60;
/** How frets lie under the hand: far apart, close, or a scale's steps apart. */
export type Spacing = "long" | "middle" | "short" | "diatonic";

/** How the frets of an instrument lie under the hand; bowed fingers lie close. */
export function spacingOf({
  hand,
  scale = 35,
  frets: all = [],
}: Pick<Instrument, "hand" | "scale" | "frets">): Spacing {
  if (hand !== "frets") return "short";
  if (!all.some((f) => f.semitones === 1)) return "diatonic";
  if (scale < SHORT) return "short";
  return scale < MIDDLE ? "middle" : "long";
}

/** How wide a level's hand opens along the neck. Frets; labels where frets are a scale's steps. */
export function spansOf({ spans }: Instrument, level: Level): Span[] {
  if (!spans) return [];
  return atLevel(spans.frets, level).map((span, i) => ({ from: spans.from[i] as number, span }));
}

/** Most fingers a chord asks of a level, and whether the first may lie across strings: teachers' judgement. */
const CHORD_FINGERS: ByLevel<{ fingers: number; barre: "none" | "half" | "full" }> = [
  { fingers: 2, barre: "none" },
  { fingers: 3, barre: "none" },
  { fingers: 4, barre: "half" },
  { fingers: 4, barre: "full" },
  { fingers: 4, barre: "full" },
];
export const chordFingers = (level: Level) => atLevel(CHORD_FINGERS, level);
