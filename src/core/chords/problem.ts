import type { Place } from "../score";
import { type LocalLimit, type Problem, solved } from "../search";
import { chord, type Key, parseChord } from "../theory";
import { agreement, unlike } from "./alike";
import type { Candidate, Dress } from "./candidate";
import { delaying, leadingIn, leadIns } from "./closes";
import { augmented, dressLimit, wardrobe, wearable } from "./colour";
import { candidate, dressed, localCosts, moveCosts } from "./costs";
import { type Beat, beatsOf, moveId } from "./hearing";
import { keyAt } from "./keys";
import type { ChordLock } from "./model";
import { type Segment, segments } from "./segments";
import { spellingCosts } from "./spelled";
import { outsiders, type Style } from "./styles";

/** The bars, phrases and keys that chords are planned over. */
export type Ground = {
  places: readonly Place[];
  /** First and last bars of phrases (indexes). */
  starts: ReadonlySet<number>;
  ends: ReadonlySet<number>;
  /** Key of each strain. */
  keys: readonly Key[];
};

/** Beats of a tune, cut where locks ask for it, and what the model hears in each. */
export type Heard = { cut: readonly Segment[]; beats: readonly Beat[] };

const heardIn = ({ starts, keys }: Ground, cut: readonly Segment[]): Heard => ({
  cut,
  beats: beatsOf(cut, keys, starts),
});

/** Bars whose beats were heard before, as long as they live: another style or lock need not hear them again. */
const known = new WeakMap<readonly Place[], { ground: string; heard: Heard }>();

/** The beats of a tune as it stands, whatever is locked. */
export function heardWhole(ground: Ground): Heard {
  const { places, starts, ends, keys } = ground;
  const name = JSON.stringify([[...starts], [...ends], keys]);
  const before = known.get(places);
  if (before?.ground === name) return before.heard;
  const heard = heardIn(ground, segments(places, ends));
  known.set(places, { ground: name, heard });
  return heard;
}

/** The beats as locks cut them; those of the tune itself where locks keep to its beats. */
export function heardUnder(ground: Ground, whole: Heard, locks: readonly ChordLock[]): Heard {
  const cut = segments(ground.places, ground.ends, locks);
  return cut.length === whole.cut.length ? whole : heardIn(ground, cut);
}

export const lockAt = (locks: readonly ChordLock[], { place, at }: Segment): ChordLock | undefined =>
  locks.findLast((l) => l.bar === place.index && at >= l.at && at < l.at + l.ticks);

/** Beats into which moves cost the same share their tables. */
export const alikeBeats = (
  beats: readonly Beat[],
  led: readonly boolean[] = [],
): NonNullable<Problem<Candidate>["alike"]> => ({
  name: (i) => 2 * moveId(beats[i] as Beat) + Number(led[i] === true),
  made: new Map(),
});

/** The search over plain chords: the style's set in each strain, and what lies outside it for a teacher to lock. */
export function plainProblem(
  { cut, beats }: Heard,
  keys: readonly Key[],
  sets: readonly (readonly string[])[],
): Problem<Candidate> {
  const open = keys.map((key, s) => {
    const set = sets[s] ?? [];
    return [
      ...set.map((symbol) => candidate(chord(symbol), key, true)),
      ...outsiders(key, set).map((symbol) => candidate(chord(symbol), key, false)),
    ];
  });
  const led = leadIns(cut);
  return {
    states: cut.map((segment) => open[segment.place.strain] ?? (open[0] as Candidate[])),
    local: [...localCosts(cut, beats, keys), ...spellingCosts(cut, keys), delaying(cut, keys)],
    moves: [...moveCosts(beats), leadingIn(led)],
    alike: alikeBeats(beats, led),
  };
}

/** A problem and, for any symbol, the states that are it at a step: what a lock on it leaves open there. */
export type ChordProblem = { problem: Problem<Candidate>; statesFor: (step: number, symbol: string) => Candidate[] };

/**
 * The search over a tune with what the teacher has settled. What like bars agree on and where the augmented dominant
 * may stand are worked out without the locks: so every stated price is what locking that chord costs. Throws a
 * RangeError for a locked symbol that is no chord.
 */
