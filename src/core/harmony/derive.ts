import type { ChordPlan } from "../chords";
import type { Instrument } from "../instruments";
import { type Place, QUARTER } from "../score";
import { costsAt, type LocalCost, type MoveCost, type Problem, priceOf, type Solution, solved } from "../search";
import { diatonic, isHard, type Pitch, pitchName } from "../theory";
import { type Choice, choiceName, REST } from "./choice";
import { choiceOf, choices, figured } from "./choices";
import { clashOf } from "./clash";
import { filled, groupsOf } from "./lay";
import type { HarmonyLine, HarmonyLock, HarmonyNote, Side } from "./model";
import { noteLimits, running, stepwise } from "./promises";
import { described, figureOf } from "./reasons";
import type { Paid, School, Step } from "./school";
import { CHORD_FIT } from "./schools";
import { type Slot, slotsOf } from "./slots";

/** A rest, each slot of it; breaking off for one, more where it is no longer than an eighth; coming in again. */
const RESTS = { goesOn: 7.5, breaksOff: 1.5, stray: 4, comesIn: 0.4 };
const CHROMATIC = 0.3;
/** A light note outside the chord that neither passes nor neighbours. */
const LOOSE = 4;
/** A leap by a tritone or an augmented interval that the melody does not make; a doubled leading note left hanging. */
const BARE = 3.5;
const ASTRAY = 2;
/** Runners-up told for a note. */
const RUNNERS_UP = 6;

export type HarmonyRequest = {
  places: readonly Place[];
  plan: ChordPlan;
  phraseEnds: ReadonlySet<number>;
  school?: School;
  /** The school's own where none is given. */
  side?: Side | undefined;
  instrument: Instrument;
  /** Bars (indexes) that follow another school. */
  bars?: ReadonlyMap<number, School>;
  /** Notes the teacher has settled; the others are planned around them. */
  locks?: readonly HarmonyLock[];
};

/**
 * A second line to the tune by one school, or by several from bar to bar: the cheapest path over its notes. Holds
 * always, but for what the teacher has locked (then it is named): every note in the instrument's range; in the key,
 * or in the chord when that asks for another note; never across the melody; no semitone or tritone against it on a
 * beat; no two fifths, octaves or unisons running, but for octaves in the school that wants them. Where nothing keeps
 * all of that, a rest.
 */
export function deriveHarmony(request: HarmonyRequest): HarmonyLine {
  const { places, plan, phraseEnds, instrument, locks = [] } = request;
  const { school = CHORD_FIT, side = school.side, bars = new Map<number, School>() } = request;
  const schoolAt = (bar: number) => bars.get(bar) ?? school;
  const slots = slotsOf(places, plan, side, phraseEnds, schoolAt);
  const held = slots.map((slot) => locks.find((lock) => covers(lock, slot)));
  const problem = harmonyProblem(slots, held, instrument);
  const solution = solved(problem);
  const scene = { slots, problem, solution, held, on: instrument };
  const notes = groupsOf(slots, solution.path, held).map(([from, to]) => noteOf(scene, from, to));
  const clashes = clashOf(slots, solution.path, places);
  return {
    school: school.name,
    side,
    instrument: instrument.name,
    cost: solution.cost,
    notes: filled(notes, places, schoolAt),
    own: places.map((p) => schoolAt(p.index).pace !== "melody"),
    clashes,
    clash: clashes.length ? Math.round((10 * clashes.reduce((a, b) => a + b, 0)) / clashes.length) / 10 : 0,
  };
}

/** Whether a lock holds over a slot: the one it starts with, and as many after it as it lasts. */
function covers(lock: HarmonyLock, { place, at }: Slot): boolean {
  const into = at - place.at;
  if (lock.bar !== place.index) return false;
  return lock.ticks === undefined ? lock.at === into : lock.at <= into && into < lock.at + lock.ticks;
}

