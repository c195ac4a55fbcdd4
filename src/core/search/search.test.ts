import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { ConflictError, costsAt, isConflict, type Problem, priceOf, type Solution, solve, solved } from ".";

/** A problem from tables of costs, with forbidden states and moves; states are their own indexes. */
type Tables = { own: number[][]; moves: number[][]; bad: boolean[][]; badMoves: boolean[][]; locks: (number | null)[] };
const problemOf = ({ own, moves, bad, badMoves, locks }: Tables): Problem<number> => ({
  states: own.map((row) => row.map((_, s) => s)),
  locks: new Map(locks.flatMap((s, i) => (s === null || i >= own.length ? [] : [[i, [s]] as [number, number[]]]))),
  local: [{ name: "own", at: (i, s) => own[i]?.[s] ?? 0 }],
  moves: [{ name: "move", into: (_, a, b) => moves[a]?.[b] ?? 0 }],
  limits: [{ name: "bad state", broken: (i, s) => bad[i]?.[s] === true }],
  moveLimits: [{ name: "bad move", broken: (_, a, b) => badMoves[a]?.[b] === true }],
});
const plain = (own: number[][], moves: number[][] = []): Problem<number> =>
  problemOf({ own, moves, bad: [], badMoves: [], locks: [] });

/** Every path with its cost and what it breaks, excused or not, the slow and certain way. */
function everyPath(problem: Problem<number>) {
  let paths: number[][] = [[]];
  problem.states.forEach((states, i) => {
    paths = paths.flatMap((path) => (problem.locks?.get(i) ?? states).map((s) => [...path, s]));
  });
  return paths.map((path) => {
    let [cost, excused, unexcused] = [0, 0, 0];
    path.forEach((s, i) => {
      const before = path[i - 1] as number;
      cost += problem.local[0]?.at(i, s) ?? 0;
      if (i > 0) cost += problem.moves[0]?.into(i, before, s) ?? 0;
      const locked = problem.locks?.has(i) === true;
      const between = locked && problem.locks?.has(i - 1) === true;
      if (problem.limits?.[0]?.broken(i, s)) locked ? excused++ : unexcused++;
      if (i > 0 && problem.moveLimits?.[0]?.broken(i, before, s)) between ? excused++ : unexcused++;
    });
    return { path, cost, excused, unexcused };
  });
}

const cost = fc.integer({ min: -8, max: 40 }).map((n) => n / 4);
const three = <T>(of: fc.Arbitrary<T>) => fc.array(of, { minLength: 3, maxLength: 3 });
const rare = fc.integer({ min: 0, max: 3 }).map((n) => n === 0);
const tables: fc.Arbitrary<Tables> = fc.record({
  own: fc.array(three(cost), { minLength: 1, maxLength: 5 }),
  moves: three(three(cost)),
  bad: fc.array(three(rare), { maxLength: 5 }),
  badMoves: three(three(rare)),
  locks: fc.array(fc.option(fc.nat(2), { freq: 2 }), { minLength: 5, maxLength: 5 }),
});

