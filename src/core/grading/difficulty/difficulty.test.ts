import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { arbitraryTune } from "../../../testing/arbitraryTune";
import { tuneOf } from "../../../testing/abc";
import { instrument } from "../../instruments";
import { beatTicks, places } from "../../score";
import { difficultyOf, weightOf } from "./measure";
import { FEATURES } from "./features";

const of = (abc: string, { key = "D", metre = "4/4", bpm = 90, on = "fiddle" } = {}) => {
  const from = places(tuneOf(abc, { key, metre }));
  const tick = 60 / (bpm * beatTicks(from[0]!.metre));
  return difficultyOf(
    from,
    from.map((p) => p.bar.events),
    instrument(on)!,
    tick,
  );
};
const hard = (...args: Parameters<typeof of>) => of(...args).difficulty;

describe("how hard a part is", () => {
  it("is the sum of its features' points, and says it for every bar", () => {
    const { difficulty, features, bars } = of("d2fd Adfd|e2ge Bege|");
    expect(features.reduce((s, f) => s + f.points, 0)).toBeCloseTo(difficulty, 9);
    expect(features.map((f) => f.name)).toEqual(FEATURES.map((f) => f.name));
    expect(bars).toHaveLength(2);
  });
  test.each([
    ["long open strings before a running reel", "D8|D8|A8|D8|", "d2fd Adfd|e2ge Bege|d2fd Adfa|gfed d4|"],
    ["quarters before eighths", "D2E2 F2G2|A2G2 F2E2|", "DEFG ABcd|AGFE DEFG|"],
    ["steps before leaps", "DEFG AGFE|", "DAFd AFdA|"],
    ["plain before graced", "D2E2 F2G2|A2G2 F2E2|", "{E}D2{F}E2 {G}F2{A}G2|{B}A2{A}G2 {G}F2E2|"],
    ["even before snapped", "DDEE FFGG|", "D<DE<E F<FG<G|"],
    ["one octave before two", "DEFG ABcd|", "G,B,DG Bdgb|"],
  ])("%s", (_, easy, harder) => expect(hard(easy)).toBeLessThan(hard(harder)));
  it("a key far from the hand is harder than a near one", () => {
    expect(hard("DEFG A2A2|", { key: "D" })).toBeLessThan(hard("DEFG A2A2|", { key: "Ab" }));
    const scale = "DEFG ABcd|";
    expect(hard(scale, { on: "whistle", key: "D" })).toBeLessThan(hard(scale, { on: "whistle", key: "F" }));
  });
  it("no feature takes points away", () => {
    for (const f of FEATURES) expect(weightOf(f.name), f.name).toBeGreaterThanOrEqual(0);
  });
  it("slower is never harder, on any tune and instrument", () => {
    const on = fc.constantFrom("fiddle", "mandolin", "whistle", "guitar", "piano", "cello");
    fc.assert(
      fc.property(arbitraryTune({ maxBars: 6 }), on, fc.integer({ min: 40, max: 160 }), (tune, name, bpm) => {
        const from = places(tune);
        const at = (b: number) =>
          difficultyOf(
            from,
            from.map((p) => p.bar.events),
            instrument(name)!,
            60 / (b * beatTicks(tune.metre)),
          );
        expect(at(bpm * 0.7).difficulty).toBeLessThanOrEqual(at(bpm).difficulty + 1e-9);
      }),
      { numRuns: 120 },
    );
  });
  it("ornaments, when they are added, never make it easier; it stays within a hundred", () => {
    fc.assert(
      fc.property(arbitraryTune({ maxBars: 5 }), (tune) => {
        const from = places(tune);
        const tick = 60 / (100 * beatTicks(tune.metre));
        const plain = from.map((p) => p.bar.events.map(({ grace: _, marks: _m, ...e }) => e));
        const rolled = plain.map((bar) => bar.map((e) => (e.pitches.length ? { ...e, marks: ["roll" as const] } : e)));
        const [a, b] = [plain, rolled].map((bars) => difficultyOf(from, bars, instrument("fiddle")!, tick).difficulty);
        expect(b!).toBeGreaterThanOrEqual(a! - 1e-9);
        expect(b!).toBeLessThanOrEqual(100);
      }),
      { numRuns: 80 },
    );
  });
});
