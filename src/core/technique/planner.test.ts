import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { FIDDLE, INSTRUMENTS, instrument } from "../instruments";
import { isConflict } from "../search";
import { chord, midi, parsePitch, pitchName } from "../theory";
import { HELD_NOTES, type HeldMoment, type HeldNote, type Planner, planTechnique, type TechniquePlan } from ".";

const moments = (symbols: string, hurried = false): HeldMoment[] =>
  symbols.split(" ").map((symbol) => ({ symbol, hurried }));
function planned(symbols: string, hurried = false, on = FIDDLE): TechniquePlan<HeldNote> {
  const found = planTechnique(HELD_NOTES, moments(symbols, hurried), on);
  if (isConflict(found)) throw new Error("a conflict");
  return found;
}
const names = (plan: TechniquePlan<HeldNote>) => plan.ways.map(({ way }) => (way ? pitchName(way.pitch) : "rest"));

describe("held notes on the fiddle", () => {
  test.each([
    ["D G D", 0],
    ["A D A", 0],
    ["Em A Em", 0],
    ["F#m", 1],
  ])("%s: no finger beyond the %d.", (symbols, finger) => {
    const fingers = planned(symbols).ways.map(({ way }) => way?.placement.finger);
    expect(Math.max(...fingers.map((f) => f ?? 9))).toBeLessThanOrEqual(finger);
  });
  it("stays on a note that its chords share", () => {
    expect(new Set(names(planned("D G D"))).size).toBe(1);
  });
  it("keeps a shared note through chords that are too quick to change", () => {
    const slow = names(planned("D A D A"));
    const quick = names(planned("D A D A", true));
    expect(new Set(quick).size).toBe(1);
    expect(new Set(quick).size).toBeLessThanOrEqual(new Set(slow).size);
  });
  it("rests under a chord that an instrument has nothing of", () => {
    const [lowest, highest] = [parsePitch("C#4"), parsePitch("D4")];
    const narrow = { ...instrument("voice")!, lowest, highest };
    expect(names(planned("F D", false, narrow))).toEqual(["rest", "D4"]);
  });
});

describe("any plan of technique", () => {
  const symbols = fc.array(fc.constantFrom("D", "G", "A7", "Em", "Bm", "F#m", "C", "Bb", "Edim"), {
    minLength: 1,
    maxLength: 8,
  });
  const on = fc.constantFrom(...INSTRUMENTS);
  const made = (list: string[], i: typeof FIDDLE, locks?: Map<number, HeldNote>) => {
    const found = planTechnique(
      HELD_NOTES,
      list.map((symbol) => ({ symbol, hurried: symbol.length > 1 })),
      i,
      locks,
    );
    if (isConflict(found)) throw new Error("a conflict");
    return found;
  };

  it("takes notes of the chord, in range, and says what it paid by name", () => {
    fc.assert(
      fc.property(symbols, on, (list, i) => {
        const plan = made(list, i);
        plan.ways.forEach(({ way }, k) => {
          if (!way) return;
          expect(chord(list[k]!).classes).toContain(midi(way.pitch) % 12);
          expect(midi(way.pitch)).toBeGreaterThanOrEqual(midi(i.lowest));
          expect(midi(way.pitch)).toBeLessThanOrEqual(midi(i.highest));
        });
        const paid = plan.ways.flatMap(({ costs }) => costs).reduce((sum, c) => sum + c.cost, 0);
        expect(paid).toBeCloseTo(plan.cost, 6);
      }),
      { numRuns: 60 },
    );
  });
  it("prices every other way exactly: what the whole costs more when it is settled and all is planned again", () => {
    fc.assert(
      fc.property(symbols, on, fc.nat(), (list, i, pick) => {
        const plan = made(list, i);
        const k = pick % list.length;
        for (const { way, cost } of plan.ways[k]!.alternatives) {
          const again = made(list, i, new Map([[k, way]]));
          expect(again.cost - plan.cost).toBeCloseTo(cost, 6);
          expect(HELD_NOTES.wayName(again.ways[k]!.way, i)).toBe(HELD_NOTES.wayName(way, i));
        }
      }),
      { numRuns: 40 },
    );
  });
  it("keeps a settled way whatever it costs, even one it would not offer", () => {
    const odd: HeldNote = {
      pitch: { step: "C", alter: 1, octave: 5 },
      placement: { string: 2, finger: 2, low: false },
    };
    const plan = made(["D", "G"], FIDDLE, new Map([[1, odd]]));
    expect(plan.ways[1]!.way).toEqual(odd);
  });
  it("names the limits that stand against each other, where, and what to loosen", () => {
    type Finger = { finger: number };
    const strict: Planner<number, Finger> = {
      name: "fingers",
      ways: () => [{ finger: 1 }, { finger: 3 }],
      wayName: ({ finger }) => `finger ${finger}`,
      costs: () => [{ name: "finger", at: (_, { finger }) => finger }],
      moves: () => [],
      limits: (all) => [{ name: "first finger there", broken: (i, { finger }) => all[i] === 1 && finger !== 1 }],
      moveLimits: () => [{ name: "never the same finger twice", broken: (_, a, b) => a.finger === b.finger }],
    };
    const free = planTechnique(strict, [0, 1, 0], FIDDLE);
    expect(isConflict(free) ? free : free.ways.map((w) => w.way.finger)).toEqual([3, 1, 3]);
    const stuck = planTechnique(strict, [1, 1], FIDDLE);
    expect(isConflict(stuck)).toBe(true);
    if (!isConflict(stuck)) return;
    expect(JSON.stringify(stuck)).toContain("never the same finger twice");
  });
});
