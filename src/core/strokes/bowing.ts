import { FIDDLE } from "../instruments";
import type { Place } from "../score";
import { isConflict, type Problem, type Solution, solve } from "../search";
import { type Ground, herePrice, MOST, movePrice, PRICES, runFrom } from "./bowPrices";
import { type Bow, type BowRequest, statesFor } from "./bows";
import { beatsOf } from "./metre";
import {
  DIRECTIONS,
  type Direction,
  otherWay,
  type Stroke,
  type StrokeLock,
  type StrokeNote,
  type StrokePlan,
} from "./model";
import { strokeNotes } from "./notes";
import { bowReason } from "./reasons";
import { retakesOf } from "./retakes";
import { near, type Spot, spotsOf } from "./spots";

/** A locked stroke stands even where it could not be chosen; this is what it then costs. */
const FORCED = 40;

/** A stretch of notes that is bowed in one go: a strain with its first ending, or a later ending alone. */
type Chain = { from: number; to: number };
/** Which way a chain begins, ends, and leaves the bars before its ending. */
type Fixed = { first: Direction; last: Direction; leaves: Direction };

/** One strain: its chain, the note before its endings, and the chain of its later endings. */
type Strain = { main: Chain; leaves: number; later: Chain | undefined; repeated: boolean };

function strainsOf(notes: readonly StrokeNote[], places: readonly Place[]): Strain[] {
  const strains: Strain[] = [];
  for (let from = 0; from < notes.length; ) {
    const { strain } = (notes[from] as StrokeNote).place;
    let to = from;
    while (to + 1 < notes.length && notes[to + 1]?.place.strain === strain) to++;
    const own = places.filter((p) => p.strain === strain);
    const secondAt = notes.findIndex((n, i) => i > from && i <= to && n.place.ending > 1);
    const firstEnding = own.find((p) => p.bar.ending?.includes(1))?.index;
    const mainEnd = secondAt > 0 ? secondAt - 1 : to;
    const leaves = notes.findLastIndex(
      (n, i) => i <= mainEnd && i >= from && (firstEnding === undefined || n.place.index < firstEnding),
    );
    strains.push({
      main: { from, to: mainEnd },
      leaves: leaves < from ? mainEnd : leaves,
      later: secondAt > 0 ? { from: secondAt, to } : undefined,
      repeated: own.some((p) => p.bar.repeatEnd !== undefined),
    });
    from = to + 1;
  }
  return strains;
}

/** What it costs that the bow comes the same way at a seam: where strains or passes meet. */
const seam = (last: Direction, first: Direction, rest: number) =>
  last === first && rest === 0 ? PRICES.liftAtPhrase : 0;

type Solved = { problem: Problem<Bow>; solution: Solution<Bow>; chain: Chain };
/** One way to bow a strain, with the searches behind it. */
type Way = Fixed & { out: Direction; cost: number; parts: Solved[] };

/** Plans the bow over a tune. Every lock holds; a stated runner-up's cost is exact. */
export const planBowing = (request: BowRequest): StrokePlan => planned(request, true);

