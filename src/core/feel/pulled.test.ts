import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { GROOVES, grooveOf, movedGroove, pulledGroove, shaped } from ".";

const jig = grooveOf("jig")!;
const whole = (groove: typeof jig) => groove.accents.map((weight, part) => ({ part, weight: weight / 100 }));
const starts = (shares: readonly number[], part: number) => shares.slice(0, part).reduce((a, b) => a + b, 0);
const moved = (groove: typeof jig, { accents, lean }: { accents: number[]; lean: number[] }) =>
  movedGroove(groove, { accents, lean: lean.map((l) => l / 1000) });

describe("a bar that is dragged", () => {
  test.each([
    // At dancing tempo all of the accent is heard, at practice half of it: the dance's own weight goes farther.
    [119, 100, 4, 0.3, 30],
    [75, 100, 4, 0.79, 58],
    [119, 50, 4, 0.65, 30],
    [119, 100, 0, 0, 5],
    [119, 0, 4, 0.2, 58],
  ])("at %d and %d percent part %d pulled to %d is kept as %d", (bpm, strength, part, weight, want) => {
    expect(pulledGroove(jig, { part, weight, share: 0.35 }, bpm, strength).accents[part]).toBe(want);
  });
  it("leaves every other part as it was", () => {
    const { accents } = pulledGroove(
      jig,
      { part: 4, weight: 0.3, share: starts(shaped(jig, 119).shares, 1) },
      119,
      100,
    );
    expect(accents.filter((_, i) => i !== 4)).toEqual(jig.accents.filter((_, i) => i !== 4));
  });
  it("on any dance goes where the hand is, in loudness and in time, within a hundredth", () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...GROOVES),
        fc.nat(23),
        fc.integer({ min: 45, max: 98 }),
        fc.integer({ min: -8, max: 8 }),
        fc.integer({ min: 60, max: 180 }),
        (groove, nth, percent, by, bpm) => {
          const part = nth % groove.accents.length;
          const now = shaped(groove, bpm);
          const share = starts(now.shares, part % groove.parts) + (part % groove.parts > 0 ? by / 100 : 0);
          const after = shaped(
            moved(groove, pulledGroove(groove, { part, weight: percent / 100, share }, bpm, 100)),
            bpm,
          );
          // What can be heard at this tempo at all: the mildest weight is half the accent off.
          const least =
            1 -
            (1 - 0.05) * ((1 - (shaped({ ...groove, accents: whole(groove).map(() => 0) }, bpm).weights[0] ?? 0)) / 1);
          expect(after.weights[part]!).toBeCloseTo(Math.max(least, percent / 100), 1.5);
          expect(starts(after.shares, part % groove.parts)).toBeCloseTo(share, 1.9);
          // Beats stay, and the beat stays whole.
          expect(after.shares.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 9);
        },
      ),
      { numRuns: 200 },
    );
  });
  it("never makes swing grow with tempo", () => {
    fc.assert(
      fc.property(fc.constantFrom(...GROOVES), fc.integer({ min: -20, max: 20 }), (groove, by) => {
        const share = starts(shaped(groove, 100).shares, 1) + by / 100;
        const leaning = moved(groove, pulledGroove(groove, { part: 1, weight: 0.7, share }, 100, 100));
        const first = [40, 80, 120, 160, 200, 240].map((bpm) => shaped(leaning, bpm).shares[0]!);
        for (const [i, faster] of first.slice(1).entries()) expect(faster).toBeLessThanOrEqual(first[i]! + 1e-9);
      }),
    );
  });
});
