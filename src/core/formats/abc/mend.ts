import { type Metre, QUARTER, type Strain } from "../../score";
import { lengthOf } from "../../score";
import { midi } from "../../theory";
import type { Remark, Spot } from "../problem";

/** Takes off ties that lead to no note of the same pitch, as sloppy sources write slurs with the tie's sign. */
export function untieStrays(strains: Strain[]): Strain[] {
  const events = strains.flatMap((s) => s.bars.flatMap((b) => b.events));
  events.forEach((event, i) => {
    const next = events[i + 1];
    if (event.tie && !event.pitches.some((p) => next?.pitches.some((q) => midi(p) === midi(q)))) delete event.tie;
  });
  return strains;
}

/** Metres by the commonest bar length in eighths. */
const METRE_OF_EIGHTHS: Record<number, Metre> = {
  3: { beats: 3, unit: 8 },
  4: { beats: 2, unit: 4 },
  6: { beats: 6, unit: 8 },
  8: { beats: 4, unit: 4 },
  9: { beats: 9, unit: 8 },
  10: { beats: 5, unit: 4 },
  12: { beats: 12, unit: 8 },
  16: { beats: 4, unit: 2 },
};

/** The metre a tune without M: moves in, from the length most of its bars have; free where no length rules. */
export function inferMetre(strains: readonly Strain[], remarks: Remark[], spot: Spot): Metre {
  const lengths = strains.flatMap((s) => s.bars.map((b) => lengthOf(b.events) / (QUARTER / 2)));
  const counts = new Map<number, number>();
  for (const length of lengths) counts.set(length, (counts.get(length) ?? 0) + 1);
  const [length, count] = [...counts].reduce((best, entry) => (entry[1] > best[1] ? entry : best), [0, 0]);
  const metre = METRE_OF_EIGHTHS[length];
  if (!metre || count * 2 < lengths.length || lengths.length < 2) return { beats: 4, unit: 4, symbol: "free" };
  remarks.push({
    ...spot,
    message: `There is no M: line; the bars are ${metre.beats}/${metre.unit} long, so that metre was taken.`,
  });
  return metre;
}

/**
 * Makes repeats explicit. An end without a start goes back to the latest strain or repeat end (ABC 2.1, 4.8), and gets
 * its start
 * there; a start that nothing ends is taken off, and so is an ending of nothing that repeats.
 */
export function pairRepeats(strains: Strain[]): Strain[] {
  const bars = strains.flatMap((s) => s.bars.map((bar, i) => ({ bar, opens: i === 0 })));
  let from = 0;
  let start: number | undefined;
  bars.forEach(({ bar, opens }, i) => {
    if (bar.repeatStart) {
      if (start !== undefined) delete bars[start]?.bar.repeatStart;
      [from, start] = [i, i];
    } else if (opens && start === undefined && !bar.ending) from = i;
    const next = bars[i + 1]?.bar;
    const more = next?.ending !== undefined && !next.repeatStart;
    if (bar.repeatEnd && start === undefined && from > 0) (bars[from] as (typeof bars)[number]).bar.repeatStart = true;
    if (bar.repeatEnd) start = more ? from : undefined;
    if ((bar.repeatEnd && !more) || (bar.endingStop && !more)) [from, start] = [i + 1, undefined];
  });
  if (start !== undefined) delete bars[start]?.bar.repeatStart;
  bars.forEach(({ bar }, i) => {
    const ahead = bars.slice(i).findIndex((b) => b.bar.repeatEnd !== undefined);
    const fresh = bars.slice(i + 1).findIndex((b) => b.bar.repeatStart);
    const repeated = (ahead >= 0 && (fresh < 0 || ahead <= fresh)) || bars[i - 1]?.bar.repeatEnd !== undefined;
    if (bar.ending && !repeated) delete bar.ending;
  });
  let open = false;
  for (const { bar } of bars) {
    open ||= bar.ending !== undefined;
    if (bar.endingStop && !open) delete bar.endingStop;
    if (bar.endingStop) open = false;
  }
  return strains;
}
