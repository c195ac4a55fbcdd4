import { beatTicks, isCompound, metreName, type Place, QUARTER } from "../score";

/**
 * A rhythm cell: lengths in eighths that begin on a beat, what is said under them, and what they teach. By teachers'
 * judgement.
 */
export type Cell = {
  name: string;
  lengths: readonly number[];
  metres: readonly string[];
  syllables: readonly string[];
  teaches: string;
};

const T = 2 / 3;
const cell = (name: string, lengths: readonly number[], metres: string, said: string, teaches: string): Cell => ({
  name,
  lengths,
  metres: metres.split(" "),
  syllables: said.split("-"),
  teaches,
});

export const CELLS: readonly Cell[] = [
  cell("Long-short-short", [2, 1, 1], "2/4 4/4", "dum-ta-ka", "shuffle"),
  cell("Short-short-long", [1, 1, 2], "2/4 4/4", "ta-ka-dum", "mirror"),
  cell("Four shorts, two longs", [1, 1, 1, 1, 2, 2], "4/4", "ta-ka-ta-ka-dum-dum", "phrase ends"),
  cell("Three-three-two", [3, 3, 2], "4/4", "doom-doom-dum", "cross-accent"),
  cell("Even four", [1, 1, 1, 1], "2/4 4/4", "ta-ka-ta-ka", "evenness"),
  cell("Long-wait-short", [3, 1], "2/4 4/4", "doom-ka", "holding"),
  cell("Dotted pairs", [1.5, 0.5, 1.5, 0.5], "2/4 4/4", "dah-k-dah-k", "bounce"),
  cell("Snap", [0.5, 1.5], "4/4", "k-dah", "bite"),
  cell("Off-beat long", [1, 2, 1], "2/4 4/4", "ta-dum-ka", "syncopation"),
  cell("Triplet and land", [T, T, T, 2], "2/4 4/4", "ti-ki-ti-dum", "lead-in"),
  cell("Jig run", [1, 1, 1], "6/8 9/8 12/8", "da-ki-ta", "first-of-three"),
  cell("Jig step", [2, 1], "6/8 9/8 12/8", "dum-ta", "lilt"),
  cell("Step and run", [2, 1, 1, 1, 1], "6/8 12/8", "dum-ta-da-ki-ta", "odd bar"),
  cell("Slip step", [2, 1, 1, 1, 1, 2, 1], "9/8", "dum-ta-da-ki-ta-dum-ta", "three beats"),
  cell("Waltz turn", [2, 1, 1, 2], "3/4", "dum-ta-ka-dum", "flow"),
  cell("Mazurka hop", [1.5, 0.5, 2, 2], "3/4", "dah-k-dum-dum", "second beat"),
];

/** A cell as it is found in a tune: how often, where first (bar index), and its rank among those worth teaching. */
export type FoundCell = Cell & { count: number; bars: number[]; rank: number };

const EIGHTH = QUARTER / 2;
/** Cells of one length teach less than those with long and short; longer ones say more of the tune. */
const EVEN = 0.4;
const worth = ({ lengths }: Cell): number => (new Set(lengths).size > 1 ? 1 : EVEN) * (1 + lengths.length / 8);
const near = (a: number, b: number) => Math.abs(a - b) < 1e-6;

/** Metres that hold the cells of another, written otherwise. */
const LIKE: Readonly<Record<string, string>> = { "2/2": "4/4", "3/8": "6/8" };

/** Whether a cell belongs to the metre of a bar. */
export const cellFits = ({ metres }: Cell, { metre }: Place): boolean => {
  const name = metreName(metre);
  return metres.includes(LIKE[name] ?? name);
};

/**
 * The cells of a tune with what "pull these out first" needs: each counted where it begins on a beat and stays in its
 * bar, without overlap; ranked from 1 by how often it comes and how much it teaches. Those that never come are left
 * out.
 */
export function foundCells(places: readonly Place[]): FoundCell[] {
  const found = CELLS.flatMap((own) => {
    const bars = places.flatMap((place) =>
      cellFits(own, place) ? new Array<number>(countIn(own, place)).fill(place.index) : [],
    );
    return bars.length > 0 ? [{ ...own, count: bars.length, bars: [...new Set<number>(bars)] }] : [];
  });
  return found
    .sort((a, b) => b.count * worth(b) - a.count * worth(a) || CELLS.indexOf(a) - CELLS.indexOf(b))
    .map((own, i) => ({ ...own, rank: i + 1 }));
}

