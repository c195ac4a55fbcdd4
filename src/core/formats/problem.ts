/** A place in a text, both counted from 1. */
export type Spot = { line: number; column: number };

/**
 * Something noticed while reading: where, what, and what was done about it. What was left out of the music, or may be,
 * is `left`: that is told without being asked for.
 */
export type Remark = Spot & { message: string; left?: true | undefined };

/** A file or tune that cannot be read. The message says what is wrong and what to do; the spot says where. */
export class FormatError extends Error {
  override name = "FormatError";
  constructor(
    message: string,
    readonly spot: Spot,
  ) {
    super(message);
  }
}

/** What fields of the score are called in the words of music. */
const FIELDS: Readonly<Record<string, string>> = {
  ticks: "its length",
  octave: "its octave",
  alter: "its sharp or flat",
  lyrics: "its words",
  grace: "its grace notes",
  tuplet: "its triplet",
  chords: "the chords over it",
  ending: "its ending",
  repeatEnd: "its repeat",
  metre: "the time signature",
  key: "the key signature",
  tempo: "the tempo",
  title: "the title",
  composer: "the composer",
  verses: "the verses",
};
/** How the places of the score are counted in words. */
const COUNTED: Readonly<Record<string, string>> = { strains: "part", bars: "bar", events: "note" };

/**
 * The first thing a schema has against a score, where a musician looks for it. `["strains", 1, "bars", 6, "events", 2,
 * "ticks"] // => "part 2, bar 7 of it, note 3: its length is too large"`
 */
export function firstIssue({ issues: [first] }: { issues: readonly Issue[] }): string {
  const path = (first?.path ?? []).map(String);
  const places = path.flatMap((name, i) => {
    const order = Number(path[i + 1]);
    if (!COUNTED[name] || !Number.isInteger(order)) return [];
    return [`${COUNTED[name]} ${order + 1}${name === "bars" ? " of it" : ""}`];
  });
  const field = path.findLast((name) => FIELDS[name]);
  return `${[...places, field ? FIELDS[field] : "something"].join(", ")} ${wrong(first)}`;
}
type Issue = { path: PropertyKey[]; message: string; code?: string };

/** What a schema says of a value, without its own words. */
const WRONG: Readonly<Record<string, string>> = {
  too_big: "is more than a tune can have",
  too_small: "is less than it can be",
  invalid_type: "is missing or of another kind",
  invalid_value: "is none that is known",
};
const wrong = (issue: Issue | undefined): string => WRONG[issue?.code ?? ""] ?? "cannot be read";
