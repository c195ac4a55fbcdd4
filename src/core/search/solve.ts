import type { Broken, Conflict, Passes, Problem, Solution } from "./model";

/**
 * What a broken limit weighs inside the passes: more than all wishes together, so that as few as possible are broken,
 * and a power of two, so that taking it off again leaves the wishes exact.
 */
const BROKEN = 2 ** 20;

/** A sum of the passes as wishes and broken limits. */
export function parted(sum: number): { cost: number; broken: number } {
  const broken = Math.round(sum / BROKEN);
  return { cost: sum - broken * BROKEN, broken };
}

/** Whether limits are forgiven at a step: at locks, or everywhere when a conflict is to be named. */
type Forgiving = (step: number) => boolean;

/** What a state costs by itself. Infinity where it breaks a limit that is not forgiven. */
export function costHere<S>({ local, limits = [] }: Problem<S>, step: number, state: S, forgiven: boolean): number {
  let sum = 0;
  for (const limit of limits) {
    if (!limit.broken(step, state)) continue;
    if (!forgiven) return Number.POSITIVE_INFINITY;
    sum += BROKEN;
  }
  for (const cost of local) sum += cost.at(step, state);
  return sum;
}

/**
 * What a move costs. A limit on moves is forgiven only between two forgiven steps: a lock does not excuse its
 * neighbour.
 */
export function costInto<S>(
  { moves, moveLimits = [] }: Problem<S>,
  step: number,
  from: S,
  to: S,
  forgiven: boolean,
): number {
  let sum = 0;
  for (let m = 0; m < moveLimits.length; m++) {
    if (!moveLimits[m]?.broken(step, from, to)) continue;
    if (!forgiven) return Number.POSITIVE_INFINITY;
    sum += BROKEN;
  }
  for (let m = 0; m < moves.length; m++) sum += (moves[m] as (typeof moves)[number]).into(step, from, to);
  return sum;
}

/** One flat table of moves into a step, row by row of the state left: the passes touch nothing else. */
function moveTable<S>(
  problem: Problem<S>,
  step: number,
  before: readonly S[],
  open: readonly S[],
  forgiven: boolean,
): Float64Array {
  const { alike } = problem;
  const shared = forgiven ? undefined : alike && sharedTables(alike, step, before);
  const known = shared?.get(open);
  if (known) return known;
  const table = new Float64Array(before.length * open.length);
  for (let a = 0, k = 0; a < before.length; a++) {
    for (let b = 0; b < open.length; b++, k++) {
      table[k] = costInto(problem, step, before[a] as S, open[b] as S, forgiven);
    }
  }
  shared?.set(open, table);
  return table;
}

/** Tables of the moves that leave some states, for every step that is alike. */
function sharedTables<S>(
  { name, made }: NonNullable<Problem<S>["alike"]>,
  step: number,
  before: readonly S[],
): WeakMap<readonly S[], Float64Array> {
  const named = made.get(name(step)) ?? new WeakMap();
  made.set(name(step), named);
  const own = named.get(before) ?? new WeakMap();
  named.set(before, own);
  return own;
}

/** The moves of a table that are possible, where most are not: from, to, and what they cost. */
type Possible = { from: Int32Array; to: Int32Array; cost: Float64Array };
/** Share of a table from which it is walked whole. */
const FULL = 1 / 3;
const known = new WeakMap<Float64Array, Possible | null>();

/** The possible moves of a table, row by row; null where there are so many that the table is walked whole. */
function possibleIn(table: Float64Array, width: number): Possible | null {
  const found = known.get(table);
  if (found !== undefined) return found;
  let count = 0;
  for (let k = 0; k < table.length; k++) if ((table[k] as number) < Infinity) count++;
  let made: Possible | null = null;
  if (count < table.length * FULL) {
    made = { from: new Int32Array(count), to: new Int32Array(count), cost: new Float64Array(count) };
    for (let k = 0, n = 0; k < table.length; k++) {
      const cost = table[k] as number;
      if (cost === Infinity) continue;
      made.from[n] = Math.floor(k / width);
      made.to[n] = k % width;
      made.cost[n] = cost;
      n++;
    }
  }
  known.set(table, made);
  return made;
}

