import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { QUARTER } from "../score";
import { clockOf, takeClock } from ".";

const tempo = (at: number, bpm: number, beat = QUARTER) => ({ at: at * QUARTER, bpm, beat });
/** Four quarters at 120, then dotted quarters at 60: two quarters take 4/3 of a second. */
const two = clockOf({ tempos: [tempo(0, 120), tempo(4, 60, 1.5 * QUARTER)] });

describe("the clock of a performance", () => {
  test.each([
    [0, 0],
    [1, 0.5],
    [4, 2],
    [5.5, 3],
    [7, 4],
    [-2, -1],
  ])("quarter %d is at %d seconds", (quarter, seconds) => {
    expect(two.seconds(quarter * QUARTER)).toBeCloseTo(seconds, 9);
    expect(two.tick(seconds) / QUARTER).toBeCloseTo(quarter, 9);
  });

  it("counts a loop on, each time as long as the first, and counts in at its own tempo", () => {
    const loop = takeClock(two, 3 * QUARTER, 7 * QUARTER, true);
    expect([3, 4, 7, 8, 11].map((q) => loop.seconds(q * QUARTER).toFixed(4))).toEqual([
      "0.0000",
      "0.5000",
      "2.5000",
      "3.0000",
      "5.0000",
    ]);
    expect(loop.seconds(2 * QUARTER)).toBeCloseTo(-0.5, 9);
    expect(loop.tick(-0.5) / QUARTER).toBeCloseTo(2, 9);
  });

  const tempos = fc
    .array(fc.tuple(fc.integer({ min: 1, max: 40 }), fc.integer({ min: 20, max: 300 })), { maxLength: 6 })
    .map((steps) => {
      const all = [tempo(0, 90)];
      for (const [by, bpm] of steps) all.push(tempo(all.at(-1)!.at / QUARTER + by, bpm));
      return all;
    });
  it("goes to the tick of a second and back, and never backwards", () => {
    fc.assert(
      fc.property(tempos, fc.array(fc.double({ min: 0, max: 200, noNaN: true })), fc.boolean(), (all, when, loop) => {
        const clock = takeClock(clockOf({ tempos: all }), 2 * QUARTER, 30 * QUARTER, loop);
        const ordered = [...when].sort((a, b) => a - b);
        const ticks = ordered.map((s) => clock.tick(s));
        ticks.forEach((tick, i) => {
          expect(clock.seconds(tick)).toBeCloseTo(ordered[i]!, 6);
          expect(tick).toBeGreaterThanOrEqual(ticks[i - 1] ?? 0);
        });
      }),
    );
  });
});
