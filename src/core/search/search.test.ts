import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { costsAt, type Problem, solve, through } from ".";

/** A problem from tables of costs: states are their own indexes. */
const fromTables = (own: number[][], moves: number[][]): Problem<number> => ({
  states: own.map((row) => row.map((_, s) => s)),
  local: [{ name: "own", at: (i, s) => own[i]?.[s] ?? 0 }],
  moves: [{ name: "move", into: (_, a, b) => moves[a]?.[b] ?? 0 }],
});

/** Every path with its cost, the slow and certain way. */
function everyPath(problem: Problem<number>): { path: number[]; cost: number }[] {
  let paths: { path: number[]; cost: number }[] = [{ path: [], cost: 0 }];
  problem.states.forEach((states, i) => {
    paths = paths.flatMap(({ path, cost }) =>
      states.map((s) => ({
        path: [...path, s],
        cost:
          cost +
          (problem.local[0]?.at(i, s) ?? 0) +
          (i > 0 ? (problem.moves[0]?.into(i, path[i - 1] as number, s) ?? 0) : 0),
      })),
    );
  });
  return paths;
}

const cost = fc.integer({ min: 0, max: 40 }).map((n) => n / 4);
const tables = fc.record({
  own: fc.array(fc.array(cost, { minLength: 1, maxLength: 3 }), { minLength: 1, maxLength: 6 }),
  moves: fc.array(fc.array(cost, { minLength: 3, maxLength: 3 }), { minLength: 3, maxLength: 3 }),
});

describe("the dynamic program", () => {
  it("finds the cheapest path and every runner-up's exact cost", () => {
    fc.assert(
      fc.property(tables, ({ own, moves }) => {
        const problem = fromTables(own, moves);
        const all = everyPath(problem);
        const best = Math.min(...all.map((p) => p.cost));
        const found = solve(problem);
        expect(found.cost).toBeCloseTo(best, 9);
        expect(all.find((p) => p.path.join() === found.path.join())?.cost).toBeCloseTo(best, 9);
        problem.states.forEach((states, i) => {
          for (const s of states) {
            const forced = Math.min(...all.filter((p) => p.path[i] === s).map((p) => p.cost));
            expect(found.marginals[i]?.[s]).toBeCloseTo(forced - best, 9);
          }
        });
      }),
    );
  });

  it("prices a state held over several steps exactly", () => {
    fc.assert(
      fc.property(
        tables.filter(({ own }) => own.length >= 3 && own.every((r) => r.length === 3)),
        fc.nat(2),
        ({ own, moves }, state) => {
          const problem = fromTables(own, moves);
          const found = solve(problem);
          const forced = Math.min(
            ...everyPath(problem)
              .filter((p) => p.path[1] === state && p.path[2] === state)
              .map((p) => p.cost),
          );
          expect(through(problem, found, 1, 2, state)).toBeCloseTo(forced - found.cost, 9);
        },
      ),
    );
  });

  it("sums the named costs to the whole", () => {
    fc.assert(
      fc.property(tables, ({ own, moves }) => {
        const problem = fromTables(own, moves);
        const { path, cost: whole } = solve(problem);
        const sum = path.flatMap((_, i) => costsAt(problem, path, i)).reduce((total, c) => total + c.cost, 0);
        expect(sum).toBeCloseTo(whole, 9);
      }),
    );
  });

  it("takes the state listed first when costs are equal, and never a forbidden one", () => {
    expect(
      solve(
        fromTables(
          [
            [1, 1],
            [2, 2],
          ],
          [
            [0, 0],
            [0, 0],
          ],
        ),
      ).path,
    ).toEqual([0, 0]);
    expect(solve(fromTables([[Number.POSITIVE_INFINITY, 5]], [])).path).toEqual([1]);
    expect(() => solve(fromTables([[Number.POSITIVE_INFINITY]], []))).toThrow("No path keeps every rule.");
    expect(() => solve({ states: [[]], local: [], moves: [] })).toThrow("No state is open at step 0.");
  });
});
