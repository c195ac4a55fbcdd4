/**
 * What a style does with a group of notes that fills a main beat: notes of each stroke in order; `~` before a number
 * goes on in the same direction. By teachers' judgement.
 */
type Pattern = readonly string[];
/** Lengths of a group in running notes, with a name for each. */
const name = (lengths: readonly number[]) => lengths.map((l) => Math.round(l * 12)).join(" ");
const rows = (...all: readonly (readonly [lengths: readonly number[], pattern: string])[]) =>
  new Map<string, Pattern>(all.map(([lengths, pattern]) => [name(lengths), pattern.split(" ")]));

const T = 2 / 3;
const SEPARATE: readonly (readonly [readonly number[], string])[] = [
  [[4], "1"],
  [[3], "1"],
  [[2, 2], "1 1"],
  [[3, 1], "1 1"],
  [[1.5, 0.5, 1.5, 0.5], "1 1 1 1"],
];
const PAIRS = [1.5, 0.5, 0.5, 1.5];
const TRIPLET = [T, T, T, 1, 1];

/** The patterns of each pattern style. */
export const PATTERNS: Readonly<Record<string, ReadonlyMap<string, Pattern>>> = {
  Shuffle: rows(
    ...SEPARATE,
    [[1, 1, 1, 1], "2 1 1"],
    [[2, 1, 1], "1 1 1"],
    [[1, 1, 2], "2 1"],
    [[1, 1, 1], "2 1"],
    [[2, 1], "1 1"],
    [PAIRS, "1 1 1 1"],
    [TRIPLET, "3 1 1"],
  ),
  "Slurred threes": rows(
    ...SEPARATE,
    [[1, 1, 1, 1], "1 3"],
    [[2, 1, 1], "1 2"],
    [[1, 1, 1], "3"],
    [[2, 1], "2"],
    [PAIRS, "1 1 1 1"],
    [TRIPLET, "3 2"],
  ),
  "Driven up-bows": rows(
    ...SEPARATE,
    [[1, 1, 1, 1], "1 1 ~2"],
    [[2, 1, 1], "1 1 ~1"],
    [[1, 1, 1], "1 1 ~1"],
    [[2, 1], "1 1"],
    [PAIRS, "1 1 ~2"],
    [TRIPLET, "3 1 ~1"],
  ),
};

/** Pickups of two and of three running notes, by style. */
const LEAD_INS: Readonly<Record<string, Readonly<Record<number, readonly Joint[]>>>> = {
  Shuffle: { 3: ["slur", "change"] },
  "Slurred threes": { 2: ["slur"], 3: ["slur", "slur"] },
  "Driven up-bows": { 2: ["hook"], 3: ["slur", "slur"] },
};
/** The joints a style wants in a pickup of so many running notes; undefined where it wants nothing. */
export const leadInJoints = (style: string, notes: number): readonly Joint[] | undefined => LEAD_INS[style]?.[notes];

/** What joins a note to the one before it: it is in the same stroke, begins another, or one the same way. */
export type Joint = "slur" | "change" | "hook";

/** What a driven group of four does after a held note, which has taken its down-bow. */
const AFTER_HELD: Pattern = ["1", "1", "1", "~1"];

/**
 * The joints a style wants inside a group, one for each note after its first; undefined where it wants nothing. `held`:
 * a note as long as a group comes before.
 */
export function wantedJoints(style: string, lengths: readonly number[], held: boolean): Joint[] | undefined {
  const four = lengths.length === 4 && lengths.every((l) => l === 1);
  const pattern = held && four && style === "Driven up-bows" ? AFTER_HELD : PATTERNS[style]?.get(name(lengths));
  return pattern?.flatMap((stroke, order): Joint[] => {
    const hook = stroke.startsWith("~");
    const first: Joint = hook ? "hook" : "change";
    const slurred = new Array<Joint>(Number(stroke.replace("~", "")) - 1).fill("slur");
    return order === 0 ? slurred : [first, ...slurred];
  });
}