/** What it costs to reach each state of a step from those before it, without its own cost, and from which one. */
function reached(before: readonly number[], width: number, table: Float64Array): { least: number[]; from: number[] } {
  const least = new Array<number>(width).fill(Number.POSITIVE_INFINITY);
  const from = new Array<number>(width).fill(0);
  const possible = possibleIn(table, width);
  if (possible) {
    for (let n = 0; n < possible.cost.length; n++) {
      const a = possible.from[n] as number;
      const b = possible.to[n] as number;
      const cost = (before[a] as number) + (possible.cost[n] as number);
      if (cost >= (least[b] as number)) continue;
      least[b] = cost;
      from[b] = a;
    }
    return { least, from };
  }
  for (let b = 0; b < width; b++) {
    let best = Number.POSITIVE_INFINITY;
    let came = 0;
    for (let a = 0; a < before.length; a++) {
      const cost = (before[a] as number) + (table[a * width + b] as number);
      if (cost >= best) continue;
      best = cost;
      came = a;
    }
    least[b] = best;
    from[b] = came;
  }
  return { least, from };
}

/** The pass forward and the pass back (Viterbi 1967), and from which state each one was best reached. */
function passesOf<S>(problem: Problem<S>, forgiving: Forgiving): Passes<S> & { came: number[][] } {
  const open = problem.states.map((states, i) => problem.locks?.get(i) ?? states);
  const here = open.map((states, i) => states.map((s) => costHere(problem, i, s, forgiving(i))));
  const move = open.map((states, i) =>
    i === 0
      ? new Float64Array()
      : moveTable(problem, i, open[i - 1] as readonly S[], states, forgiving(i) && forgiving(i - 1)),
  );
  const forward = here.map((row) => [...row]);
  const came: number[][] = [[]];
  for (let i = 1; i < open.length; i++) {
    const [row, before, step] = [forward[i], forward[i - 1], move[i]] as [number[], number[], Float64Array];
    const { least, from } = reached(before, row.length, step);
    for (let b = 0; b < row.length; b++) row[b] = (row[b] as number) + (least[b] as number);
    came.push(from);
  }
  return { open, here, move, forward, backward: backwardPass(here, move), came };
}

function backwardPass(here: readonly number[][], move: readonly Float64Array[]): number[][] {
  const backward = here.map((row) => row.map(() => 0));
  for (let i = here.length - 2; i >= 0; i--) {
    const [row, after] = [backward[i], backward[i + 1]] as [number[], number[]];
    const [own, step] = [here[i + 1], move[i + 1]] as [number[], Float64Array];
    const possible = possibleIn(step, after.length);
    if (possible) {
      row.fill(Number.POSITIVE_INFINITY);
      for (let n = 0; n < possible.cost.length; n++) {
        const a = possible.from[n] as number;
        const b = possible.to[n] as number;
        const cost = (after[b] as number) + (own[b] as number) + (possible.cost[n] as number);
        if (cost < (row[a] as number)) row[a] = cost;
      }
      continue;
    }
    for (let a = 0; a < row.length; a++) {
      let best = Number.POSITIVE_INFINITY;
      for (let b = 0; b < after.length; b++) {
        const cost = (after[b] as number) + (own[b] as number) + (step[a * after.length + b] as number);
        if (cost < best) best = cost;
      }
      row[a] = best;
    }
  }
  return backward;
}

