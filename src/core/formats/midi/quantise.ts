/** A note as a file times it: start and end in quarter notes from the start of the file. */
export type Raw = { from: number; to: number; noteNumber: number };

/** How notes are drawn to a grid. `file` keeps the times of the file; `auto` chooses for each quarter. */
export const GRIDS = ["auto", "file", "eighths", "sixteenths", "triplets"] as const;
export type Grid = (typeof GRIDS)[number];

/** Parts a quarter may be cut in, with what each costs: a finer grid must earn its place. */
const CUTS: readonly { parts: number; cost: number }[] = [
  { parts: 1, cost: 0 },
  { parts: 2, cost: 0.012 },
  { parts: 3, cost: 0.035 },
  { parts: 4, cost: 0.035 },
  { parts: 6, cost: 0.07 },
  { parts: 8, cost: 0.09 },
];
const FIXED: Record<Exclude<Grid, "auto" | "file">, number> = { eighths: 2, sixteenths: 4, triplets: 3 };

/** Finest fraction of a quarter that counts as written on purpose. */
const FINE = 840;

/** Whether every time of a file already lies on simple fractions of a quarter. */
export const isExact = (notes: readonly Raw[]): boolean =>
  notes.every((n) =>
    [n.from, n.to].every((t) => {
      const at = (t * FINE) % 1;
      return Math.min(at, 1 - at) < 0.02;
    }),
  );

/**
 * Draws starts to the grid that fits each quarter best, and ends to the next start or the grid, so that a line played
 * by hand reads as
 * written. Also gives the mean shift of a start, in quarters.
 */
export function quantise(notes: readonly Raw[], grid: Grid): { notes: Raw[]; shift: number } {
  if (grid === "file" || (grid === "auto" && isExact(notes))) return { notes: notes.map((n) => ({ ...n })), shift: 0 };
  const byQuarter = new Map<number, number[]>();
  for (const n of notes) {
    const quarter = Math.floor(n.from + 1 / 16);
    const starts = byQuarter.get(quarter) ?? [];
    starts.push(n.from);
    byQuarter.set(quarter, starts);
  }
  const cuts = new Map(
    [...byQuarter].map(([quarter, starts]) => [quarter, grid === "auto" ? bestCut(quarter, starts) : FIXED[grid]]),
  );
  const snap = (time: number) => {
    const quarter = Math.floor(time + 1 / 16);
    const parts = cuts.get(quarter) ?? (grid === "auto" ? 2 : FIXED[grid]);
    return quarter + Math.round((time - quarter) * parts) / parts;
  };
  const starts = notes.map((n) => snap(n.from));
  const shift =
    notes.reduce((sum, n, i) => sum + Math.abs((starts[i] as number) - n.from), 0) / Math.max(1, notes.length);
  const order = [...new Set(starts)].sort((a, b) => a - b);
  const nextOf = new Map(order.map((s, i) => [s, order[i + 1] ?? Infinity]));
  const drawn = notes.map((n, i) => {
    const from = starts[i] as number;
    const next = nextOf.get(from) as number;
    const end = n.to + from - n.from;
    // A short lift before the next note is touch, not a rest.
    const legato = next - end < Math.max(0.12, 0.35 * (next - from)) && end < next + 0.12;
    const snapped = legato ? next : Math.max(snap(end), from + 1 / ((cuts.get(Math.floor(from + 1e-9)) ?? 4) || 4));
    return { noteNumber: n.noteNumber, from, to: snapped };
  });
  return { notes: drawn, shift };
}

function bestCut(quarter: number, starts: readonly number[]): number {
  const costed = CUTS.map(({ parts, cost }) => {
    const off = starts.map((s) => {
      const at = (s - quarter) * parts;
      return Math.abs(at - Math.round(at)) / parts;
    });
    const clash =
      new Set(starts.map((s) => Math.round((s - quarter) * parts))).size <
      new Set(starts.map((s) => Math.round(s * 16))).size
        ? 0.05
        : 0;
    return { parts, cost: cost + clash + off.reduce((a, b) => a + b, 0) / starts.length + Math.max(...off) * 0.4 };
  });
  return costed.reduce((best, c) => (c.cost < best.cost ? c : best)).parts;
}
