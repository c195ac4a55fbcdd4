import type { Place } from "../score";
import { parseChord, semitoneOf } from "../theory";
import type { ChordPlan, PlannedChord } from "./model";

/** One bar under two plans. */
export type BarDifference = {
  bar: number;
  ours: string[];
  theirs: string[];
  /** Ticks on which root or third differ. */
  ticks: number;
};

/** What two players would hear as the same chord: its root, and whether the third is minor. */
const heardAs = (symbol: string): string => {
  const found = parseChord(symbol);
  if (!found) return symbol;
  const root = semitoneOf(found.root);
  return `${root}${found.classes.includes((root + 3) % 12) && !found.classes.includes((root + 4) % 12) ? "m" : ""}`;
};

/**
 * Two plans over the same bars: how much of the time they agree on root and third (0 to 1), and every bar that reads
 * otherwise.
 */
export function comparePlans(
  ours: ChordPlan,
  theirs: ChordPlan,
  places: readonly Place[],
): { agreement: number; bars: BarDifference[] } {
  let [all, apart] = [0, 0];
  const bars = places.flatMap((place): BarDifference[] => {
    const [a, b] = [ours, theirs].map((p) => p.chords.filter((c) => c.bar === place.index)) as [
      PlannedChord[],
      PlannedChord[],
    ];
    const edges = [...new Set([...a, ...b].flatMap((c) => [c.at, c.at + c.ticks]))].sort((x, y) => x - y);
    let ticks = 0;
    edges.slice(0, -1).forEach((at, i) => {
      const [x, y] = [a, b].map((row) => row.find((c) => c.at <= at && at < c.at + c.ticks)?.symbol);
      if (x === undefined || y === undefined) return;
      const length = (edges[i + 1] as number) - at;
      all += length;
      if (heardAs(x) !== heardAs(y)) ticks += length;
    });
    apart += ticks;
    const same = a.length === b.length && a.every((c, i) => c.symbol === b[i]?.symbol && c.at === b[i]?.at);
    return same ? [] : [{ bar: place.index, ours: a.map((c) => c.symbol), theirs: b.map((c) => c.symbol), ticks }];
  });
  return { agreement: all === 0 ? 1 : 1 - apart / all, bars };
}
