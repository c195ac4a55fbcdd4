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
 * What the whole path would cost more if every step from `from` to `to` were locked to `allowed`: exact, the rest planned anew
 * around it. Below 0 where a lock that stands there now costs more. Infinity where more limits would be broken than now.
 * The states need not be among those open there.
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
  /** Whether the passes already priced this state at this step under the same limits. */
  const known = (step: number, state: S) => (problem.locks?.has(step) ? -1 : (open[step]?.indexOf(state) ?? -1));
  const own = (step: number, state: S) => {
    const k = known(step, state);
    const cost = k >= 0 ? (here[step]?.[k] as number) : Number.POSITIVE_INFINITY;
    return Number.isFinite(cost) ? cost : costHere(problem, step, state, true);
  };
  const into = (step: number, a: S, b: S) => costInto(problem, step, a, b, locked(step) && locked(step - 1));
  /** The same, from the table where both states are in it and the limits are the same. */
  const entering = (a: number, state: S) => {
    const k = known(from, state);
    const before = (open[from - 1] as readonly S[])[a] as S;
    if (k >= 0 && !locked(from - 1)) return move[from]?.[a * (open[from]?.length ?? 0) + k] as number;
    return into(from, before, state);
  };
  let states = allowed(from);
  let reach = states.map((state) => {
    if (from === 0) return own(from, state);
    const before = forward[from - 1] as number[];
    return own(from, state) + before.reduce((least, f, a) => Math.min(least, f + entering(a, state)), Infinity);
  });
  for (let step = from + 1; step <= to; step++) {
    const next = allowed(step);
    const [was, left] = [reach, states];
    reach = next.map(
      (b) =>
        own(step, b) + left.reduce((least, a, k) => Math.min(least, (was[k] as number) + into(step, a, b)), Infinity),
    );
    states = next;
  }
  const sum = reach.reduce((least, r, k) => Math.min(least, r + onward(states[k] as S)), Infinity);
  if (sum === Infinity) return Infinity;
  const { cost, broken } = parted(sum);
  return broken > solution.broken.length ? Infinity : cost - solution.cost;

  /** The cheapest way on from the last step of the stretch. */
  function onward(state: S): number {
    const after = open[to + 1];
    if (!after) return 0;
    const k = known(to, state);
    if (k >= 0 && !locked(to + 1)) return backward[to]?.[k] as number;
    return after.reduce(
      (least, b, n) =>
        Math.min(least, into(to + 1, state, b) + (here[to + 1]?.[n] as number) + (backward[to + 1]?.[n] as number)),
      Infinity,
    );
  }
}