/** Where a cell comes in a bar: the order of its first event each time. */
function startsIn({ lengths }: Cell, { bar, offset, metre }: Place, taken: ReadonlySet<number> = new Set()): number[] {
  const beat = isCompound(metre) ? beatTicks(metre) : QUARTER;
  let [at, free] = [offset, 0];
  const starts: number[] = [];
  bar.events.forEach((_, i) => {
    const own = bar.events.slice(i, i + lengths.length);
    const fits =
      at >= free &&
      at % beat === 0 &&
      own.length === lengths.length &&
      own.every(({ ticks, pitches, tie }, k) => {
        const last = k === own.length - 1;
        const open = pitches.length > 0 && (last || !tie) && !taken.has(i + k);
        return open && near(ticks / EIGHTH, lengths[k] as number);
      });
    if (fits) {
      starts.push(i);
      free = at + own.reduce((sum, e) => sum + e.ticks, 0);
    }
    at += bar.events[i]?.ticks ?? 0;
  });
  return starts;
}
const countIn = (own: Cell, place: Place): number => startsIn(own, place).length;

/**
 * A note of the tune with what is said on it, the cell it belongs to (its order among those asked for), and whether it
 * is the cell's first.
 */
export type SpokenNote = {
  bar: number;
  event: number;
  at: number;
  ticks: number;
  word: string;
  cell: number | null;
  opens: boolean;
};

/** What is said on notes that belong to no cell: by their length, and by where they lie in their beat. */
const WORDS = {
  long: "doom",
  beat: "dum",
  triplet: { first: "ti", inner: "ki", last: "ti" },
  halves: ["ta", "ka"],
  thirds: ["da", "ki", "ta"],
} as const;

function wordOf({ metre, offset }: Place, at: number, { ticks, tuplet }: Place["bar"]["events"][number]): string {
  if (tuplet?.actual === 3) return WORDS.triplet[tuplet.place];
  const beat = beatTicks(metre);
  const compound = isCompound(metre);
  if (ticks >= 2 * Math.max(beat, QUARTER)) return WORDS.long;
  if (ticks >= (compound ? beat / 2 : Math.max(beat, QUARTER))) return WORDS.beat;
  const part = ((offset + at) % beat) / (beat / (compound ? 3 : 2));
  const words = compound ? WORDS.thirds : WORDS.halves;
  return words[Math.round(part * (Number.isInteger(part) ? 1 : 2)) % words.length] ?? WORDS.halves[0];
}

/**
 * The tune as it is spoken: a word on every note, ties joined. Notes of the cells that are asked for carry the cell's
 * own words, the first cell before the others.
 */
export function spokenNotes(places: readonly Place[], cells: readonly Cell[]): SpokenNote[] {
  const notes: SpokenNote[] = [];
  let tied = false;
  for (const place of places) {
    const owner = new Map<number, { cell: number; word: string; opens: boolean }>();
    cells.forEach((own, cell) => {
      if (!cellFits(own, place)) return;
      for (const start of startsIn(own, place, new Set(owner.keys())))
        for (const [k, word] of own.syllables.entries()) owner.set(start + k, { cell, word, opens: k === 0 });
    });
    let at = 0;
    place.bar.events.forEach((event, order) => {
      const sounds = event.pitches.length > 0;
      const last = notes.at(-1);
      const own = owner.get(order);
      if (sounds && tied && last) last.ticks += event.ticks;
      else if (sounds) {
        const word = own?.word ?? wordOf(place, at, event);
        const { cell = null, opens = false } = own ?? {};
        notes.push({ bar: place.index, event: order, at, ticks: event.ticks, word, cell, opens });
      }
      tied = sounds && event.tie === true;
      at += event.ticks;
    });
  }
  return notes;
}

/** How much of a tune some cells carry: quarter beats (or dotted ones) of them, and of all. */
export function carriedBy(places: readonly Place[], spoken: readonly SpokenNote[]): { beats: number; all: number } {
  const beat = places[0] ? beatTicks(places[0].metre) : QUARTER;
  const all = places.reduce((sum, p) => sum + p.ticks, 0);
  const own = spoken.filter((n) => n.cell !== null).reduce((sum, n) => sum + n.ticks, 0);
  return { beats: Math.round(own / beat), all: Math.round(all / beat) };
}
