import { NO_DANCE, usualTempo } from "../feel";
import { type Bowing, BOWINGS, bowedStaff, type Direction, DIRECTIONS, planBowing, type StrokePlan } from "../strokes";
import type { Sheet } from "../score";
import type { Derived } from "./derive";
import { grooveFor } from "./performed";
import type { Feel, Work } from "./work";

/** The style of a work's bows: the one that was chosen, or the first that brings every downbeat down. */
export const bowingFor = ({ feel }: Pick<Work, "feel">): Bowing =>
  BOWINGS.find((b) => b.name === feel.bowing?.style)?.name ?? BOWINGS[1].name;

/** The bows of a work's melody, with what is settled in them. */
export function bowsOf(work: Work, { analysis }: Pick<Derived, "analysis">): StrokePlan {
  const known = lastBows.get(analysis);
  if (known && known.feel === work.feel) return known.plan;
  const plan = bowed(work, analysis);
  lastBows.set(analysis, { feel: work.feel, plan });
  return plan;
}
/** The last plan over each analysis: many look at it, and it is made once. */
const lastBows = new WeakMap<Derived["analysis"], { feel: Feel; plan: StrokePlan }>();

function bowed(work: Work, analysis: Derived["analysis"]): StrokePlan {
  const { places, form } = analysis;
  const groove = grooveFor(work, { analysis }) ?? NO_DANCE;
  const locks = (work.feel.bowing?.locks ?? []).flatMap(({ bar, at, ticks, value }) => {
    const direction = DIRECTIONS.find((d) => d === value);
    return direction ? [{ bar, at, ticks, direction }] : [];
  });
  return planBowing({
    places,
    style: bowingFor(work),
    bpm: usualTempo(groove, work.tune.metre, "practice"),
    phraseStarts: new Set(form.phrases.map((p) => p.from)),
    air: groove === NO_DANCE,
    locks,
  });
}

/** A sheet with the melody's bows written in, where bows were chosen for the work. */
export function bowedSheet(work: Work, derived: Derived, sheet: Sheet): Sheet {
  if (!work.feel.bowing) return sheet;
  const plan = bowsOf(work, derived);
  const melody = new Set(derived.parts.filter((p) => p.role === "melody").map((p) => p.id));
  const staves = sheet.staves.map((s) => (melody.has(s.id) ? bowedStaff(s, plan, sheet.places) : s));
  return { ...sheet, staves };
}

const bowing = (feel: Feel) => feel.bowing ?? { style: BOWINGS[1].name, locks: [] };

/** The work bowed in a style; what is settled stays. */
export const changeBowing = (work: Work, style: Bowing): Work => ({
  ...work,
  feel: { ...work.feel, bowing: { ...bowing(work.feel), style } },
});

type StrokePlace = { bar: number; at: number; ticks: number };
/** A stroke settled in its direction, or freed where none is given. */
export const settleBow = (work: Work, { bar, at, ticks }: StrokePlace, direction?: Direction): Work => {
  const own = bowing(work.feel);
  const others = own.locks.filter((l) => l.bar !== bar || l.at !== at);
  const locks = direction ? [...others, { bar, at, ticks, value: direction }] : others;
  return { ...work, feel: { ...work.feel, bowing: { ...own, locks } } };
};

/** The work with a groove by its name, or its dance's own (null), at a strength in percent. */
export const changeGroove = (work: Work, change: Partial<Pick<Feel, "groove" | "strength">>): Work => ({
  ...work,
  feel: { ...work.feel, ...change },
});
