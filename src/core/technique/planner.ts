import type { Instrument } from "../instruments";
import {
  type Broken,
  type Conflict,
  costsAt,
  isConflict,
  type LocalCost,
  type LocalLimit,
  type MoveCost,
  type MoveLimit,
  type Problem,
  priceOf,
  solve,
} from "../search";

/**
 * A planner of technique: how the notes of a line are played. It names the ways each moment can be played, what is
 * better (costs) and what must be (limits). `Moment` is what happens in the music, `Way` one way to play it.
 */
export type Planner<Moment, Way> = {
  name: string;
  /** Ways to play a moment. An empty list is a conflict at that moment. */
  ways: (moment: Moment, on: Instrument) => readonly Way[];
  /** What a way is called, to lock it and to tell it from others: "D string, open". */
  wayName: (way: Way, on: Instrument) => string;
  costs: (moments: readonly Moment[], on: Instrument) => LocalCost<Way>[];
  moves: (moments: readonly Moment[], on: Instrument) => MoveCost<Way>[];
  limits?: (moments: readonly Moment[], on: Instrument) => LocalLimit<Way>[];
  moveLimits?: (moments: readonly Moment[], on: Instrument) => MoveLimit<Way>[];
};

/** One moment as planned: the way taken, what was paid for it by name, and the exact price of every other way. */
export type PlannedWay<Way> = {
  way: Way;
  costs: { name: string; cost: number }[];
  alternatives: { way: Way; cost: number }[];
};
export type TechniquePlan<Way> = { cost: number; broken: Broken[]; ways: PlannedWay<Way>[] };

/**
 * A planner's search over moments. `locks` are ways settled by moment; a way the planner would not offer stands all
 * the same.
 */
export function techniqueProblem<Moment, Way>(
  planner: Planner<Moment, Way>,
  moments: readonly Moment[],
  on: Instrument,
  locks: ReadonlyMap<number, Way> = new Map(),
): Problem<Way> {
  const states = moments.map((moment) => planner.ways(moment, on));
  const settled = [...locks].map(([i, way]): [number, Way[]] => {
    const known = states[i]?.find((w) => planner.wayName(w, on) === planner.wayName(way, on));
    return [i, [known ?? way]];
  });
  return {
    states,
    locks: new Map(settled),
    local: planner.costs(moments, on),
    moves: planner.moves(moments, on),
    limits: planner.limits?.(moments, on) ?? [],
    moveLimits: planner.moveLimits?.(moments, on) ?? [],
  };
}

/** Plans how moments are played, or says which limits stand against each other, where, and which lock to loosen. */
export function planTechnique<Moment, Way>(
  planner: Planner<Moment, Way>,
  moments: readonly Moment[],
  on: Instrument,
  locks?: ReadonlyMap<number, Way>,
): TechniquePlan<Way> | Conflict {
  const problem = techniqueProblem(planner, moments, on, locks);
  const found = solve(problem);
  if (isConflict(found)) return found;
  const ways = found.path.map((way, i): PlannedWay<Way> => {
    const others = (problem.states[i] as readonly Way[]).filter((w) => w !== way);
    const priced = others.map((other) => ({ way: other, cost: priceOf(problem, found, i, i, () => [other]) }));
    const alternatives = priced.filter((p) => Number.isFinite(p.cost)).sort((a, b) => a.cost - b.cost);
    return { way, costs: costsAt(problem, found.path, i), alternatives };
  });
  return { cost: found.cost, broken: found.broken, ways };
}
