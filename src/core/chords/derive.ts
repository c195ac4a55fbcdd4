import type { Phrase } from "../analysis";
import { beatTicks, type Place, strength } from "../score";
import { costsAt, priceOf, type Solution, solve, isConflict, solved } from "../search";
import { chord, className, type Key, roman } from "../theory";
import type { Candidate } from "./candidate";
import { candidate, localCosts, moveCosts, roleOf } from "./costs";
import { reasonFor } from "./explain";
import type { ChordLock, ChordPlan, NoteRole, PlannedChord } from "./model";
import {
  alikeBeats,
  chordProblem,
  type ChordProblem,
  type Ground,
  type Heard,
  heardUnder,
  heardWhole,
  keyAt,
  lockAt,
} from "./problem";
import type { Segment } from "./segments";
import { heldLocks } from "./songSheet";
import { borrowed, chordOn, type Style, THREE_CHORD } from "./styles";
import { TASTE } from "./taste";

export type ChordRequest = {
  places: readonly Place[];
  phrases: readonly Phrase[];
  /** Key of each strain. */
  keys: readonly Key[];
  style?: Style;
  locks?: readonly ChordLock[];
};

/**
 * Chords for the whole tune: the cheapest path over its beats, each strain with the set of the style that suits it.
 * Every lock holds exactly. A runner-up's cost is what the whole plan costs more when it is locked and all is derived
 * again. Throws a RangeError for a locked symbol that is no chord.
 */
export function deriveChords({ places, phrases, keys, style = THREE_CHORD, locks = [] }: ChordRequest): ChordPlan {
  const ground: Ground = {
    places,
    starts: new Set(phrases.map((p) => p.from)),
    ends: new Set(phrases.map((p) => p.to)),
    keys,
  };
  const whole = heardWhole(ground);
  const heard = heardUnder(ground, whole, locks);
  if (heard.cut.length === 0) {
    return { style: style.name, vocabulary: [], cost: 0, chords: [], fits: places.map(() => 1) };
  }
  const sets = keys.map((key, strain) => {
    const set = bestSet(whole, keys, key, style);
    return style.borrows ? [...new Set([...set, ...borrowed(namesOf(whole.cut, strain), key)])] : set;
  });
  const { problem, statesFor } = chordProblem(ground, heard, whole, sets, style, locks);
  const solution = solved(problem);
  const planner: Planner = { cut: heard.cut, problem, statesFor, solution, keys, locks };
  const chords = runs(planner).map(([from, to]) => planned(planner, from, to));
  const worn = new Set(style.colour ? chords.flatMap((c) => (c.added ? [c.symbol] : [])) : []);
  return {
    style: style.name,
    vocabulary: sets.map((set) => [...new Set([...set, ...worn])]),
    cost: solution.cost,
    chords,
    fits: barFits(places, chords),
  };
}

/** Names of a strain's melody notes, those left out that only pass by or neighbour off the beat. */
const namesOf = (cut: readonly Segment[], strain: number): Set<string> =>
  new Set(
    cut
      .filter((s) => s.place.strain === strain)
      .flatMap((s) =>
        s.notes.filter(
          (n) => (n.outside !== "passing" && n.outside !== "neighbour") || strength(s.place, n.timed.at) > 0,
        ),
      )
      .flatMap((n) => n.timed.event.pitches.slice(-1).map(className)),
  );

/**
 * What a melody note's time counts for, in its chord or outside it: passing and neighbour notes do a chord little
 * harm.
 */
const FITS: Partial<Record<NoteRole, number>> = {
  root: 1,
  third: 1,
  fifth: 1,
  seventh: 1,
  passing: 0.7,
  neighbour: 0.7,
  suspension: 0.6,
  anticipation: 0.6,
  appoggiatura: 0.4,
  escape: 0.4,
};

function barFits(places: readonly Place[], chords: readonly PlannedChord[]): number[] {
  return places.map((place) => {
    const notes = chords.filter((c) => c.bar === place.index).flatMap((c) => c.notes);
    const beats = notes.reduce((sum, n) => sum + n.beats, 0);
    return beats === 0 ? 1 : notes.reduce((sum, n) => sum + n.beats * (FITS[n.role] ?? 0), 0) / beats;
  });
}

/** The chords printed in the file as locks. */
export const fileLocks = (places: readonly Place[]): ChordLock[] =>
  heldLocks(
    places.flatMap((place) => place.bar.chords.map((c) => ({ place, at: c.at, symbol: c.symbol }))),
    places,
    "file",
  );

/** The set of a style that costs all strains of a key least, so that a tune keeps to it. */
function bestSet({ cut, beats }: Heard, keys: readonly Key[], key: Key, style: Style): string[] {
  const sets = style.sets[key.mode].map((words) => words.map((w) => chordOn(w, key)));
  const own = cut.flatMap((segment, i) => {
    const here = keyAt(keys, segment);
    return here.tonic === key.tonic && here.mode === key.mode ? [i] : [];
  });
  if (sets.length === 1 || own.length === 0) return sets[0] as string[];
  const part = own.map((i) => cut[i] as Segment);
  const heard = own.map((i) => beats[i] as Heard["beats"][number]);
  const shared = { local: localCosts(part, heard, []), moves: moveCosts(heard), alike: alikeBeats(heard) };
  const costs = sets.map((set) => {
    const states = set.map((symbol) => candidate(chord(symbol), key, true));
    const found = solve({ ...shared, states: part.map(() => states) });
    return isConflict(found) ? Number.POSITIVE_INFINITY : found.cost;
  });
  return sets[costs.indexOf(Math.min(...costs))] as string[];
}

