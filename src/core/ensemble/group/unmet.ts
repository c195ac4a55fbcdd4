import { type Material, ROLE_RULES } from "../../grading";
import { type Instrument, LEVELS } from "../../instruments";
import type { Candidate } from "./assign";
import type { GroupPart, Unmet } from "./model";
import { wayOutOf } from "./says";
import { wayInFor } from "./wayIn";

const CARRIED = "the tune is carried";
const MOVING = LEVELS.indexOf("Moving");
const FLUENT = LEVELS.indexOf("Fluent");

/** Bars (indexes) in which the tune sounds on neither one Fluent nor two Moving, as the parts are written. */
export function uncarried({ melody, places }: Material, parts: readonly GroupPart[]): number[] {
  const sounds = new Set(melody.map((n) => n.place.index));
  const carriers = parts
    .filter((p) => ROLE_RULES[p.role].group === "tune")
    .map((p) => ({ level: LEVELS.indexOf(p.learner.level), bars: new Set(p.notes.map((n) => n.bar)) }));
  return places.flatMap(({ index, pickup }) => {
    if (pickup || !sounds.has(index)) return [];
    const here = carriers.filter((c) => c.bars.has(index));
    const carried = here.some((c) => c.level >= FLUENT) || here.filter((c) => c.level >= MOVING).length >= 2;
    return carried ? [] : [index];
  });
}

type Asked = {
  /** What the assignment could not have. */
  musts: readonly string[];
  silent: readonly Candidate[];
  parts: readonly GroupPart[];
  own: readonly Instrument[] | undefined;
};

/** What was asked for and could not be had: the musts, with their bars, and whoever has no part. */
export function unmetIn(material: Material, { musts, silent, parts, own }: Asked): Unmet[] {
  const bars = uncarried(material, parts);
  const carried: Unmet[] = bars.length > 0 ? [{ must: CARRIED, bars, wayOut: wayOutOf(CARRIED) }] : [];
  const others = musts.filter((must) => must !== CARRIED && !must.startsWith("a part for"));
  return [
    ...carried,
    ...others.map((must): Unmet => ({ must, bars: [], wayOut: wayOutOf(must) })),
    ...silent.map(
      (c): Unmet => ({
        must: `a part for ${c.learner.name} on the ${c.on.name}`,
        bars: [],
        wayOut: wayInFor(material, c, own),
      }),
    ),
  ];
}
