// Search: the one dynamic program behind every judgement. In: steps, the states open at each, named costs.
// Out: the cheapest path, what each cost added to it, and every runner-up's exact cost (min-marginals).

/** A cost paid for being in a state at a step. Infinity forbids the state. */
export type LocalCost<S> = { name: string; at: (step: number, state: S) => number };
/** A cost paid for going from one state to the next; `step` is where the move arrives. Infinity forbids the move. */
export type MoveCost<S> = { name: string; into: (step: number, from: S, to: S) => number };

export type Problem<S> = {
  /** States open at each step. A lock is a step with one state. */
  states: readonly (readonly S[])[];
  local: readonly LocalCost<S>[];
  moves: readonly MoveCost<S>[];
  /**
   * Names steps whose moves cost the same wherever their states are the same: their table is made once, and kept here
   * for problems with the same moves.
   */
  alike?: {
    name: (step: number) => number;
    made: Map<number, { before: readonly S[]; open: readonly S[]; table: Float64Array }[]>;
  };
};

export type Solution<S> = {
  /** Cheapest state of every step. Ties go to the state listed first. */
  path: S[];
  cost: number;
  /**
   * For each step, what the whole path would cost more if it went through each state: 0 for the best, exact for the
   * others.
   */
  marginals: number[][];
  /** Cheapest cost of reaching each state, its own included, and of going on from it, its own excluded. */
  forward: number[][];
  backward: number[][];
  /** Each state's own cost, and for each step the costs of the moves into it, row by row of the state left. */
  here: number[][];
  move: Float64Array[];
};

const total = <T>(costs: readonly T[], pay: (cost: T) => number) => {
  let sum = 0;
  for (const cost of costs) sum += pay(cost);
  return sum;
};

/**
 * Finds the cheapest path and all min-marginals by one pass forward and one back (Viterbi 1967).
 * Throws a RangeError when a step has no state, or when no path is allowed.
 */
export function solve<S>({ states, local, moves, alike }: Problem<S>): Solution<S> {
  if (states.length === 0) return { path: [], cost: 0, marginals: [], forward: [], backward: [], here: [], move: [] };
  const here = states.map((open, i) => {
    if (open.length === 0) throw new RangeError(`No state is open at step ${i}.`);
    return open.map((s) => total(local, (c) => c.at(i, s)));
  });
  // One flat table a step, row by row of the state left: the inner loops below touch nothing else.
  const move = states.map((open, i) => {
    const before = states[i - 1] ?? [];
    const shared = alike?.made.get(alike.name(i));
    const known = shared?.find((m) => m.before === before && m.open === open);
    if (known) return known.table;
    const table = new Float64Array(before.length * open.length);
    for (let a = 0, k = 0; a < before.length; a++) {
      for (let b = 0; b < open.length; b++, k++) {
        let sum = 0;
        for (let m = 0; m < moves.length; m++) sum += (moves[m] as MoveCost<S>).into(i, before[a] as S, open[b] as S);
        table[k] = sum;
      }
    }
    alike?.made.set(alike.name(i), [...(shared ?? []), { before, open, table }]);
    return table;
  });
  const forward = here.map((row) => [...row]);
  const came: number[][] = [[]];
  for (let i = 1; i < states.length; i++) {
    const [row, before, step] = [forward[i], forward[i - 1], move[i]] as [number[], number[], Float64Array];
    came.push(
      row.map((own, b) => {
        let best = Number.POSITIVE_INFINITY;
        let from = 0;
        for (let a = 0; a < before.length; a++) {
          const cost = (before[a] as number) + (step[a * row.length + b] as number);
          if (cost < best) [best, from] = [cost, a];
        }
        row[b] = own + best;
        return from;
      }),
    );
  }
  const backward = here.map((row) => row.map(() => 0));
  for (let i = states.length - 2; i >= 0; i--) {
    const [row, after, own, step] = [backward[i], backward[i + 1], here[i + 1], move[i + 1]] as [
      number[],
      number[],
      number[],
      Float64Array,
    ];
    for (let a = 0; a < row.length; a++) {
      let best = Number.POSITIVE_INFINITY;
      for (let b = 0; b < after.length; b++)
        best = Math.min(best, (after[b] as number) + (own[b] as number) + (step[a * after.length + b] as number));
      row[a] = best;
    }
  }
  const last = forward[states.length - 1] as number[];
  const cost = Math.min(...last);
  if (cost === Number.POSITIVE_INFINITY) throw new RangeError("No path keeps every rule.");
  const path: S[] = [];
  for (let i = states.length - 1, s = last.indexOf(cost); i >= 0; s = (came[i] as number[])[s] as number, i--)
    path.push((states[i] as readonly S[])[s] as S);
  const marginals = forward.map((row, i) =>
    row.map((f, s) => Math.max(0, f + ((backward[i] as number[])[s] as number) - cost)),
  );
  return { path: path.reverse(), cost, marginals, forward, backward, here, move };
}

/** What each named cost adds at one step of a path: the state's own costs, and those of the move into it. */
export function costsAt<S>(problem: Problem<S>, path: readonly S[], step: number): { name: string; cost: number }[] {
  const state = path[step] as S;
  const own = problem.local.map((c) => ({ name: c.name, cost: c.at(step, state) }));
  const arriving =
    step === 0 ? [] : problem.moves.map((c) => ({ name: c.name, cost: c.into(step, path[step - 1] as S, state) }));
  return [...own, ...arriving].filter((c) => c.cost !== 0);
}

/**
 * What the whole path would cost more if `state` held on every step from `from` to `to`: exact, the rest planned anew
 * around it.
 * The state need not be one of those open there.
 */
export function through<S>(problem: Problem<S>, solution: Solution<S>, from: number, to: number, state: S): number {
  const { states, local, moves } = problem;
  const { forward, backward, here, move } = solution;
  const order = (i: number) => states[i]?.indexOf(state) ?? -1;
  const priced = (i: number, a: S, b: S) => total(moves, (c) => c.into(i, a, b));
  const cheapest = (open: readonly S[], pay: (s: S, k: number) => number) =>
    open.reduce((least, s, k) => Math.min(least, pay(s, k)), Number.POSITIVE_INFINITY);
  const [first, last] = [order(from), order(to)];
  // Where the state is open at both ends, the passes forward and back already hold the best way in and out.
  const before =
    first >= 0
      ? (forward[from]?.[first] as number) - (here[from]?.[first] as number)
      : from === 0
        ? 0
        : cheapest(
            states[from - 1] as readonly S[],
            (s, k) => (forward[from - 1]?.[k] as number) + priced(from, s, state),
          );
  let held = 0;
  for (let i = from; i <= to; i++) {
    const [k, was] = [order(i), order(i - 1)];
    held += k >= 0 ? (here[i]?.[k] as number) : total(local, (c) => c.at(i, state));
    if (i > from)
      held += k >= 0 && was >= 0 ? (move[i]?.[was * (states[i]?.length ?? 0) + k] as number) : priced(i, state, state);
  }
  const next = states[to + 1];
  const after =
    last >= 0
      ? (backward[to]?.[last] as number)
      : next === undefined
        ? 0
        : cheapest(
            next,
            (s, k) => priced(to + 1, state, s) + (here[to + 1]?.[k] as number) + (backward[to + 1]?.[k] as number),
          );
  const cost = before + held + after - solution.cost;
  // A state forbidden on the way has no cost to speak of: infinity less infinity.
  return Number.isNaN(cost) ? Number.POSITIVE_INFINITY : cost;
}
