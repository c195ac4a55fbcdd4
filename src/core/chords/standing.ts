import { music, type Phrase } from "../analysis";
import { barLabel, beatAt, beatTicks } from "../score";
import { costsAt, type Solution } from "../search";
import { className, type Key, type Pitch } from "../theory";
import { UNLIKE } from "./alike";
import type { Candidate } from "./candidate";
import { AGAINST, type Rival, type Standing, type Unlike } from "./explain";
import type { ChordLock, PlannedChord } from "./model";
import type { ChordProblem } from "./problem";
import type { Heard, Segment } from "./segments";

/** A plan as it came out of the search, with all that its reasons are read off. */
export type Planner = ChordProblem & {
  cut: readonly Segment[];
  solution: Solution<Candidate>;
  keys: readonly Key[];
  locks: readonly ChordLock[];
  phrases: readonly Phrase[];
};

const LINES = ["first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth"];
const lineName = (n: number) => (LINES[n] ? `${LINES[n]} line` : `line ${n + 1}`);

/** Where a stretch stands in its line, strain and tune. */
export function standingOf({ cut, solution: { path }, phrases, keys }: Planner, from: number, to: number): Standing {
  const [first, last] = [cut[from] as Segment, cut[to] as Segment];
  const phrase = phrases.find((p) => p.from <= first.place.index && first.place.index <= p.to);
  const own = phrases.filter((p) => p.strain === first.place.strain);
  const label = phrase?.label ?? "";
  const part = keys.length > 1 ? ` of the ${label}${label.length <= 2 ? " part" : ""}` : "";
  const before = cut[from - 1];
  const after = cut[to + 1];
  // A later ending is not played after an earlier one: neither leads to the other.
  const isEnding = after !== undefined && after.place.ending > last.place.ending;
  const isLater = before !== undefined && first.place.ending > before.place.ending;
  return {
    opening: from === 0,
    closing: to === cut.length - 1,
    line: lineName(phrase ? own.indexOf(phrase) : 0) + part,
    lineStarts: before !== undefined && phrase !== undefined && before.place.index < phrase.from,
    lineEnds: after === undefined || isEnding || (phrase !== undefined && after.place.index > phrase.to),
    strainEnds: after === undefined || isEnding || after.place.strain !== last.place.strain,
    rests: comesToRest(cut.slice(from, to + 1), path[from] as Candidate),
    before: isLater ? undefined : path[from - 1]?.chord.symbol,
    next: isEnding ? undefined : path[to + 1]?.chord.symbol,
  };
}
/** Whether the melody comes to rest in a chord: its last long note belongs to it, and at most a lead-in follows. */
function comesToRest(stretch: readonly Segment[], chord: Candidate): boolean {
  const notes = [...new Map(stretch.flatMap((s) => s.notes.map((n) => [n.timed, n] as const))).values()];
  const beats = ({ timed: { event, place } }: Heard) => event.ticks / beatTicks(place.metre);
  const last = notes.findLastIndex((n) => beats(n) >= 1);
  const long = notes[last];
  if (!long) return notes.length === 0 || (notes.length === 1 && isIn(chord, notes[0] as Heard));
  const after = notes.slice(last + 1).reduce((sum, n) => sum + beats(n), 0);
  return isIn(chord, long) && after <= LEAD_IN;
}
/** Most beats of a lead-in. */
const LEAD_IN = 1;
const isIn = ({ chord: own }: Candidate, note: Heard) => own.classes.includes(note.pitchClass);

/** What the nearest other chord takes and leaves of the melody, and the named cost that tells most against it. */
export function rivalOf(
  { cut, problem, solution: { path }, statesFor }: Planner,
  from: number,
  to: number,
  { symbol, cost, at, ticks }: PlannedChord["alternatives"][number],
): Rival {
  const isPart = (i: number) => {
    const segment = cut[i] as Segment;
    return at === undefined || (segment.at >= at && segment.at < at + (ticks as number));
  };
  const steps = Array.from({ length: to - from + 1 }, (_, i) => from + i).filter(isPart);
  const own = path[from] as Candidate;
  const rival = statesFor(steps[0] ?? from, symbol)[0] as Candidate;
  const notes = steps.flatMap((i) => (cut[i] as Segment).notes);
  const names = (kept: (n: Heard) => boolean) => [
    ...new Set(notes.filter(kept).map((n) => className(n.timed.event.pitches.at(-1) as Pitch))),
  ];
  const against = path.map((state, i) => (steps.includes(i) ? rival : state));
  const sums = new Map<string, number>();
  const ends = [...steps, (steps.at(-1) ?? to) + 1].filter((i) => i < path.length);
  for (const [way, sign] of [
    [against, 1],
    [path, -1],
  ] as const)
    for (const i of ends)
      for (const c of costsAt(problem, way, i)) sums.set(c.name, (sums.get(c.name) ?? 0) + sign * c.cost);
  const [tipped] = [...sums].filter(([name, sum]) => sum > 0.1 && name in AGAINST).sort((a, b) => b[1] - a[1]);
  return {
    symbol,
    cost,
    where: at === undefined ? "" : beatsIn(cut, steps),
    gained: names((n) => isIn(rival, n) && !isIn(own, n)),
    lost: names((n) => isIn(own, n) && !isIn(rival, n)),
    tipped: tipped && AGAINST[tipped[0]],
  };
}

/** "On beat 3", "From beat 3": the beats of a bar from the first to the last of some steps. */
function beatsIn(cut: readonly Segment[], steps: readonly number[]): string {
  const [first, last] = [cut[steps[0] ?? 0] as Segment, cut[steps.at(-1) ?? 0] as Segment];
  const beat = (s: Segment) => Math.floor(beatAt(s.place, s.place.at + s.at) + 1e-9);
  const [from, to] = [beat(first), beat(last)];
  return from === to ? `On beat ${from}` : `On beats ${from} to ${to}`;
}

/** Another bar of the same music that took another chord here, and what sets the two apart. */
export function unlikeOf({ cut, problem, solution: { path } }: Planner, from: number, to: number): Unlike | undefined {
  const paid = costsAt(problem, path, from).find((c) => c.name === UNLIKE);
  if (!paid) return undefined;
  const here = cut[from] as Segment;
  const sound = music(here.place);
  const other = cut.findIndex(
    (s, i) =>
      s.place !== here.place &&
      s.at === here.at &&
      path[i]?.chord.symbol !== path[from]?.chord.symbol &&
      music(s.place) === sound,
  );
  const bar = cut[other];
  if (!bar) return undefined;
  const [next, otherNext] = [path[to + 1]?.chord.symbol, path[other + to - from + 1]?.chord.symbol];
  return {
    bar: barLabel(bar.place),
    symbol: path[other]?.chord.symbol as string,
    next: next === otherNext ? undefined : next,
  };
}