/** The cheapest way through the passes, and the sum it costs there; no path where everything is forbidden. */
function best<S>({ open, forward, came }: ReturnType<typeof passesOf<S>>): { path: S[]; sum: number } {
  const last = forward[forward.length - 1] ?? [];
  const sum = last.reduce((a, b) => Math.min(a, b), Number.POSITIVE_INFINITY);
  if (sum === Number.POSITIVE_INFINITY) return { path: [], sum };
  const path: S[] = [];
  for (let i = open.length - 1, s = last.indexOf(sum); i >= 0; i--) {
    path.push((open[i] as readonly S[])[s] as S);
    s = (came[i] as number[])[s] as number;
  }
  return { path: path.reverse(), sum };
}

/** Limits that do not hold along a path. */
function brokenAlong<S>({ limits = [], moveLimits = [] }: Problem<S>, path: readonly S[]): Broken[] {
  return path.flatMap((state, step) => [
    ...limits.filter((l) => l.broken(step, state)).map((l) => ({ limit: l.name, step })),
    ...(step === 0 ? [] : moveLimits)
      .filter((l) => l.broken(step, path[step - 1] as S, state))
      .map((l) => ({ limit: l.name, step })),
  ]);
}

/**
 * The cheapest path that keeps every limit, with all min-marginals; or the conflict, where there is none.
 * A locked step stands whatever it breaks by itself, and so does the move between two of them; both are then named.
 */
export function solve<S>(problem: Problem<S>): Solution<S> | Conflict {
  if (problem.states.length === 0) {
    return { path: [], cost: 0, broken: [], marginals: [], passes: passesOf(problem, () => false) };
  }
  const passes = passesOf(problem, (step) => problem.locks?.has(step) === true);
  const { path, sum } = best(passes);
  if (path.length === 0) return conflictOf(problem);
  const marginals = passes.forward.map((row, i) =>
    row.map((f, s) => Math.max(0, f + ((passes.backward[i] as number[])[s] as number) - sum)),
  );
  const { cost, broken } = parted(sum);
  return { path, cost, broken: broken > 0 ? brokenAlong(problem, path) : [], marginals, passes };
}

/**
 * Which limits stand in each other's way where no path keeps them all, by the path that breaks fewest; and what to
 * loosen.
 */
function conflictOf<S>(problem: Problem<S>): Conflict {
  const bare = problem.states.findIndex((open, i) => (problem.locks?.get(i) ?? open).length === 0);
  if (bare >= 0) return { conflict: [{ limit: "nothing is open here", step: bare }], loosen: [] };
  const { path, sum } = best(passesOf(problem, () => true));
  const locked = [...(problem.locks?.keys() ?? [])];
  const loosen = locked.filter((step) => {
    const locks = new Map(problem.locks);
    locks.delete(step);
    return best(passesOf({ ...problem, locks }, () => true)).sum < sum - BROKEN / 2;
  });
  const excused = (step: number) => problem.locks?.has(step) === true;
  const all = brokenAlong(problem, path);
  const unexcused = all.filter(({ step }) => !excused(step) || (step > 0 && !excused(step - 1)));
  return { conflict: unexcused.length > 0 ? unexcused : all, loosen: loosen.sort((a, b) => a - b) };
}

/** A conflict as an error that says its sentence, for plans that always have a way to keep every limit. */
export class ConflictError extends Error {
  constructor(readonly found: Conflict) {
    const { conflict, loosen } = found;
    const places = conflict.map(({ limit, step }) => `"${limit}" at step ${step + 1}`).join(" and ");
    const locks = loosen.map((step) => step + 1).join(", ");
    super(`No plan keeps ${places}.${locks ? ` Loosen the lock at step ${locks}.` : ""}`);
  }
}

export const isConflict = <T extends object>(found: T | Conflict): found is Conflict => "conflict" in found;

/** The solution of a problem that always has one. Throws a ConflictError otherwise. */
export function solved<S>(problem: Problem<S>): Solution<S> {
  const found = solve(problem);
  if (isConflict(found)) throw new ConflictError(found);
  return found;
}