export function chordProblem(
  ground: Ground,
  heard: Heard,
  whole: Heard,
  sets: readonly (readonly string[])[],
  style: Style,
  locks: readonly ChordLock[],
): ChordProblem {
  const { keys } = ground;
  const free = plainProblem(whole, keys, sets);
  const agreed = agreement(whole.cut, free, solved(free));
  const plain = (on: Heard): Problem<Candidate> => {
    const own = on === whole ? free : plainProblem(on, keys, sets);
    return { ...own, local: [...own.local, unlike(on.cut, whole.cut, agreed)] };
  };
  const open = style.colour ? coloured(heard, whole, plain, keys, sets) : plain(heard);
  const statesFor = (step: number, symbol: string): Candidate[] => {
    const segment = heard.cut[step] as Segment;
    const here = (open.states[step] as readonly Candidate[]).filter(
      (s) => s.chord.symbol === symbol && !open.limits?.some((limit) => limit.broken(step, s)),
    );
    if (here.length > 0) return here;
    const named = parseChord(symbol);
    if (!named) {
      throw new RangeError(`The locked chord "${symbol}" is not a chord. Write a root and a quality, such as Em.`);
    }
    return [candidate(named, keyAt(keys, segment), true)];
  };
  const settled = new Map<number, Candidate[]>();
  heard.cut.forEach((segment, i) => {
    const lock = lockAt(locks, segment);
    if (lock) settled.set(i, statesFor(i, parseChord(lock.symbol)?.symbol ?? lock.symbol));
  });
  return { problem: { ...open, locks: settled }, statesFor };
}

/** Opens what the triads may wear; the closing chord only at the end, the augmented dominant at one beat at most. */
function coloured(
  heard: Heard,
  whole: Heard,
  plain: (on: Heard) => Problem<Candidate>,
  keys: readonly Key[],
  sets: readonly (readonly string[])[],
): Problem<Candidate> {
  const raised = keys.map((key, s) => {
    const dress = augmented(sets[s] ?? [], key);
    return dress && dressed(dress, key);
  });
  const free = dressedProblem(whole.cut, plain(whole), keys, sets);
  const spot = raisedSpot(whole.cut, solved(free).path, raised);
  const problem = heard === whole ? free : dressedProblem(heard.cut, plain(heard), keys, sets);
  if (!spot) return problem;
  const states = problem.states.map((own, i) => {
    const { place, at } = heard.cut[i] as Segment;
    const raise = raised[spot.place.strain];
    return place === spot.place && at === spot.at && raise ? [...own, raise] : own;
  });
  return { ...problem, states };
}

/** Where the tune's one augmented dominant may stand: the last beat of a dominant that falls to its tonic. */
function raisedSpot(
  cut: readonly Segment[],
  path: readonly Candidate[],
  raised: readonly (Candidate | undefined)[],
): Segment | undefined {
  const found = path.findLastIndex((state, i) => {
    const raise = raised[cut[i]?.place.strain ?? 0];
    const next = path[i + 1];
    const onTime = cut[i + 1]?.start === "bar" && !cut[i]?.phraseEnd;
    const falls = onTime && raise?.dress && next?.root === raise.dress.wants && state.root === raise.root;
    return falls && raise.dress && wearable(raise.dress, cut, i);
  });
  return cut[found];
}

/** The plain problem with everything its triads may wear, and the limit that keeps it where the melody bears it. */
function dressedProblem(
  cut: readonly Segment[],
  plain: Problem<Candidate>,
  keys: readonly Key[],
  sets: readonly (readonly string[])[],
): Problem<Candidate> {
  const end = cut[cut.length - 1]?.place;
  const closets = keys.map((key, s) => wardrobe(sets[s] ?? [], key).map((dress) => dressed(dress, key)));
  const opened = new Map<readonly Candidate[], Candidate[]>();
  const states = plain.states.map((own, i) => {
    const all = opened.get(own) ?? [...own, ...(closets[cut[i]?.place.strain ?? 0] ?? [])];
    opened.set(own, all);
    return all;
  });
  const worn = cut.map(() => new Map<Dress, boolean>());
  const bears = (i: number, dress: Dress) => {
    const known = worn[i]?.get(dress);
    if (known !== undefined) return known;
    const may = (dress.what !== "closing chord" || cut[i]?.place === end) && wearable(dress, cut, i);
    worn[i]?.set(dress, may);
    return may;
  };
  const limit: LocalLimit<Candidate> = {
    name: "an addition the melody bears",
    broken: (i, { dress }) => dress !== undefined && !bears(i, dress),
  };
  return { ...plain, states, limits: [limit], moveLimits: [dressLimit] };
}