function planned(request: BowRequest, priced: boolean): StrokePlan {
  const { places, style, instrument = FIDDLE, locks = [] } = request;
  const notes = strokeNotes(places, instrument);
  const none = { style, total: 0, strokes: [], downbeats: { down: 0, all: 0 } };
  if (notes.length === 0) return none;
  const spots = spotsOf(notes, request);
  const runs = request.runs ? spots.map((_, i) => runFrom(spots, i)) : [];
  const styled = Math.max(request.air ? MOST.air : MOST.quick, ...runs);
  const most = Math.min(styled, request.most ?? styled);
  const ground: Ground = { spots, request, most };
  const slurs = locks.some(({ bar, at, ticks }) => {
    const note = notes.find((n) => n.place.index === bar && n.at - n.place.at === at);
    return note !== undefined && ticks !== undefined && ticks > note.ticks;
  });
  const all = statesFor(style, most, slurs);
  const plain = all.filter((s) => s.order === 0);
  const settled = new Map(
    locks.flatMap((lock) => {
      const i = notes.findIndex((n) => n.place.index === lock.bar && n.at - n.place.at === lock.at);
      return i < 0 ? [] : [[i, lock] as const];
    }),
  );
  const lists = new Map<string, readonly Bow[]>([["", all]]);
  const listOf = (i: number, way: Direction | undefined, ends: boolean, begins: boolean): readonly Bow[] => {
    const lock = settled.get(i);
    const name = `${way ?? ""}${ends ? "e" : ""}${begins ? "b" : ""}${lock ? i : ""}`;
    const known = lists.get(name);
    if (known) return known;
    const made = (lock ? plain : all).filter(
      (s) =>
        (way === undefined || s.way === way) &&
        (!ends || s.order === s.of - 1) &&
        (!begins || (s.order === 0 && s.kind === "plain" && !s.broke)) &&
        (!lock || keeps(lock, i, s)),
    );
    lists.set(name, made);
    return made;
  };
  function keeps({ direction, ticks }: StrokeLock, i: number, { way, of }: Bow): boolean {
    return (direction === undefined || way === direction) && (ticks === undefined || spans(notes, i, of, ticks));
  }
  const tables: NonNullable<Problem<Bow>["alike"]>["made"] = new Map();
  const JOINTS = [undefined, "slur", "change", "hook"] as const;
  const known = new Float64Array(notes.length * all.length).fill(Number.NaN);
  const here = (i: number, bow: Bow): number => {
    const place = i * all.length + bow.id;
    if (Number.isNaN(known[place])) {
      const found = herePrice(ground, i, bow);
      known[place] = settled.has(i) && !Number.isFinite(found) ? FORCED : found;
    }
    return known[place] as number;
  };
  const solvedChain = (chain: Chain, open: (i: number) => readonly Bow[]): Solved | undefined => {
    const at = (step: number) => spots[chain.from + step] as Spot;
    const problem: Problem<Bow> = {
      states: Array.from({ length: chain.to - chain.from + 1 }, (_, step) => open(chain.from + step)),
      local: [{ name: "bow", at: (step, bow) => here(chain.from + step, bow) }],
      moves: [{ name: "change", into: (step, a, b) => movePrice(at(step), a, b) }],
      alike: {
        name: (step) => JOINTS.indexOf(at(step).wanted) * 2 + (at(step).opens ? 1 : 0),
        made: tables,
      },
    };
    if (problem.states.some((s) => s.length === 0)) return undefined;
    const solution = solve(problem);
    return isConflict(solution) || !Number.isFinite(solution.cost) ? undefined : { problem, solution, chain };
  };
  const strains = strainsOf(notes, places);
  const waysOf = ({ main, leaves, later, repeated }: Strain): Way[] =>
    DIRECTIONS.flatMap((first) =>
      DIRECTIONS.flatMap((last) =>
        (later ? DIRECTIONS : [last]).flatMap((leaving): Way[] => {
          const body = solvedChain(main, (i) => {
            if (i === main.from && i === main.to && first !== last) return [];
            if (i === leaves && later && i === main.to && leaving !== last) return [];
            const way = wayAt(i, main, leaves, later, { first, last, leaves: leaving });
            const ends = i === main.to || (later !== undefined && i === leaves);
            return listOf(i, way, ends, i === main.from);
          });
          if (!body) return [];
          const rest = notes[main.from]?.rest ?? 0;
          const again = repeated ? seam(last, first, rest) : 0;
          const fixed = { first, last, leaves: leaving };
          if (!later) return [{ ...fixed, out: last, cost: body.solution.cost + again, parts: [body] }];
          return DIRECTIONS.flatMap((out): Way[] => {
            const begins = otherWay(leaving);
            const tail = solvedChain(later, (i) => {
              if (i === later.from && i === later.to && begins !== out) return [];
              if (i === later.from) return listOf(i, begins, i === later.to, true);
              return listOf(i, i === later.to ? out : undefined, i === later.to, false);
            });
            const cost = body.solution.cost + again + (tail?.solution.cost ?? 0);
            return tail ? [{ ...fixed, out, cost, parts: [body, tail] }] : [];
          });
        }),
      ),
    );
  const ways = strains.map(waysOf);
  const outer = solve<Way>({
    states: ways,
    local: [{ name: "strain", at: (_, way) => way.cost }],
    moves: [
      {
        name: "seam",
        into: (step, a, b) => seam(a.out, b.first, notes[strains[step]?.main.from ?? 0]?.rest ?? 0),
      },
    ],
  });
  if (isConflict(outer)) throw new RangeError("These strokes cannot be bowed together. Free one of them.");
  const strokes = outer.path.flatMap((way, s) =>
    way.parts.flatMap((part, p) => strokesOf(part, (i, of, direction) => priceAt(s, p, i, of, direction))),
  );

  /** The exact price of a stroke from note `i` over `of` notes going a way, over all ways to bow the whole tune. */
  function priceAt(strain: number, part: number, i: number, of: number, direction: Direction): number {
    if (isConflict(outer) || !priced) return Number.POSITIVE_INFINITY;
    const lock = settled.get(i);
    if (lock) return relocked(lock, direction, outer.cost);
    let least = Number.POSITIVE_INFINITY;
    (ways[strain] as Way[]).forEach((way, w) => {
      const found = way.parts[part];
      if (!found) return;
      const { problem, solution, chain } = found;
      const step = i - chain.from;
      const open = problem.states[step] as readonly Bow[];
      const meant = (s: Bow) => s.order === 0 && s.of === of && s.way === direction;
      const marginals = solution.marginals[step] as number[];
      const own = open.reduce(
        (best, s, k) => (meant(s) ? Math.min(best, marginals[k] as number) : best),
        Number.POSITIVE_INFINITY,
      );
      least = Math.min(least, ((outer.marginals[strain] as number[])[w] as number) + own);
    });
    return least;
  }
  /** What the plan would cost more were a settled stroke settled the other way: planned anew with it. */
  function relocked(lock: StrokeLock, direction: Direction, total: number): number {
    const changed = locks.map((l) => (l === lock ? { ...l, direction } : l));
    try {
      return planned({ ...request, locks: changed }, false).total - total;
    } catch {
      return Number.POSITIVE_INFINITY;
    }
  }
  function strokesOf(
    { solution, chain }: Solved,
    price: (i: number, of: number, direction: Direction) => number,
  ): Omit<Stroke, "retake" | "reason">[] {
    const made: Omit<Stroke, "retake" | "reason">[] = [];
    for (let i = chain.from; i <= chain.to; ) {
      const bow = solution.path[i - chain.from] as Bow;
      const other = otherWay(bow.way);
      const cost = price(i, bow.of, other);
      const [first, last] = [notes[i], notes[i + bow.of - 1]] as [StrokeNote, StrokeNote];
      made.push({
        place: first.place,
        at: first.at,
        ticks: last.at + last.ticks - first.at,
        notes: notes.slice(i, i + bow.of),
        direction: bow.way,
        kind: bow.kind,
        ...(runs[i] === bow.of && bow.way === "up" ? { swell: true as const } : {}),
        locked: settled.has(i),
        alternatives: Number.isFinite(cost) ? [{ direction: other, cost }] : [],
      });
      i += bow.of;
    }
    return made;
  }
  const told = withRetakes(strokes, places);
  const starts = told.filter(
    (s) => (s.notes[0] as StrokeNote).into % beatsOf((s.notes[0] as StrokeNote).place.metre).full === 0,
  );
  const downbeats = {
    all: notes.filter((n) => n.into % beatsOf(n.place.metre).full === 0).length,
    down: starts.filter((s) => s.direction === "down").length,
  };
  const reasons = told.map((stroke, k) => ({ ...stroke, reason: bowReason(told, k, style) }));
  return { style, total: outer.cost, strokes: reasons, downbeats };
}