/** The search over a line: choices, locks, promises and named costs. */
function harmonyProblem(
  slots: readonly Slot[],
  held: readonly (HarmonyLock | undefined)[],
  on: Instrument,
): Problem<Choice> {
  const states = figured(slots.map((slot) => choices(slot, on))).map((open) => [...open, REST]);
  const locks = new Map<number, Choice[]>();
  held.forEach((lock, i) => {
    if (lock) locks.set(i, settled(lock.pitch, slots[i] as Slot, states[i] as Choice[], on));
  });
  return {
    states,
    locks,
    limits: noteLimits(slots, on, (i) => locks.has(i)),
    moveLimits: [running(slots), stepwise(slots)],
    local: localCosts(slots),
    moves: moveCosts(slots),
  };
}

/** A locked note as choices, whether or not the search would have offered it. */
function settled(pitch: Pitch | null, slot: Slot, open: readonly Choice[], on: Instrument): Choice[] {
  if (!pitch) return [REST];
  const offered = open.filter((c) => choiceName(c) === pitchName(pitch));
  return offered.length > 0 ? offered : [choiceOf(pitch, slot, on)];
}

/** Names of the schools' wishes in the order they first come up. */
const namesOf = (slots: readonly Slot[], of: (school: School) => readonly { name: string }[]): string[] => [
  ...new Set([...new Set(slots.map((s) => s.school))].flatMap((school) => of(school).map((w) => w.name))),
];

function localCosts(slots: readonly Slot[]): LocalCost<Choice>[] {
  const wishes = namesOf(slots, (s) => s.wishes).map((name): LocalCost<Choice> => {
    const bySlot = slots.map((slot) => slot.school.wishes.find((w) => w.name === name));
    return { name, at: (i, choice) => (choice.pitch ? (bySlot[i]?.of(choice, slots[i] as Slot) ?? 0) : 0) };
  });
  return [
    ...wishes,
    { name: "a rest", at: (_, { pitch }) => (pitch ? 0 : RESTS.goesOn) },
    { name: "a note outside the key", at: (_, { chromatic, sounded }) => (chromatic && !sounded ? CHROMATIC : 0) },
    { name: "neither in the chord nor passing", at: (_, { figure }) => (figure === "loose" ? LOOSE : 0) },
  ];
}

function moveCosts(slots: readonly Slot[]): MoveCost<Choice>[] {
  // All names ask about one move in turn: what it is like is worked out once.
  let [at, from, to]: [number, Choice, Choice] = [-1, REST, REST];
  let step: Step | undefined;
  const stepped = (i: number, a: Choice, b: Choice) => {
    if (at !== i || from !== a || to !== b) step = stepOf(slots[i - 1] as Slot, a, slots[i] as Slot, b);
    [at, from, to] = [i, a, b];
    return step;
  };
  const goings = namesOf(slots, (s) => s.goings).map((name): MoveCost<Choice> => {
    const bySlot = slots.map((slot) => slot.school.goings.find((g) => g.name === name));
    const into = (i: number, a: Choice, b: Choice) => {
      const going = bySlot[i];
      const step = going && stepped(i, a, b);
      return step ? going.of(step) : 0;
    };
    return { name, into };
  });
  return [
    ...goings,
    { name: "a bare tritone or augmented leap", into: (i, a, b) => (isBare(i, a, b) ? BARE : 0) },
    { name: "a leading note left hanging", into: (i, a, b) => (stepped(i, a, b)?.astray ? ASTRAY : 0) },
    { name: "breaking off", into: (i, a, b) => broken(slots[i - 1] as Slot, a, slots[i] as Slot, b) },
  ];

  function isBare(i: number, a: Choice, b: Choice): boolean {
    if (!a.pitch || !b.pitch || !isHard(a.pitch, b.pitch)) return false;
    const [from, to] = [slots[i - 1]?.melody, slots[i]?.melody];
    return !from || !to || !isHard(from, to);
  }
}

/** What it costs to break off for a rest, or to come in after one. */
function broken(before: Slot, a: Choice, after: Slot, b: Choice): number {
  if ((a.pitch === null) === (b.pitch === null)) return 0;
  const stray = (a.pitch ? after : before).ticks <= QUARTER / 2 ? RESTS.stray : 0;
  return stray + (a.pitch ? RESTS.breaksOff : RESTS.comesIn);
}

