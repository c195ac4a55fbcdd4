import { music, type Phrase } from "../analysis";
import { beatTicks, type Place, strength } from "../score";
import { costsAt, type LocalCost, type Problem, type Solution, solve, through } from "../search";
import { chord, className, type Key, parseChord, roman } from "../theory";
import { augmented, type Dress, wardrobe, wearable } from "./colour";
import { type Candidate, candidate, dressed, localCosts, moveCosts, moveId, roleOf } from "./costs";
import { reasonFor } from "./explain";
import { type Beat, beatsOf } from "./features";
import type { ChordLock, ChordPlan, NoteRole, PlannedChord } from "./model";
import { heldLocks } from "./songSheet";
import { type Segment, segments } from "./segments";
import { borrowed, chordOn, outsiders, type Style, THREE_CHORD } from "./styles";
import weights from "./weights.json";

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
 * Every lock holds exactly; runners-up carry what the whole plan would cost more, exact within the same sets.
 * Throws a RangeError for a locked symbol that is no chord.
 */
export function deriveChords({ places, phrases, keys, style = THREE_CHORD, locks = [] }: ChordRequest): ChordPlan {
  const cut = segments(places, new Set(phrases.map((p) => p.to)), locks);
  const beats = beatsOf(cut, keys, new Set(phrases.map((p) => p.from)));
  if (cut.length === 0) return { style: style.name, vocabulary: [], cost: 0, chords: [], fits: places.map(() => 1) };
  const sets = keys.map((key, strain) => {
    const set = bestSet(cut, beats, keys, key, style);
    return style.borrows ? [...new Set([...set, ...borrowed(namesOf(cut, strain), key)])] : set;
  });
  const alone = chordProblem(cut, beats, keys, sets, locks);
  const agreed = { ...alone, local: [...alone.local, likeBars(cut, alone, solve(alone))] };
  const problem = style.colour ? coloured(cut, agreed, keys, sets) : agreed;
  const solution = solve(problem);
  const chords = runs(cut, solution, locks).map(([from, to]) =>
    planned({ cut, problem, solution, keys, locks }, from, to),
  );
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

/** Opens what the triads may wear; the closing chord only at the end, the augmented dominant at one beat at most. */
function coloured(
  cut: readonly Segment[],
  plain: Problem<Candidate>,
  keys: readonly Key[],
  sets: readonly string[][],
): Problem<Candidate> {
  const end = cut[cut.length - 1]?.place;
  const allowed = (i: number, dress: Dress) =>
    (dress.what !== "closing chord" || cut[i]?.place === end) && wearable(dress, cut, i);
  const closets = keys.map((key, s): Candidate[] => wardrobe(sets[s] ?? [], key).map((dress) => dressed(dress, key)));
  const opened = new Map<readonly Candidate[], Candidate[]>();
  const states = plain.states.map((own, i) => {
    if (own.length === 1) return own;
    const all = opened.get(own) ?? [...own, ...(closets[(cut[i] as Segment).place.strain] ?? [])];
    opened.set(own, all);
    return all;
  });
  const worn = cut.map(() => new Map<Dress, boolean>());
  const wears = (i: number, dress: Dress) => {
    const known = worn[i]?.get(dress);
    if (known !== undefined) return known;
    const may = allowed(i, dress);
    worn[i]?.set(dress, may);
    return may;
  };
  const fits: LocalCost<Candidate> = {
    name: "what is added",
    at: (i, s) => (s.dress && !wears(i, s.dress) ? Number.POSITIVE_INFINITY : 0),
  };
  const problem = { ...plain, states, local: [...plain.local, fits] };
  const { path } = solve(problem);
  const raised = keys.map((key, s) => {
    const dress = augmented(sets[s] ?? [], key);
    return dress && dressed(dress, key);
  });
  const spot = path.findLastIndex((s, i) => {
    const raise = raised[(cut[i] as Segment).place.strain];
    const next = path[i + 1];
    return (
      raise?.dress &&
      next &&
      next.root === raise.dress.wants &&
      (states[i]?.length ?? 0) > 1 &&
      s.root === raise.root &&
      wearable(raise.dress, cut, i)
    );
  });
  if (spot < 0) return problem;
  return {
    ...problem,
    states: states.map((own, i) =>
      i === spot ? [...own, raised[(cut[spot] as Segment).place.strain] as Candidate] : own,
    ),
  };
}

/**
 * What a melody note's time counts for, in its chord or outside it: passing and neighbour notes do a chord little harm.
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

const covers = (lock: ChordLock, segment: Segment) =>
  lock.bar === segment.place.index && segment.at >= lock.at && segment.at < lock.at + lock.ticks;

/**
 * A cost for chording the same music in two ways. Bars with the same notes agree, beat by beat, on the chord that costs
 * all of them together least; each pays for leaving it. A lock speaks for its own bar and is not outvoted.
 */
function likeBars(
  cut: readonly Segment[],
  problem: Problem<Candidate>,
  { marginals }: Solution<Candidate>,
): LocalCost<Candidate> {
  const groups = new Map<string, number[]>();
  cut.forEach((segment, i) => {
    const like = `${music(segment.place)}@${segment.at}`;
    groups.set(like, [...(groups.get(like) ?? []), i]);
  });
  const agreed = new Map<number, string>();
  for (const members of groups.values()) {
    if (members.length < 2) continue;
    const totals = new Map<string, { cost: number; votes: number }>();
    for (const i of members) {
      (problem.states[i] as readonly Candidate[]).forEach((s, k) => {
        const known = totals.get(s.chord.symbol) ?? { cost: 0, votes: 0 };
        totals.set(s.chord.symbol, { cost: known.cost + (marginals[i]?.[k] as number), votes: known.votes + 1 });
      });
    }
    const most = Math.max(...[...totals.values()].map((t) => t.votes));
    const best = [...totals]
      .filter(([, t]) => t.votes === most)
      .reduce((a, b) => (b[1].cost < a[1].cost - 1e-9 ? b : a))[0];
    for (const i of members) agreed.set(i, best);
  }
  return {
    name: "same music, other chord",
    at: (i, s) => (agreed.has(i) && agreed.get(i) !== s.chord.symbol ? weights.unlike : 0),
  };
}

const keyAt = (keys: readonly Key[], segment: Segment): Key => keys[segment.place.strain] ?? (keys[0] as Key);

/** Beats into which moves cost the same share their tables. */
const alikeBeats = (beats: readonly Beat[]): NonNullable<Problem<Candidate>["alike"]> => ({
  name: (i) => moveId(beats[i] as Beat),
  made: new Map(),
});

/** The set of a style that costs all strains of a key least, so that a tune keeps to it. */
function bestSet(
  cut: readonly Segment[],
  beats: readonly Beat[],
  keys: readonly Key[],
  key: Key,
  style: Style,
): string[] {
  const sets = style.sets[key.mode].map((words) => words.map((w) => chordOn(w, key)));
  const own = cut.flatMap((c, i) => {
    const at = keyAt(keys, c);
    return at.tonic === key.tonic && at.mode === key.mode ? [i] : [];
  });
  if (sets.length === 1 || own.length === 0) return sets[0] as string[];
  const [part, heard] = [own.map((i) => cut[i] as Segment), own.map((i) => beats[i] as Beat)];
  const [local, moves] = [localCosts(part, heard, []), moveCosts(heard)];
  const alike = alikeBeats(heard);
  const costs = sets.map((set) => {
    const states = set.map((symbol) => candidate(chord(symbol), key, true));
    return solve({ states: part.map(() => states), local, moves, alike }).cost;
  });
  return sets[costs.indexOf(Math.min(...costs))] as string[];
}

/** The search over the tune: states, locks and named costs. Exported for tests that try every path. */
export function chordProblem(
  cut: readonly Segment[],
  beats: readonly Beat[],
  keys: readonly Key[],
  sets: readonly string[][],
  locks: readonly ChordLock[],
): Problem<Candidate> {
  const open = keys.map((key, s) => {
    const set = sets[s] ?? [];
    return [
      ...set.map((symbol) => candidate(chord(symbol), key, true)),
      ...outsiders(key, set).map((symbol) => candidate(chord(symbol), key, false)),
    ];
  });
  const states = cut.map((segment) => {
    const lock = locks.findLast((l) => covers(l, segment));
    const own = open[segment.place.strain] ?? (open[0] as Candidate[]);
    if (!lock) return own;
    const locked = parseChord(lock.symbol);
    if (!locked)
      throw new RangeError(`The locked chord "${lock.symbol}" is not a chord. Write a root and a quality, such as Em.`);
    return [own.find((c) => c.chord.symbol === locked.symbol) ?? candidate(locked, keyAt(keys, segment), true)];
  });
  return { states, local: localCosts(cut, beats, keys), moves: moveCosts(beats), alike: alikeBeats(beats) };
}

/** First and last segment of every stretch of one chord inside one bar; a lock is a stretch of its own. */
function runs(cut: readonly Segment[], { path }: Solution<Candidate>, locks: readonly ChordLock[]): [number, number][] {
  const lockOf = (i: number) => locks.findLast((l) => covers(l, cut[i] as Segment));
  const found: [number, number][] = [];
  cut.forEach((segment, i) => {
    const last = found[found.length - 1];
    const goes =
      last &&
      path[last[0]]?.chord.symbol === path[i]?.chord.symbol &&
      cut[last[0]]?.place === segment.place &&
      lockOf(last[0]) === lockOf(i);
    if (goes) last[1] = i;
    else found.push([i, i]);
  });
  return found;
}

type Context = {
  cut: readonly Segment[];
  problem: Problem<Candidate>;
  solution: Solution<Candidate>;
  keys: readonly Key[];
  locks: readonly ChordLock[];
};

function planned({ cut, problem, solution, keys, locks }: Context, from: number, to: number): PlannedChord {
  const stretch = cut.slice(from, to + 1);
  const [first, last] = [stretch[0] as Segment, stretch[stretch.length - 1] as Segment];
  const state = solution.path[from] as Candidate;
  const key = keyAt(keys, first);
  const lock = locks.findLast((l) => covers(l, first));
  const costs = new Map<string, number>();
  for (let i = from; i <= to; i++)
    for (const { name, cost } of costsAt(problem, solution.path, i)) costs.set(name, (costs.get(name) ?? 0) + cost);
  const others = lock ? rivals(cut, keys, from) : (problem.states[from] as readonly Candidate[]);
  // Of the dressed chords only other forms of the chosen one: a teacher looks for another chord first.
  const alternatives = others
    .filter((s) => s.chord.symbol !== state.chord.symbol && (!s.dress || s.label === state.label))
    .map((s) => {
      const {
        first: a,
        last: b,
        cost,
      } = lock
        ? { first: from, last: to, cost: through(problem, solution, from, to, s) }
        : bestStretch(problem, solution, from, to, s);
      const [start, end] = [cut[a] as Segment, cut[b] as Segment];
      return {
        symbol: s.chord.symbol,
        cost,
        ...(a === from && b === to ? {} : { at: start.at, ticks: end.at + end.ticks - start.at }),
      };
    })
    .filter((a) => Number.isFinite(a.cost))
    .sort((a, b) => a.cost - b.cost || a.symbol.localeCompare(b.symbol));
  const notes = new Map<string, PlannedChord["notes"][number]>();
  for (const note of stretch.flatMap((s) => s.notes)) {
    const name = className(note.timed.event.pitches[note.timed.event.pitches.length - 1] as never);
    const role = roleOf(note, state.chord);
    const known = notes.get(name + role);
    notes.set(name + role, { name, role, beats: (known?.beats ?? 0) + note.beats });
  }
  const facts = {
    bar: first.place.index,
    at: first.at,
    ticks: last.at + last.ticks - first.at,
    symbol: state.chord.symbol,
    roman: roman(state.chord, key),
    locked: lock !== undefined,
    ...(state.dress && !lock ? { added: { what: state.dress.what, plain: state.dress.plain } } : {}),
    costs: [...costs].map(([name, cost]) => ({ name, cost })),
    notes: [...notes.values()].sort((a, b) => b.beats - a.beats),
    alternatives,
  };
  const beats = facts.ticks / beatTicks(first.place.metre);
  return {
    ...facts,
    reason: reasonFor(facts, {
      beats,
      whole: facts.ticks >= first.place.ticks,
      key,
      opening: from === 0,
      closing: to === cut.length - 1,
      rival: alternatives[0],
      before: solution.path[from - 1]?.chord.symbol,
      by: lock?.by,
    }),
  };
}

/** A part of a place is offered only where it spares the plan this much. */
const PART = 0.25;

/**
 * Where another chord would cost the plan least: the whole of a place, or a part of it from its start or to its end.
 */
function bestStretch(
  problem: Problem<Candidate>,
  solution: Solution<Candidate>,
  from: number,
  to: number,
  state: Candidate,
): { first: number; last: number; cost: number } {
  let best = { first: from, last: to, cost: through(problem, solution, from, to, state) - PART };
  for (let m = from; m < to; m++) {
    for (const [first, last] of [
      [from, m],
      [m + 1, to],
    ] as const) {
      const cost = through(problem, solution, first, last, state);
      if (cost < best.cost - 1e-9) best = { first, last, cost };
    }
  }
  return best.first === from && best.last === to ? { ...best, cost: best.cost + PART } : best;
}

/** What a locked place could have been: the chords its neighbours choose from. */
function rivals(cut: readonly Segment[], keys: readonly Key[], i: number): Candidate[] {
  const key = keyAt(keys, cut[i] as Segment);
  return outsiders(key, []).map((symbol) => candidate(chord(symbol), key, true));
}