/** Which way a note of a chain is held to: its ends, and the note before its endings. */
function wayAt(i: number, main: Chain, leaves: number, later: Chain | undefined, fixed: Fixed): Direction | undefined {
  if (i === main.from) return fixed.first;
  if (i === main.to) return fixed.last;
  return later && i === leaves ? fixed.leaves : undefined;
}

/** Whether so many notes from one on last so long. */
const spans = (notes: readonly StrokeNote[], i: number, of: number, ticks: number): boolean =>
  near(
    notes.slice(i, i + of).reduce((sum, n) => sum + n.ticks, 0),
    ticks,
  );

/** The strokes with what they are called: those that come the same way again as hooks, lifts, or after a rest. */
function withRetakes(strokes: readonly Omit<Stroke, "retake" | "reason">[], places: readonly Place[]): Stroke[] {
  const again = retakesOf(strokes, places);
  return strokes.map((stroke, k): Stroke => {
    const retake = again[k] === true;
    const [first] = stroke.notes as [StrokeNote];
    const kind = retake ? retakeKind(stroke.kind, first) : plainKind(stroke.notes.length);
    return { ...stroke, retake, kind, reason: "" };
  });
}
const plainKind = (notes: number) => (notes > 1 ? "slur" : "separate");
/** Where strains or passes meet the bow is lifted, whatever the search called it. */
const retakeKind = (kind: string, { rest }: StrokeNote): string => {
  if (rest > 0) return "rest";
  return kind === "hook" ? "hook" : "lift";
};