describe("the dynamic program", () => {
  it("finds the cheapest path that keeps every limit, or says that there is none", () => {
    fc.assert(
      fc.property(tables, (t) => {
        const problem = problemOf(t);
        const allowed = everyPath(problem).filter((p) => p.unexcused === 0);
        const found = solve(problem);
        expect(isConflict(found)).toBe(allowed.length === 0);
        if (isConflict(found)) {
          expect(found.conflict.length).toBeGreaterThan(0);
          for (const { step } of found.conflict) expect(step).toBeLessThan(t.own.length);
          for (const step of found.loosen) expect(problem.locks?.has(step)).toBe(true);
          return;
        }
        // As few limits as can be are broken by locks, and of those paths the cheapest is taken.
        const fewest = Math.min(...allowed.map((p) => p.excused));
        const best = Math.min(...allowed.filter((p) => p.excused === fewest).map((p) => p.cost));
        expect(found.cost).toBeCloseTo(best, 9);
        expect(found.broken).toHaveLength(fewest);
        expect(allowed.find((p) => p.path.join() === found.path.join())?.cost).toBeCloseTo(best, 9);
      }),
      { numRuns: 300 },
    );
  });
  it("prices any state over any stretch as what locking it and solving again costs more", () => {
    const stretch = fc.tuple(fc.nat(4), fc.nat(4), fc.nat(2));
    fc.assert(
      fc.property(tables, stretch, (t, [a, b, state]) => {
        const problem = problemOf(t);
        const found = solve(problem);
        if (isConflict(found)) return;
        const [from, to] = [Math.min(a, b) % t.own.length, Math.max(a, b) % t.own.length].sort() as [number, number];
        const locks = new Map(problem.locks);
        for (let i = from; i <= to; i++) locks.set(i, [state]);
        const again = solve({ ...problem, locks });
        const price = priceOf(problem, found, from, to, () => [state]);
        const worse = isConflict(again) || again.broken.length > found.broken.length;
        if (worse) expect(price).toBe(Number.POSITIVE_INFINITY);
        else expect(price).toBeCloseTo((again as Solution<number>).cost - found.cost, 9);
      }),
      { numRuns: 400 },
    );
  });
  it("gives every free state's exact price at once", () => {
    fc.assert(
      fc.property(tables, (t) => {
        const problem = problemOf(t);
        const found = solve(problem);
        if (isConflict(found)) return;
        problem.states.forEach((states, i) => {
          if (problem.locks?.has(i)) return;
          for (const s of states) {
            const price = priceOf(problem, found, i, i, () => [s]);
            const marginal = found.marginals[i]?.[s] as number;
            if (Number.isFinite(marginal) && marginal < 1e5) expect(price).toBeCloseTo(marginal, 9);
          }
        });
      }),
    );
  });
  it("sums the named costs to the whole", () => {
    fc.assert(
      fc.property(tables, (t) => {
        const problem = problemOf(t);
        const found = solve(problem);
        if (isConflict(found)) return;
        const paid = found.path.flatMap((_, i) => costsAt(problem, found.path, i));
        expect(paid.reduce((total, c) => total + c.cost, 0)).toBeCloseTo(found.cost, 9);
      }),
    );
  });
  it("takes the state listed first when costs are equal", () => {
    const even = plain(
      [
        [1, 1],
        [2, 2],
      ],
      [
        [0, 0],
        [0, 0],
      ],
    );
    expect(solved(even).path).toEqual([0, 0]);
  });
});

describe("musts and locks, by hand", () => {
  const base: Tables = {
    own: [
      [0, 5],
      [0, 5],
      [0, 5],
    ],
    moves: [],
    bad: [],
    badMoves: [],
    locks: [],
  };
  it("a wish gives way to a must", () => {
    expect(solved(problemOf({ ...base, bad: [[], [true, false]] })).path).toEqual([0, 1, 0]);
  });
  it("a lock that breaks a limit by itself stands, is named, and keeps its cost", () => {
    const found = solved(problemOf({ ...base, bad: [[], [true, true]], locks: [null, 1] }));
    expect([found.path, found.cost, found.broken]).toEqual([[0, 1, 0], 5, [{ limit: "bad state", step: 1 }]]);
  });
  it("two locks beside each other are not parted by a limit on moves; a free neighbour keeps it", () => {
    const badMoves = [[], [false, true]];
    const both = solved(problemOf({ ...base, badMoves, locks: [null, 1, 1] }));
    expect([both.path, both.broken]).toEqual([[0, 1, 1], [{ limit: "bad move", step: 2 }]]);
    const one = solved(
      problemOf({
        ...base,
        own: [
          [0, 5],
          [0, 5],
          [9, 5],
        ],
        badMoves,
        locks: [null, 1],
      }),
    );
    expect([one.path, one.broken]).toEqual([[0, 1, 0], []]);
  });
  it("names limit, place and the lock to loosen where nothing is left", () => {
    // From state 1 nothing may follow; it is locked in the middle.
    const found = solve(problemOf({ ...base, badMoves: [[], [true, true]], locks: [null, 1] }));
    expect(found).toEqual({ conflict: [{ limit: "bad move", step: 2 }], loosen: [1] });
    expect(() => solved(problemOf({ ...base, badMoves: [[], [true, true]], locks: [null, 1] }))).toThrow(
      'No plan keeps "bad move" at step 3. Loosen the lock at step 2.',
    );
  });
  it("says where nothing is open at all, and where limits alone leave no way", () => {
    expect(solve({ states: [[0], []], local: [], moves: [] })).toEqual({
      conflict: [{ limit: "nothing is open here", step: 1 }],
      loosen: [],
    });
    const found = solve(problemOf({ ...base, bad: [[true, true]] }));
    expect(found).toEqual({ conflict: [{ limit: "bad state", step: 0 }], loosen: [] });
    expect(new ConflictError({ conflict: [{ limit: "in reach", step: 0 }], loosen: [] }).message).toBe(
      'No plan keeps "in reach" at step 1.',
    );
  });
  it("has an empty plan for no steps", () => {
    expect(solved<number>({ states: [], local: [], moves: [] })).toMatchObject({ path: [], cost: 0 });
  });
});
