import { isCounted, type Place, type Tune } from "../score";
import { music, type Related, relateUnits } from "./relate";

/** A phrase: a row of the bench. Bars are indexes into the tune's places, both ends included. */
export type Phrase = {
  /** Order in the tune from 0. */
  order: number;
  strain: number;
  /** The strain's letter or short name. */
  label: string;
  /** By strain and bars: "A 1–4". */
  name: string;
  /** The first of its strain. */
  first: boolean;
  from: number;
  to: number;
} & Related;

export type Form = {
  phrases: Phrase[];
  /** Strains in playing order with repeats, such as "AABB". */
  sequence: string;
  /** Full bars written, and how many different ones there are to learn. */
  bars: number;
  learn: number;
};

/**
 * Cuts a strain's bars into phrases where the music breathes: by fours wherever that comes out even and nothing speaks
 * clearly for another way. A pickup goes with the phrase it leads to.
 */
function cut(bars: readonly Place[]): Place[][] {
  const units = withPickups(bars);
  const breath = units.map((_, i) => breathAfter(units, i));
  /** What a cut before a bar gains or loses by the breath there. */
  const airAt = (end: number) => (end === units.length ? 0 : AIR * ((breath[end - 1] as number) - MEAN));
  // Phrases from the end back: the best way to cut what is left after each bar.
  const best: { worth: number; length: number }[] = [{ worth: 0, length: 0 }];
  for (let left = 1; left <= units.length; left++) {
    const from = units.length - left;
    const ways = LENGTHS.filter(([length]) => length <= left).map(([length, cost]) => {
      return { worth: (best[left - length]?.worth ?? 0) - cost + airAt(from + length), length };
    });
    best.push(ways.reduce((a, b) => (b.worth > a.worth + 1e-9 ? b : a)));
  }
  const even = units.length % USUAL === 0;
  let fours = even ? PLAIN : Number.NEGATIVE_INFINITY;
  for (let end = USUAL; even && end <= units.length; end += USUAL) fours += airAt(end);
  const byFours = fours >= (best[units.length]?.worth ?? 0);
  const rows: Place[][] = [];
  for (let from = 0; from < units.length; ) {
    const length = byFours ? USUAL : (best[units.length - from]?.length ?? 1);
    rows.push(units.slice(from, from + length).flat());
    from += length;
  }
  return rows;
}

/** Lengths a phrase may have in full bars, the usual first, and what each costs; a bar is a phrase only alone. */
const LENGTHS: readonly (readonly [length: number, cost: number])[] = [
  [4, 0],
  [6, 1],
  [5, 1.1],
  [3, 1.1],
  [2, 1.3],
  [1, 4],
];
/** What a breath is worth beside the lengths, and how much of one stands after a bar that says nothing. */
const AIR = 1.5;
const MEAN = 0.35;
/** The usual phrase, and how much better another way must be where fours come out even. */
const USUAL = 4;
const PLAIN = 1.2;

/** Full bars, each with the bars that lead to it or that a repeat cut off it. */
function withPickups(bars: readonly Place[]): Place[][] {
  const units: Place[][] = [];
  let leading: Place[] = [];
  for (const place of bars) {
    const isFull = isCounted(place);
    const last = units[units.length - 1];
    if (isFull) {
      units.push([...leading, place]);
      leading = [];
    } else if (place.pickup || !last || place.bar.repeatStart) leading.push(place);
    else last.push(place);
  }
  const last = units[units.length - 1];
  if (leading.length > 0 && last) last.push(...leading);
  else if (leading.length > 0) units.push(leading);
  return units;
}

/**
 * How plainly the music breathes after a bar, 0 to 1: its last note but for a lead-in is held or followed by a rest, a
 * repeat stands there, or what follows begins like the strain.
 */
function breathAfter(units: readonly Place[][], i: number): number {
  const [own, next] = [units[i], units[i + 1]];
  const place = own?.at(-1);
  const after = next?.find((p) => !p.pickup);
  if (!place || !after) return 0;
  if (next?.some((p) => p.bar.repeatStart) || place.bar.repeatEnd) return 1;
  const notes = place.bar.events;
  const whole = notes.reduce((sum, e) => sum + e.ticks, 0) || 1;
  const longest = Math.max(0, ...notes.slice(-LEAD_IN).map((e) => e.ticks));
  const first = Math.max(0, ...notes.slice(0, 1).map((e) => e.ticks));
  const held = longest >= Math.max(first, whole / 3) ? Math.min(1, longest / (whole / 2)) : 0;
  const again = units[0]?.find((p) => !p.pickup);
  const begins = again && i > 0 && music(again) === music(after) ? 0.5 : 0;
  return Math.min(1, 0.6 * held + begins);
}
/** How many of a bar's last notes are looked at for a long one: a lead-in may follow it. */
const LEAD_IN = 3;

/** Phrases of a tune with what each repeats, and the form in letters. */
export function findForm(tune: Tune, from: readonly Place[]): Form {
  const rows = tune.strains.flatMap((strain, s) =>
    cut(from.filter((p) => p.strain === s)).map((row, i) => ({
      strain: s,
      label: shortLabel(strain.label),
      name: `${shortLabel(strain.label)} ${barsOf(row)}`,
      first: i === 0,
      from: (row[0] as Place).index,
      to: (row[row.length - 1] as Place).index,
    })),
  );
  const leadIn = from[0]?.pickup ? from[0].ticks : 0;
  const related = relateUnits(from, rows, leadIn);
  const phrases = rows.map((row, order): Phrase => ({ order, ...row, ...(related[order] as Related) }));
  const full = from.filter((p) => !p.pickup && p.offset === 0);
  return {
    phrases,
    sequence: sequence(tune, from),
    bars: from.filter(isCounted).length,
    learn: Math.max(1, new Set(full.map(music)).size),
  };
}

/** The bars of a row as players count them: "1–4", "5". */
function barsOf(row: readonly Place[]): string {
  const counted = row.filter(isCounted);
  const [first, last] = [counted[0] ?? row[0], counted.at(-1) ?? row.at(-1)];
  return first?.number === last?.number ? `${first?.number}` : `${first?.number}–${last?.number}`;
}

const shortLabel = (label: string) => (label.length <= 3 ? label : label.slice(0, 12));

/** What a strain is for, by its name: the tune itself, or bars before, between and after it. */
export function roleOf(label: string): StrainRole {
  const name = label.trim().toLowerCase();
  return ROLES.find(([start]) => name.startsWith(start))?.[1] ?? "tune";
}
type StrainRole = "tune" | "intro" | "vamp" | "tag";
const ROLES: readonly [start: string, role: StrainRole][] = [
  ["intro", "intro"],
  ["vamp", "vamp"],
  ["tag", "tag"],
  ["outro", "tag"],
  ["coda", "tag"],
];

/** "AABB": each strain's letter as often as its repeat says. */
function sequence(tune: Tune, from: readonly Place[]): string {
  return tune.strains
    .map((strain, s) => {
      const bars = from.filter((p) => p.strain === s);
      const times = Math.max(1, ...bars.map((p) => p.bar.repeatEnd ?? 1));
      const letter = strain.label.length <= 2 ? strain.label : ` ${strain.label.toLowerCase()} `;
      return letter.repeat(times);
    })
    .join("")
    .replace(/\s+/g, " ")
    .trim();
}
