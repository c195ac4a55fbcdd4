import type { Phrase } from "../analysis";
import type { Place } from "../score";
import { costsAt, priceOf, solve, isConflict, solved } from "../search";
import { chord, className, type Key, roman } from "../theory";
import type { Candidate } from "./candidate";
import { candidate, localCosts, moveCosts, roleOf } from "./costs";
import { reasonFor } from "./explain";
import { keyAt } from "./keys";
import type { ChordLock, ChordPlan, NoteRole, PlannedChord } from "./model";
import { alikeBeats, chordProblem, type Ground, type Heard, heardUnder, heardWhole, lockAt } from "./problem";
import type { Segment } from "./segments";
import { type Planner, rivalOf, standingOf, unlikeOf } from "./standing";
import { heldLocks } from "./songSheet";
import { namesOf, raisedSeventh, spellingCosts } from "./spelled";
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
    const names = namesOf(whole.cut, strain);
    const set = bestSet(whole, keys, key, style);
    const spelled = borrowed(names, key).filter((s) => style.borrows || isForm(s, set));
    return [...new Set([...set, ...(style.fifths ? [] : spelled), ...dominant(names, key)])];
  });
  const { problem, statesFor } = chordProblem(ground, heard, whole, sets, style, locks);
  const solution = solved(problem);
  const planner: Planner = { cut: heard.cut, problem, statesFor, solution, keys, locks, phrases };
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

/** Whether a triad is another form of one in the set: on its root. */
const isForm = (symbol: string, set: readonly string[]) => set.some((s) => chord(s).root === chord(symbol).root);

/** The major dominant of a minor key whose leading note sounds. */
function dominant(names: ReadonlySet<string>, key: Key): string[] {
  const leading = raisedSeventh(key);
  return leading !== undefined && names.has(leading) ? [chordOn("5M", key)] : [];
}

/** The sets of a style, of a minor key whose leading note sounds those with its dominant where there are some. */
function setsOf({ cut }: Heard, keys: readonly Key[], key: Key, style: Style): (readonly string[])[] {
  const sets = style.sets[key.mode];
  const strains = keys.flatMap((k, strain) => (sameKey(k, key) ? [strain] : []));
  const sounds = strains.some((strain) => dominant(namesOf(cut, strain), key).length > 0);
  const leading = sounds ? sets.filter((set) => set.includes("5M")) : [];
  return leading.length > 0 ? leading : [...sets];
}
const sameKey = (a: Key, b: Key) => a.tonic === b.tonic && a.mode === b.mode;

/** The set of a style that costs all strains of a key least, so that a tune keeps to it. */
function bestSet(heard: Heard, keys: readonly Key[], key: Key, style: Style): string[] {
  const { cut, beats } = heard;
  const sets = setsOf(heard, keys, key, style).map((words) => words.map((w) => chordOn(w, key)));
  const own = cut.flatMap((segment, i) => (sameKey(keyAt(keys, segment), key) ? [i] : []));
  if (sets.length === 1 || own.length === 0) return sets[0] as string[];
  const part = own.map((i) => cut[i] as Segment);
  const partBeats = own.map((i) => beats[i] as Heard["beats"][number]);
  const shared = {
    local: [...localCosts(part, partBeats, []), ...spellingCosts(part, keys)],
    moves: moveCosts(partBeats),
    alike: alikeBeats(partBeats),
  };
  const costs = sets.map((set) => {
    const states = set.map((symbol) => candidate(chord(symbol), key, true));
    const found = solve({ ...shared, states: part.map(() => states) });
    return isConflict(found) ? Number.POSITIVE_INFINITY : found.cost;
  });
  return sets[costs.indexOf(Math.min(...costs))] as string[];
}

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
    locked: lock !== undefined && !lock.kept,
    ...(lock?.kept ? { kept: lock.kept } : {}),
    ...(state.dress && !lock ? { added: { what: state.dress.what, plain: state.dress.plain } } : {}),
    costs: [...costs].map(([name, cost]) => ({ name, cost })),
    notes: notesIn(planner, from, to),
    alternatives,
  };
  const rival = alternatives[0];
  const reason = reasonFor(facts, {
    key,
    standing: standingOf(planner, from, to),
    rival: rival && rivalOf(planner, from, to, rival),
    by: lock?.by ?? (lock && "teacher"),
    unlike: unlikeOf(planner, from, to),
  });
  return { ...facts, reason };
}

/** Melody notes of a stretch by name and role, the longest first. */
function notesIn({ cut, solution: { path } }: Planner, from: number, to: number): PlannedChord["notes"] {
  const { chord: own } = path[from] as Candidate;
  const after = path[to + 1]?.chord;
  const last = cut[to]?.notes.at(-1);
  const notes = new Map<string, PlannedChord["notes"][number]>();
  for (const note of cut.slice(from, to + 1).flatMap((s) => s.notes)) {
    const name = className(note.timed.event.pitches[note.timed.event.pitches.length - 1] as never);
    const heard = roleOf(note, own);
    // Early is only what the next chord takes in: the same note again in the same chord is a drone.
    const early = note.timed === last?.timed && after?.classes.includes(note.pitchClass) === true;
    const role = heard === "anticipation" && !early ? "free" : heard;
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
