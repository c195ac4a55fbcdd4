import { NO_DANCE, usualTempo } from "../feel";
import type { Instrument } from "../instruments";
import type { Sheet } from "../score";
import {
  type Bowing,
  BOWINGS,
  bowedStaff,
  type BowRequest,
  type Direction,
  DIRECTIONS,
  PLECTRUMS,
  type Plectrum,
  planBowing,
  planPlectrum,
  planStrum,
  type StrokeLock,
  type StrokePlan,
  type StrumPlan,
  strumStaff,
  writtenSlurs,
} from "../strokes";
import type { Derived } from "./derive";
import { grooveFor } from "./groove";
import { playedOn } from "./instruments";
import { once } from "./once";
import type { Feel, StrumChoice, Work } from "./work";

/** The style of a work's bows: the one that was chosen, or the first that brings every downbeat down. */
export const bowingFor = ({ feel }: Pick<Work, "feel">): Bowing =>
  BOWINGS.find((b) => b.name === feel.bowing?.style)?.name ?? BOWINGS[1].name;
/** The way of a work's plectrum. */
export const plectrumFor = ({ feel }: Pick<Work, "feel">): Plectrum =>
  PLECTRUMS.find((p) => p.name === feel.plectrum?.style)?.name ?? PLECTRUMS[0].name;
const UNCHOSEN: StrumChoice = { instrument: "guitar", tuning: null, style: "", grid: null, fills: false, locks: [] };
/** The strum of a work: the one that was chosen, or the guitar's first. */
export const strumFor = ({ feel }: Pick<Work, "feel">): StrumChoice => feel.strum ?? UNCHOSEN;

type Felt = Pick<Work, "feel" | "instruments">;
/** What a work's tune is bowed, picked and strummed on. */
export const bowedOn = (work: Felt): Instrument => playedOn(work, work.feel.bowing?.instrument);
export const pickedOn = (work: Felt): Instrument => playedOn(work, work.feel.plectrum?.instrument, null, "mandolin");
export function strummedOn(work: Felt): Instrument {
  const { instrument, tuning } = strumFor(work);
  return playedOn(work, instrument, tuning, UNCHOSEN.instrument);
}

const locksOf = (locks: StrumChoice["locks"]): StrokeLock[] =>
  locks.map(({ bar, at, ticks, value }) => ({ bar, at, ticks, direction: DIRECTIONS.find((d) => d === value) }));

/** The dance whose runs swell into the beat. */
const SWELLS = "strathspey";

type Analysed = Pick<Derived, "analysis">;

/** The bows of a work's melody, with what is settled in them; by another style where one is named. */
export function bowsOf(work: Work, derived: Analysed, other: string | null = null): StrokePlan {
  const { analysis } = derived;
  const { groove, own, bowing } = work.feel;
  return once(analysis, ["bows", groove, own, bowing, other, work.tune, work.instruments], () => {
    const { places, form } = analysis;
    const shaped = grooveFor(work, derived) ?? NO_DANCE;
    const style = BOWINGS.find((b) => b.name === other)?.name ?? bowingFor(work);
    const locks = locksOf(bowing?.locks ?? []);
    const request = {
      places,
      style,
      instrument: bowedOn(work),
      bpm: usualTempo(shaped, work.tune.metre, "practice"),
      phraseStarts: new Set(form.phrases.map((p) => p.from)),
      air: shaped === NO_DANCE,
      runs: shaped.name === SWELLS,
    };
    const all = bowing?.written ? [...locks, ...writtenSlurs(places, locks)] : locks;
    // A stroke that was settled over notes that are no longer so gives way, and nothing else does.
    return bowed({ ...request, locks: all }) ?? planBowing({ ...request, locks: possible(request, all) });
  });
}

/** The plan, or undefined where its locks cannot be bowed together. */
function bowed(request: BowRequest): StrokePlan | undefined {
  try {
    return planBowing(request);
  } catch (problem) {
    if (problem instanceof RangeError) return undefined;
    throw problem;
  }
}
/** Those of some locks that can be kept together, in their order. */
function possible(request: BowRequest, locks: readonly StrokeLock[]): StrokeLock[] {
  const kept: StrokeLock[] = [];
  for (const lock of locks) {
    kept.push(lock);
    if (!bowed({ ...request, locks: kept })) kept.pop();
  }
  return kept;
}

/** The picks of a work's melody. */
export const picksOf = (work: Work, derived: Analysed): StrokePlan =>
  once(derived.analysis, ["picks", work.feel.plectrum], () =>
    planPlectrum({
      places: derived.analysis.places,
      style: plectrumFor(work),
      instrument: pickedOn(work),
      locks: locksOf(work.feel.plectrum?.locks ?? []),
    }),
  );

