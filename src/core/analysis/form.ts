import type { Place, Tune } from "../score";
import { music, type Related, relateUnits, type Unit } from "./relate";

/** A phrase: a row of the bench. Bars are indexes into the tune's places, both ends included. */
export type Phrase = {
  /** Order in the tune from 0. */
  order: number;
  strain: number;
  /** "A1", "A2", "B1" ... */
  name: string;
  from: number;
  to: number;
} & Related;

export type Form = {
  phrases: Phrase[];
  /** The same comparison on units of two bars inside the phrases, and of two phrases inside the strains. */
  halves: (Unit & Related)[];
  pairs: (Unit & Related)[];
  /** Strains in playing order with repeats, such as "AABB". */
  sequence: string;
  /** Full bars written, and how many different ones there are to learn. */
  bars: number;
  learn: number;
};

/**
 * Cuts a strain's bars into phrases of four full bars; a pickup goes with the phrase it leads to, one bar left over
 * stays with the last.
 */
function cut(bars: readonly Place[]): Place[][] {
  const rows: Place[][] = [];
  let row: Place[] = [];
  let count = 0;
  for (const place of bars) {
    const leads = place.pickup || (place.bar.repeatStart && row.length > 0);
    if (row.length > 0 && ((leads && count > 0) || count === 4)) {
      rows.push(row);
      [row, count] = [[], 0];
    }
    row.push(place);
    if (!place.pickup && place.offset === 0) count += 1;
  }
  if (row.length > 0) {
    const last = rows[rows.length - 1];
    if (count <= 1 && last && !row[0]?.pickup) last.push(...row);
    else rows.push(row);
  }
  return rows;
}

/** Phrases of a tune with what each repeats, and the form in letters. */
export function findForm(tune: Tune, from: readonly Place[]): Form {
  const rows = tune.strains.flatMap((strain, s) =>
    cut(from.filter((p) => p.strain === s)).map((row, i) => ({
      strain: s,
      name: `${shortLabel(strain.label)}${i + 1}`,
      from: (row[0] as Place).index,
      to: (row[row.length - 1] as Place).index,
    })),
  );
  const leadIn = from[0]?.pickup ? from[0].ticks : 0;
  const related = relateUnits(from, rows, leadIn);
  const phrases = rows.map((row, order): Phrase => ({ order, ...row, ...(related[order] as Related) }));
  const full = from.filter((p) => !p.pickup && p.offset === 0);
  const size = (bars: 2 | 8) => {
    const units = grouped(from, phrases, bars);
    const found = relateUnits(from, units, leadIn);
    return units.map((unit, i) => ({ ...unit, ...(found[i] as Related) }));
  };
  return {
    phrases,
    halves: size(2),
    pairs: size(8),
    sequence: sequence(tune, from),
    bars: full.length,
    learn: Math.max(1, new Set(full.map(music)).size),
  };
}

const shortLabel = (label: string) => (label.length <= 3 ? label : label.slice(0, 12));

/** Units of two bars inside the phrases, or of two phrases inside the strains. */
function grouped(from: readonly Place[], phrases: readonly Phrase[], bars: 2 | 8): Unit[] {
  if (bars === 8) {
    return phrases.flatMap((p, i) => {
      const within = phrases.filter((q) => q.strain === p.strain);
      const next = phrases[i + 1];
      return within.indexOf(p) % 2 === 0 && next?.strain === p.strain ? [{ from: p.from, to: next.to }] : [];
    });
  }
  return phrases.flatMap((p) => {
    const full = from.slice(p.from, p.to + 1).filter((b) => !b.pickup && b.offset === 0);
    return full.flatMap((b, i) =>
      i % 2 === 0 && full[i + 1] ? [{ from: b.index, to: (full[i + 1] as Place).index }] : [],
    );
  });
}

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