type Planner = ChordProblem & {
  cut: readonly Segment[];
  solution: Solution<Candidate>;
  keys: readonly Key[];
  locks: readonly ChordLock[];
};

/** First and last segment of every stretch of one chord inside one bar; a lock is a stretch of its own. */
function runs({ cut, solution: { path }, locks }: Planner): [number, number][] {
  const held = cut.map((segment) => lockAt(locks, segment));
  const found: [number, number][] = [];
  cut.forEach((segment, i) => {
    const last = found[found.length - 1];
    const goes =
      last &&
      path[last[0]]?.chord.symbol === path[i]?.chord.symbol &&
      cut[last[0]]?.place === segment.place &&
      held[last[0]] === held[i];
    if (goes) last[1] = i;
    else found.push([i, i]);
  });
  return found;
}

function planned(planner: Planner, from: number, to: number): PlannedChord {
  const { cut, problem, solution, keys, locks } = planner;
  const stretch = cut.slice(from, to + 1);
  const [first, last] = [stretch[0] as Segment, stretch[stretch.length - 1] as Segment];
  const state = solution.path[from] as Candidate;
  const key = keyAt(keys, first);
  const lock = lockAt(locks, first);
  const costs = new Map<string, number>();
  for (let i = from; i <= to; i++) {
    for (const { name, cost } of costsAt(problem, solution.path, i)) costs.set(name, (costs.get(name) ?? 0) + cost);
  }
  const alternatives = pricedFor(planner, from, to, lock !== undefined);
  const facts = {
    bar: first.place.index,
    at: first.at,
    ticks: last.at + last.ticks - first.at,
    symbol: state.chord.symbol,
    roman: roman(state.chord, key),
    locked: lock !== undefined,
    ...(state.dress && !lock ? { added: { what: state.dress.what, plain: state.dress.plain } } : {}),
    costs: [...costs].map(([name, cost]) => ({ name, cost })),
    notes: notesIn(stretch, state),
    alternatives,
  };
  const reason = reasonFor(facts, {
    beats: facts.ticks / beatTicks(first.place.metre),
    whole: facts.ticks >= first.place.ticks,
    key,
    opening: from === 0,
    closing: to === cut.length - 1,
    rival: alternatives[0],
    before: solution.path[from - 1]?.chord.symbol,
    by: lock?.by ?? (lock && "teacher"),
  });
  return { ...facts, reason };
}

/** Melody notes of a stretch by name and role, the longest first. */
function notesIn(stretch: readonly Segment[], { chord: own }: Candidate): PlannedChord["notes"] {
  const notes = new Map<string, PlannedChord["notes"][number]>();
  for (const note of stretch.flatMap((s) => s.notes)) {
    const name = className(note.timed.event.pitches[note.timed.event.pitches.length - 1] as never);
    const role = roleOf(note, own);
    const known = notes.get(name + role);
    notes.set(name + role, { name, role, beats: (known?.beats ?? 0) + note.beats });
  }
  return [...notes.values()].sort((a, b) => b.beats - a.beats);
}

/**
 * Other chords for a place, cheapest first, each priced as if it were locked: for the whole of it or, where nothing
 * is locked yet, for the part of it that it suits best. Of dressed chords only other forms of the chosen one: a
 * teacher looks for another chord first.
 */
function pricedFor(planner: Planner, from: number, to: number, locked: boolean): PlannedChord["alternatives"] {
  const { cut, problem, solution, statesFor } = planner;
  const state = solution.path[from] as Candidate;
  const others = (problem.states[from] as readonly Candidate[]).filter(
    (s) => s.chord.symbol !== state.chord.symbol && (!s.dress || s.label === state.label),
  );
  const symbols = [...new Set(others.map((s) => s.chord.symbol))];
  return symbols
    .map((symbol) => {
      const known = new Map<number, Candidate[]>();
      const allowed = (step: number) => {
        const states = known.get(step) ?? statesFor(step, symbol);
        known.set(step, states);
        return states;
      };
      const price = (a: number, b: number) => priceOf(problem, solution, a, b, allowed);
      const { first, last, cost } = locked
        ? { first: from, last: to, cost: price(from, to) }
        : bestPart(from, to, price);
      const [start, end] = [cut[first] as Segment, cut[last] as Segment];
      const part = first === from && last === to ? {} : { at: start.at, ticks: end.at + end.ticks - start.at };
      return { symbol, cost, ...part };
    })
    .filter((a) => Number.isFinite(a.cost))
    .sort((a, b) => a.cost - b.cost || a.symbol.localeCompare(b.symbol));
}

/**
 * Where another chord would cost the plan least: the whole of a place, or a part of it from its start or to its end.
 */
function bestPart(from: number, to: number, price: (first: number, last: number) => number) {
  const whole = { first: from, last: to, cost: price(from, to) };
  let best = { ...whole, cost: whole.cost - TASTE.part };
  for (let m = from; m < to; m++) {
    for (const [first, last] of [
      [from, m],
      [m + 1, to],
    ] as const) {
      const cost = price(first, last);
      if (cost < best.cost - 1e-9) best = { first, last, cost };
    }
  }
  return best.first === from && best.last === to ? whole : best;
}