/** The strum of a work over its chords; by another of the library where one is named. */
export function strumOf(
  work: Work,
  derived: Pick<Derived, "analysis" | "plan">,
  other: string | null = null,
): StrumPlan {
  const choice = strumFor(work);
  const { analysis, plan } = derived;
  return once(analysis, ["strum", choice, other, plan, work.instruments], () =>
    planStrum({
      places: analysis.places,
      instrument: strummedOn(work),
      chords: plan.chords,
      style: other ?? choice.style,
      grid: other === null ? (choice.grid ?? undefined) : undefined,
      fills: choice.fills,
      thumb: choice.thumb === true,
      locks: other === null ? locksOf(choice.locks) : [],
    }),
  );
}

/** How a note lies in its bow: whether it goes on into the next one, and its share of the loudness in a swell. */
type InBow = { joined: boolean; swell: number };
/** Loudness of a swelling bow's first note, and of its last. */
const SWELL = { from: 0.75, to: 1.05 };

/** How a note of a bar (ticks into it) lies in its bow; undefined where none begins or goes on there. */
export function inBow(plan: StrokePlan, bar: number, into: number): InBow | undefined {
  const known = lain.get(plan) ?? layIn(plan);
  lain.set(plan, known);
  return known.get(`${bar}.${into}`);
}
const lain = new WeakMap<StrokePlan, ReadonlyMap<string, InBow>>();
const layIn = ({ strokes }: StrokePlan): ReadonlyMap<string, InBow> =>
  new Map(
    strokes.flatMap(({ notes, swell }) =>
      notes.map((n, i): [string, InBow] => {
        const grown = SWELL.from + ((SWELL.to - SWELL.from) * i) / Math.max(1, notes.length - 1);
        return [`${n.place.index}.${n.at - n.place.at}`, { joined: i < notes.length - 1, swell: swell ? grown : 1 }];
      }),
    ),
  );

/** A sheet with the melody's bows written in, where bows were chosen for the work. */
export function bowedSheet(work: Work, derived: Derived, sheet: Sheet): Sheet {
  if (!work.feel.bowing) return sheet;
  const plan = bowsOf(work, derived);
  const melody = new Set(derived.parts.filter((p) => p.role === "melody").map((p) => p.id));
  const staves = sheet.staves.map((s) => (melody.has(s.id) ? bowedStaff(s, plan, sheet.places) : s));
  return { ...sheet, staves };
}

/** The work's strum as a staff under others, of slashes or of tablature. */
export const strumSheet = (
  work: Work,
  derived: Pick<Derived, "analysis" | "plan">,
  sheet: Sheet,
  as: "slashes" | "tablature" = "slashes",
): Sheet => ({
  ...sheet,
  staves: [...sheet.staves, strumStaff(strumOf(work, derived), sheet.places, strummedOn(work), as)],
});

/** Which hand plays: the bow, the plectrum, or the strumming hand. */
export const HANDS = ["bow", "plectrum", "strum"] as const;
export type HandName = (typeof HANDS)[number];

const bowing = (feel: Feel) => feel.bowing ?? { style: BOWINGS[1].name, locks: [] };
const plectrum = (feel: Feel) => feel.plectrum ?? { style: PLECTRUMS[0].name, locks: [] };

const withFeel = (work: Work, change: Partial<Feel>): Work => ({ ...work, feel: { ...work.feel, ...change } });

/** The work bowed otherwise: another style, instrument, or with the slurs of the file; what is settled stays. */
export const changeBowing = (work: Work, change: Partial<NonNullable<Feel["bowing"]>>): Work =>
  withFeel(work, { bowing: { ...bowing(work.feel), ...change } });
/** The work picked otherwise. */
export const changePlectrum = (work: Work, change: Partial<NonNullable<Feel["plectrum"]>>): Work =>
  withFeel(work, { plectrum: { ...plectrum(work.feel), ...change } });
/** The work strummed otherwise. */
export const changeStrum = (work: Work, change: Partial<StrumChoice>): Work =>
  withFeel(work, { strum: { ...strumFor(work), ...change } });

type StrokePlace = { bar: number; at: number; ticks: number };
type Locks = StrumChoice["locks"];

/** Locks with one stroke settled, or freed where no direction is given; what began inside it gives way. */
function settled(locks: Locks, { bar, at, ticks }: StrokePlace, direction: Direction | undefined): Locks {
  const others = locks.filter((l) => l.bar !== bar || l.at < at || l.at >= at + ticks);
  return direction ? [...others, { bar, at, ticks, value: direction }] : others;
}

/** A stroke of a hand settled in its direction and length, or freed where no direction is given. */
export function settleStroke(work: Work, hand: HandName, place: StrokePlace, direction?: Direction): Work {
  if (hand === "bow") return changeBowing(work, { locks: settled(bowing(work.feel).locks, place, direction) });
  if (hand === "plectrum") return changePlectrum(work, { locks: settled(plectrum(work.feel).locks, place, direction) });
  return changeStrum(work, { locks: settled(strumFor(work).locks, place, direction) });
}

/** The plan of a hand. */
export function strokesOf(work: Work, derived: Pick<Derived, "analysis" | "plan">, hand: HandName): StrokePlan {
  if (hand === "bow") return bowsOf(work, derived);
  return hand === "plectrum" ? picksOf(work, derived) : strumOf(work, derived);
}
