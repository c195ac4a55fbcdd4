import type { Instrument } from "../instruments";
import type { Place } from "../score";
import type { HeldString, Shape } from "../technique";
import { midi } from "../theory";
import type { Direction } from "./model";

/** A string that sounds in a stroke: its number as players count it, its fret's label, and the pitch. */
export type Struck = { string: number; fret: string; noteNumber: number };

/** What the left hand does by itself, while the right one rests. */
export const LEFT_HAND = ["slide", "hammer-on", "pull-off", "bend"] as const;
export type LeftHand = (typeof LEFT_HAND)[number];

/** What a stroke is where that is more than its sign says: its kind, who strikes, the way, and why. */
export type OwnStroke = {
  kind: string;
  pluck?: string;
  move?: LeftHand;
  direction?: Direction | null;
  reason?: string;
};

/** One place of a strum's grid: ticks from the start of the tune, its sign, and the strings that sound. */
export type StrumStroke = {
  place: Place;
  at: number;
  ticks: number;
  sign: string;
  struck: readonly Struck[];
  own?: OwnStroke;
  fill?: true;
};

/** Strings of a brush up, and of a light one; where a bass note has its own stroke, those of a brush down. */
const UPPER = 3;
const OVER_BASS = 4;

const named = (on: Instrument, { string, fret, noteNumber }: HeldString): Struck => ({
  string: on.strings[string]?.number ?? 0,
  fret: fret.label,
  noteNumber,
});

/** The other bass of a chord: another of its lower strings, a fifth where there is one. */
function otherBass(held: readonly HeldString[], bass: HeldString): HeldString {
  const low = held.slice(0, 3).filter((h) => h !== bass);
  const fifth = low.find((h) => (h.noteNumber - bass.noteNumber + 144) % 12 === 7);
  return fifth ?? low[0] ?? bass;
}

/** The thumb's short string, open. */
export function thumbString(on: Instrument): Struck | undefined {
  const short = on.strings.find((s) => s.shortFrom !== undefined);
  return short && { string: short.number, fret: "0", noteNumber: midi(short.open) };
}

/** One string of a roll: as its shape holds it, or open. */
export function rolled(number: number, shape: Shape | null, on: Instrument): Struck[] {
  const string = on.strings.findIndex((s) => s.number === number);
  const open = on.strings[string];
  if (!open) return [];
  const held = shape?.held.find((h) => h.string === string);
  return [held ? named(on, held) : { string: number, fret: "0", noteNumber: midi(open.open) }];
}

const NONE: readonly Struck[] = [];
type Pick = (held: readonly HeldString[]) => readonly HeldString[];
const PICKS: Readonly<Record<string, Pick>> = {
  B: (held) => held.slice(0, 1),
  b: (held) => (held[0] ? [otherBass(held, held[0])] : []),
  D: (held) => held.slice(-OVER_BASS),
  U: (held) => held.slice(-UPPER),
  d: (held) => held.slice(-UPPER),
  u: (held) => held.slice(-UPPER),
  x: (held) => held,
};

/** The strings a sign strikes in a chord's shape, from the lowest; none where nothing is known of them. */
export function struckStrings(sign: string, shape: Shape | null, on: Instrument): readonly Struck[] {
  if (/\d/.test(sign)) return rolled(Number(sign), shape, on);
  if (sign === "T") {
    const thumb = thumbString(on);
    return thumb ? [thumb] : NONE;
  }
  const pick = PICKS[sign];
  return pick && shape ? pick(shape.held).map((h) => named(on, h)) : NONE;
}
