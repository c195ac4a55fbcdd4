import type { Problem, Solution } from "./model";
import { costHere, costInto, parted } from "./solve";

/** What each named wish adds at one step of a path: the state's own costs, and those of the move into it. */
export function costsAt<S>(problem: Problem<S>, path: readonly S[], step: number): { name: string; cost: number }[] {
  const state = path[step] as S;
  const own = problem.local.map((c) => ({ name: c.name, cost: c.at(step, state) }));
  const arriving =
    step === 0 ? [] : problem.moves.map((c) => ({ name: c.name, cost: c.into(step, path[step - 1] as S, state) }));
  return [...own, ...arriving].filter((c) => c.cost !== 0);
}

/**
 * What the whole path would cost more if every step from `from` to `to` were locked to `allowed`: exact, the rest
 * planned anew around it. Below 0 where a lock that stands there now costs more. Infinity where more limits would be
 * broken than now. The states need not be among those open there.
 */
export function priceOf<S>(
  problem: Problem<S>,
  solution: Solution<S>,
  from: number,
  to: number,
  allowed: (step: number) => readonly S[],
): number {
  const { open, here, move, forward, backward } = solution.passes;
  const locked = (step: number) => (step >= from && step <= to) || problem.locks?.has(step) === true;
  /** The place of a state among those the passes have priced under the same limits, or -1. */
  const placeIn = (step: number, state: S) => (problem.locks?.has(step) ? -1 : (open[step]?.indexOf(state) ?? -1));
  const own = (step: number, state: S, k: number) => {
    const cost = k >= 0 ? (here[step]?.[k] as number) : Infinity;
    // What breaks a limit by itself stands when it is locked.
    return cost < Infinity ? cost : costHere(problem, step, state, true);
  };
  /**
   * What a move costs: from the passes' table where both states are in it, unless a lock excuses what the table
   * forbids.
   */
  const into = (step: number, a: S, ka: number, b: S, kb: number) => {
    const excused = locked(step) && locked(step - 1);
    const known = ka >= 0 && kb >= 0 ? (move[step]?.[ka * (open[step]?.length ?? 0) + kb] as number) : undefined;
    if (known !== undefined && (known < Infinity || !excused)) return known;
    return costInto(problem, step, a, b, excused);
  };

  let states = allowed(from);
  let places = states.map((state) => placeIn(from, state));
  let reach = states.map((state, s) => arrival(state, places[s] as number));
  for (let step = from + 1; step <= to; step++) {
    const next = allowed(step);
    const nextPlaces = next.map((state) => placeIn(step, state));
    const [was, left, leftPlaces] = [reach, states, places];
    reach = next.map((b, n) => {
      const kb = nextPlaces[n] as number;
      let least = Infinity;
      for (let k = 0; k < left.length; k++) {
        const cost = (was[k] as number) + into(step, left[k] as S, leftPlaces[k] as number, b, kb);
        if (cost < least) least = cost;
      }
      return own(step, b, kb) + least;
    });
    [states, places] = [next, nextPlaces];
  }
  let sum = Infinity;
  for (let s = 0; s < states.length; s++) {
    const cost = (reach[s] as number) + onward(states[s] as S, places[s] as number);
    if (cost < sum) sum = cost;
  }
  if (sum === Infinity) return Infinity;
  const { cost, broken } = parted(sum);
  return broken > solution.broken.length ? Infinity : cost - solution.cost;

  /** The cheapest way to a state at the first step of the stretch, its own cost included. */
  function arrival(state: S, k: number): number {
    const known = k >= 0 && (from === 0 || !locked(from - 1)) ? (forward[from]?.[k] as number) : Infinity;
    if (known < Infinity) return known;
    if (from === 0) return own(from, state, k);
    const before = open[from - 1] as readonly S[];
    let least = Infinity;
    for (let a = 0; a < before.length; a++) {
      // States of a lock before the stretch are in the table too, but under the limits that hold there.
      const cost = (forward[from - 1]?.[a] as number) + into(from, before[a] as S, locked(from - 1) ? -1 : a, state, k);
      if (cost < least) least = cost;
    }
    return own(from, state, k) + least;
  }

  /** The cheapest way on from the last step of the stretch. */
  function onward(state: S, k: number): number {
    const after = open[to + 1];
    if (!after) return 0;
    if (k >= 0 && !locked(to + 1)) return backward[to]?.[k] as number;
    let least = Infinity;
    for (let b = 0; b < after.length; b++) {
      const rest = (here[to + 1]?.[b] as number) + (backward[to + 1]?.[b] as number);
      const cost = rest + into(to + 1, state, k, after[b] as S, locked(to + 1) ? -1 : b);
      if (cost < least) least = cost;
    }
    return least;
  }
}
