import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type Learner, PLAYED_ROLES, ROLE_RULES, refusal, type RoleName } from "../../grading";
import { instrument, LEVELS } from "../../instruments";
import { assign, type Candidate, costOf, placesFor, roleCost } from "./assign";

const NAMES = ["fiddle", "viola", "cello", "guitar", "whistle", "mandolin", "hand drum", "bass", "voice", "accordion"];
const learner = (name: string, on: string, level: number): Learner => ({
  name,
  instrument: on,
  tuning: null,
  level: LEVELS[level]!,
  can: [],
  cannot: [],
  seat: "",
  notes: "",
});
function candidate(own: Learner, settled: RoleName | null = null, before: RoleName[] = []): Candidate {
  const on = instrument(own.instrument)!;
  const roles = new Map<RoleName, number>();
  for (const role of PLAYED_ROLES)
    if (!refusal(role, on, own.level, () => undefined)) roles.set(role, roleCost(role, { learner: own, on }, before));
  return { learner: own, on, roles, settled: settled && roles.has(settled) ? settled : null };
}
const CANDIDATES = (most: number) =>
  fc
    .array(fc.tuple(fc.constantFrom(...NAMES), fc.integer({ min: 0, max: 4 })), { minLength: 1, maxLength: most })
    .map((all) => all.map(([on, level], i) => candidate(learner(`Player ${i}`, on, level))));

/** The least that any roles cost, by trying all of them. */
function leastOf(candidates: readonly Candidate[]): number {
  let best = Number.POSITIVE_INFINITY;
  const roles: (RoleName | null)[] = [];
  const go = (i: number) => {
    if (i === candidates.length) {
      best = Math.min(best, costOf(candidates, roles));
      return;
    }
    // Of roles of one group only the cheapest can be best.
    const own = new Map<string, RoleName>();
    for (const [role, cost] of candidates[i]!.roles) {
      const { group } = ROLE_RULES[role];
      const known = own.get(group);
      if (!known || cost < candidates[i]!.roles.get(known)!) own.set(group, role);
    }
    for (const role of [...own.values(), null]) {
      roles[i] = role;
      go(i + 1);
    }
  };
  go(0);
  return best;
}

describe("who plays what", () => {
  it("costs as little as any roles there are, tried one by one for up to six players", () => {
    fc.assert(
      fc.property(CANDIDATES(6), (candidates) => {
        const { roles, cost } = assign(candidates);
        expect(costOf(candidates, roles)).toBeCloseTo(cost, 6);
        expect(cost).toBeCloseTo(leastOf(candidates), 6);
      }),
      { numRuns: 60 },
    );
  });
  it("gives everyone a role they can have, and names what is not met", () => {
    fc.assert(
      fc.property(CANDIDATES(20), (candidates) => {
        const { roles, unmet } = assign(candidates);
        roles.forEach((role, i) => {
          if (role) expect(candidates[i]!.roles.has(role)).toBe(true);
          else expect(unmet.join()).toContain(candidates[i]!.learner.name);
        });
        const strong = candidates.filter((c, i) => roles[i] && LEVELS.indexOf(c.learner.level) >= 3);
        const tune = strong.filter((c) => roles[candidates.indexOf(c)]?.endsWith("melody"));
        if (tune.length > 0) expect(unmet).not.toContain("the tune is carried");
      }),
      { numRuns: 60 },
    );
  });
  it("keeps what was settled by hand, and lets nobody have one role three times running", () => {
    const group = [0, 1, 2, 3, 4].map((i) => candidate(learner(`P${i}`, "fiddle", 3)));
    const settled = [candidate(learner("P0", "fiddle", 3), "drone"), ...group.slice(1)];
    expect(assign(settled).roles[0]).toBe("drone");
    const free = assign(group).roles[0]!;
    const tired = [candidate(learner("P0", "fiddle", 3), null, [free, free]), ...group.slice(1)];
    expect(assign(tired).roles[0]).not.toBe(free);
  });
  it("has places by how many play", () => {
    expect(placesFor(8)).toEqual({ tune: 4, harmony: 1, "long notes": 1, chords: 1, bass: 1, drum: 0 });
    expect(placesFor(14)).toEqual({ tune: 6, harmony: 2, "long notes": 2, chords: 2, bass: 1, drum: 1 });
    expect(placesFor(20).tune).toBe(8);
  });
});
