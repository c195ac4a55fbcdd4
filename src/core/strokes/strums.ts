import { barTicks, type Metre, metreName, QUARTER } from "../score";
import { ROLLS } from "../technique";
import type { Direction } from "./model";

/**
 * A strum: a grid over one bar, each sign an eighth of the bar as named. B bass, b the fifth of the chord, D and U
 * brushes, d and u light ones, x a chop, m the melody, T the thumb string, . nothing. A roll's grid names the strings,
 * and `fingers` who plucks them.
 */
export type Strum = {
  name: string;
  grid: string;
  metre: string;
  /** Instruments it is made for; none for any of them. */
  instruments: readonly string[];
  level: number;
  /** The hand of the banjo's basic strum: nails down, or fingers up. */
  school?: "down-stroke" | "up-picking";
  fingers?: string;
};

const strum = (grid: string, metre: string, name: string, instruments: string, level: number): Strum => ({
  name,
  grid,
  metre,
  instruments: instruments ? instruments.split(", ") : [],
  level,
});
const banjo = (grid: string, metre: string, school: NonNullable<Strum["school"]>): Strum => ({
  ...strum(grid, metre, school === "down-stroke" ? "basic strum" : "basic strum, up-picking", "banjo", 1),
  school,
});
/** The library, by teachers' judgement. */
export const STRUMS: readonly Strum[] = [
  strum("B.D.", "2/4", "bass and brush", "guitar", 1),
  strum("B.D.b.D.", "4/4", "song bass", "guitar", 2),
  strum("B.DUb.DU", "4/4", "reel bass", "guitar", 3),
  strum("D.DU.UDU", "4/4", "island", "ukulele, small lute", 3),
  strum("DudUduDu", "4/4", "three-three-two", "", 4),
  strum("..x...x.", "4/4", "off-beat chop", "mandolin, octave mandola, tenor banjo", 2),
  strum("D.DUD.DU", "4/4", "dulcimer reel", "mountain dulcimer", 1),
  banjo("m.DT", "2/4", "down-stroke"),
  banjo("m.DTm.DT", "4/4", "down-stroke"),
  banjo("m.DTDT", "3/4", "down-stroke"),
  banjo("m.DT", "2/4", "up-picking"),
  banjo("m.DTm.DT", "4/4", "up-picking"),
  banjo("m.DTDT", "3/4", "up-picking"),
  ...ROLLS.map(({ name, strings, fingers, metre }) => ({ ...strum(strings, metre, name, "banjo", 3), fingers })),
  strum("B.D.D.", "3/4", "waltz bass", "guitar", 1),
  strum("B.DUDU", "3/4", "rolling waltz", "", 3),
  strum("B...D.", "3/4", "ring dance", "", 2),
  strum("B.db.d", "6/8", "jig bass", "guitar", 2),
  strum("DudDud", "6/8", "jig brush", "", 3),
  strum("D.dD.dD.d", "9/8", "slip jig brush", "", 2),
  strum("D.DU", "2/4", "polka brush", "", 1),
  strum("..x.", "2/4", "polka chop", "mandolin, octave mandola, tenor banjo", 2),
  strum("D.D.D.D.", "4/4", "plain brush", "", 1),
  strum("D.D.D.", "3/4", "plain waltz", "", 1),
  strum("D.dD.d", "6/8", "plain jig", "", 1),
  strum("D.dD.dD.dD.d", "12/8", "slide brush", "", 2),
];

/** What each sign is: its kind, the way the hand goes, and what it is called beside the notes. */
type Sign = { kind: string; direction: Direction | null; light?: true; words: string };
export const SIGNS: Readonly<Record<string, Sign>> = {
  B: { kind: "bass", direction: "down", words: "bass" },
  b: { kind: "bass", direction: "down", words: "other bass" },
  D: { kind: "brush", direction: "down", words: "brush down" },
  U: { kind: "brush", direction: "up", words: "brush up" },
  d: { kind: "brush", direction: "down", light: true, words: "light brush down" },
  u: { kind: "brush", direction: "up", light: true, words: "light brush up" },
  x: { kind: "chop", direction: "down", words: "chop" },
  m: { kind: "melody", direction: "down", words: "melody" },
  T: { kind: "thumb", direction: "down", words: "thumb string" },
  ".": { kind: "rest", direction: null, words: "nothing" },
};

const NAMED: Readonly<Record<string, string>> = { "2/2": "4/4" };
/** The metre a bar is strummed as; `fine` where a tune in two-four runs in sixteenths. */
function strummedAs(metre: Metre, fine: boolean): string {
  const name = metreName(metre);
  return fine && name === "2/4" ? "4/4" : (NAMED[name] ?? name);
}

/** Strums of a metre for an instrument, those made for it first, then the easiest. */
export function strumsFor(metre: Metre, instrument: string, fine = false): Strum[] {
  const own = STRUMS.filter((s) => s.metre === strummedAs(metre, fine));
  const made = (s: Strum) => s.instruments.includes(instrument);
  return own
    .filter((s) => s.instruments.length === 0 || made(s))
    .sort((a, b) => Number(made(b)) - Number(made(a)) || a.level - b.level);
}

/** Eighths of a bar: the places of its grid. */
export const gridSize = (metre: Metre): number => Math.max(1, Math.ceil(barTicks(metre) / (QUARTER / 2)));

/** Why a grid of one's own cannot be played, in words; undefined where it can. */
export function gridTrouble(grid: string, metre: Metre): string | undefined {
  const size = gridSize(metre);
  const foreign = [...grid].find((sign) => !Object.hasOwn(SIGNS, sign));
  if (foreign) return `"${foreign}" is no stroke. Write ${Object.keys(SIGNS).join(" ")}.`;
  if (grid.length !== size) return `A bar of ${metreName(metre)} has ${size} places, not ${grid.length}.`;
  return [...grid].every((sign) => sign === ".") ? "A strum needs one stroke at least." : undefined;
}

/** A bar of plain down-brushes, for metres the library has no strum for. */
export const plainGrid = (metre: Metre): string =>
  Array.from({ length: gridSize(metre) }, (_, i) => (i % 2 === 0 ? "D" : ".")).join("");
