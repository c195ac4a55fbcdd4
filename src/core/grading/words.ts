import { parsePitch } from "../theory";

/** What a learner's record may say under `can` and `cannot`: each word switches what it names. Teachers' judgement. */
export const WORDS = {
  low2: "low second finger",
  high3: "high third finger",
  fourth: "fourth finger",
  extension: "low first finger and stretches",
  allstrings: "all strings",
  highoctave: "the upper octave",
  lowD: "the lowest notes",
  cnat: "the flat seventh, cross-fingered",
  halfhole: "half-holed notes",
  skip: "skipping a string",
  slur2: "slurs of two",
  slur3: "slurs of three",
  slurover: "slurs over the bar line",
  opendouble: "double stops with an open string",
  double: "double stops",
  cut: "cuts and grace notes",
  triplet: "triplets",
  roll: "rolls",
  longbreath: "two seconds more of bow or breath",
  quick: "the next level's speed",
  barre: "barres",
  capo: "a capo",
  up: "up-strokes",
  boombrush: "bass and brush",
  thumbstring: "the thumb string",
  lefthand: "the left hand too",
  shuffle: "shuffles",
  offbeat: "off-beats",
  syncopate: "syncopation",
  rests: "coming in after rests of two bars and more",
  alone: "being the only one on a part",
  sings: "singing",
  lead: "leading, with the count",
} as const;
export type PlainWord = keyof typeof WORDS;

/** A word as it was understood: a plain one, a key, a range or a chord shape. */
export type Word =
  | { word: PlainWord }
  | { word: "key"; key: string }
  | { word: "range"; lowest: string; highest: string }
  | { word: "shape"; symbol: string };

const PITCH = /^[A-G](#|b)?\d$/;

/** Reads one word. Throws a RangeError that says what words there are. */
export function readWord(text: string): Word {
  const asked = text.trim();
  const plain = (Object.keys(WORDS) as PlainWord[]).find((w) => w.toLowerCase() === asked.toLowerCase());
  if (plain) return { word: plain };
  const [, kind, value = ""] = /^(key|range|shape):(.+)$/i.exec(asked) ?? [];
  if (kind?.toLowerCase() === "key" && /^[A-G](#|b)?(maj|min|m|dor|mix|phr|lyd)?$/i.test(value))
    return { word: "key", key: value };
  if (kind?.toLowerCase() === "shape" && /^[A-G]/.test(value)) return { word: "shape", symbol: value };
  if (kind?.toLowerCase() === "range") {
    const [lowest = "", highest = ""] = value.split("-");
    if (PITCH.test(lowest) && PITCH.test(highest)) {
      parsePitch(lowest);
      return { word: "range", lowest, highest };
    }
  }
  throw new RangeError(
    `"${asked.slice(0, 40)}" is not understood. Words: ${Object.keys(WORDS).join(", ")}, key:G, range:D4-B4, shape:Am.`,
  );
}
