import { beatTicks, type Sheet, type Tune } from "../score";
import { type Bars, ladder, type Rung, type Single, singles } from "../variation";
import { withTune } from "./decide";
import { type Derived, sheetOf } from "./derive";
import { feltBpm } from "./groove";
import { playedOn } from "./instruments";
import { once } from "./once";
import type { Work } from "./work";

type Known = Pick<Derived, "analysis" | "parts">;

const asked = (work: Work, { analysis, parts }: Known) => ({
  places: analysis.places,
  on: playedOn(work, parts.find((p) => p.role === "melody")?.instrument),
  key: work.tune.key,
  tick: 60 / feltBpm(work.tune) / beatTicks(work.tune.metre),
});

/** The tune of a work from its barest form to its richest, for who carries it. */
export const formsOf = (work: Work, derived: Known): Rung[] =>
  once(derived.analysis, ["forms", derived.parts, work.tune], () => ladder(asked(work, derived)));

/** Every step by itself on the tune of a work. */
export const stepsOf = (work: Work, derived: Known): Single[] =>
  once(derived.analysis, ["steps", derived.parts, work.tune], () => singles(asked(work, derived)));

/** Versions of a tune that are made in one go. */
export const VERSIONS = ["basic", "advanced"] as const;
export type Version = (typeof VERSIONS)[number];
export const isVersion = (id: string): id is Version => VERSIONS.some((v) => v === id);

/** Share of the tune's beats that its basic form has at least. */
const BASIC = 0.7;

/** The form of a version: the barest that is still the tune, or the richest. */
export function versionOf(work: Work, derived: Known, version: Version): Rung {
  const forms = formsOf(work, derived);
  const found = version === "basic" ? forms.find((f) => f.kept >= BASIC) : forms.at(-1);
  return found ?? (forms[0] as Rung);
}

/** A version as a sheet of one staff. */
export function versionSheet(work: Work, derived: Derived, version: Version): Sheet {
  const melody = derived.parts.filter((p) => p.role === "melody").map((p) => p.id);
  const own = sheetOf(work, derived, ...melody.slice(0, 1));
  const { bars, name } = versionOf(work, derived, version);
  return { ...own, subtitle: `${version} version: ${name}`, staves: own.staves.map((s) => ({ ...s, bars })) };
}

/** The work with bars (indexes, both ends included) of another form of its tune in the place of its own. */
export function takeForm(work: Work, bars: Bars, from: number, to: number): Work {
  let index = 0;
  const tune: Tune = {
    ...work.tune,
    strains: work.tune.strains.map((strain) => ({
      ...strain,
      bars: strain.bars.map((bar) => {
        const own = index++;
        const events = bars[own];
        return events && own >= from && own <= to ? { ...bar, events: [...events] } : bar;
      }),
    })),
  };
  return withTune(work, tune);
}