/** How the line goes from one note to the next, as schools look at it; undefined into and out of rests. */
function stepOf(before: Slot, a: Choice, after: Slot, b: Choice): Step | undefined {
  if (!a.pitch || !b.pitch) return undefined;
  const [from, to] = [before.melody, after.melody];
  const melody = from && to ? diatonic(to) - diatonic(from) : 0;
  return {
    own: b.place - a.place,
    melody,
    same: a.interval === b.interval,
    interval: b.interval,
    weighty: after.weighty,
    near: Math.abs(melody) <= 1,
    closing: after.closing,
    repeated: a.number === b.number,
    sameChord: before.chord?.symbol === after.chord?.symbol,
    astray: before.leading && before.school.octaves !== true && a.gap === 0 && !(b.tonic && b.number - a.number === 1),
  };
}

type Planned = {
  slots: readonly Slot[];
  problem: Problem<Choice>;
  solution: Solution<Choice>;
  held: readonly (HarmonyLock | undefined)[];
  on: Instrument;
};

/** The note of the line over slots `from` to `to`, with its price list and its reason. */
function noteOf({ slots, problem, solution, held, on }: Planned, from: number, to: number): HarmonyNote {
  const { path, broken } = solution;
  const [slot, choice] = [slots[from] as Slot, path[from] as Choice];
  const alternatives = pricedFor(problem, solution, from, to);
  const costs = new Map<string, number>();
  for (let i = from; i <= to; i++) {
    for (const { name, cost } of costsAt(problem, path, i)) costs.set(name, (costs.get(name) ?? 0) + cost);
  }
  const best = alternatives.find((a) => a.fits && a.pitch);
  const figure = figureOf(path, slots, from, to);
  const paid: Paid = {
    figure,
    points: (name) => costs.get(name) ?? 0,
    step: from > 0 ? stepOf(slots[from - 1] as Slot, path[from - 1] as Choice, slot, choice) : undefined,
    inChord: best?.pitch ? { name: pitchName(best.pitch), cost: best.cost } : undefined,
    third: alternatives.find((a) => a.interval === 3)?.cost,
  };
  const open = problem.states[from] as readonly Choice[];
  const own = held[from];
  const told = described({ slots, path, at: from, to, open, locked: own !== undefined, paid, on, figure });
  const breaks = [...new Set(broken.filter((b) => b.step >= from && b.step <= to).map((b) => b.limit))];
  const words = breaks.length > 0 ? ` Your note does not keep “${breaks.join("” and “")}”.` : "";
  return {
    ...told,
    ...(own?.kept ? { locked: false, kept: own.kept } : {}),
    ticks: slots.slice(from, to + 1).reduce((ticks, s) => ticks + s.ticks, 0),
    reason: told.reason + words,
    ...(breaks.length > 0 ? { broken: breaks } : {}),
    costs: [...costs].map(([name, cost]) => ({ name, cost })),
    alternatives: alternatives
      .slice(0, RUNNERS_UP)
      .map(({ pitch, interval, cost }) => ({ pitch, interval: pitch && interval ? interval : null, cost })),
  };
}

/** Other notes for a stretch of slots, cheapest first: each held through all of them, priced as if it were locked. */
function pricedFor(
  problem: Problem<Choice>,
  solution: Solution<Choice>,
  from: number,
  to: number,
): (Choice & { cost: number })[] {
  const taken = choiceName(solution.path[from] as Choice);
  const named = (i: number, name: string) =>
    (problem.states[i] as readonly Choice[]).filter((c) => choiceName(c) === name);
  const open = problem.states[from] as readonly Choice[];
  // A single free moment is priced by the search itself: a note by the cheapest thing it could be.
  const known = from === to && !problem.locks?.has(from) ? solution.marginals[from] : undefined;
  const least = new Map<string, Choice & { cost: number }>();
  open.forEach((choice, k) => {
    const name = choiceName(choice);
    const cost = known?.[k] ?? Infinity;
    if (name !== taken && cost <= (least.get(name)?.cost ?? Infinity)) least.set(name, { ...choice, cost });
  });
  if (!known) {
    for (const [name, choice] of least)
      least.set(name, { ...choice, cost: priceOf(problem, solution, from, to, (i) => named(i, name)) });
  }
  return [...least.values()]
    .filter(({ cost }) => Number.isFinite(cost))
    .sort((a, b) => a.cost - b.cost || choiceName(a).localeCompare(choiceName(b)));
}
