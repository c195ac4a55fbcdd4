import { lengthOf, type Metre, QUARTER, type Strain } from "../../score";
import type { Remark, Spot } from "../problem";

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
