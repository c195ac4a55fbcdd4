import { describe, expect, it } from "vitest";
import { tuneOf } from "../../../testing/abc";
import { jig, learner } from "../../../testing/jig";
import type { PartNote, RoleName } from "../../grading";
import { instrument, type Level } from "../../instruments";
import { beatTicks } from "../../score";
import { derive, newWork, planEvening } from "..";
import type { GroupPart } from "./model";
import { uncarried } from "./unmet";
import { wayInFor } from "./wayIn";

const part = (role: RoleName, level: Level, bars: readonly number[]) =>
  ({
    id: level,
    role,
    learner: learner("fiddle", level),
    notes: bars.map((bar): PartNote => ({ bar, at: 0, ticks: 5040, pitches: [69] })),
  }) as unknown as GroupPart;
const ALL = [0, 1, 2, 3, 4, 5, 6, 7];

describe("bars in which nobody carries the tune", () => {
  it("are none where one Fluent has all of it, and those where that one rests", () => {
    expect(uncarried(jig, [part("melody", "Fluent", ALL)])).toEqual([]);
    expect(uncarried(jig, [part("melody", "Fluent", [0, 1, 2, 3])])).toEqual([4, 5, 6, 7]);
  });
  it("want two where they are Moving, and do not count beginners", () => {
    const two = [part("melody", "Moving", ALL), part("simple melody", "Moving", [0, 1])];
    expect(uncarried(jig, two)).toEqual([2, 3, 4, 5, 6, 7]);
    expect(uncarried(jig, [part("simple melody", "Steady", ALL), part("melody", "Moving", ALL)])).toEqual(ALL);
  });
  it("are all of them where there is only harmony", () => {
    expect(uncarried(jig, [part("low harmony", "Leading", ALL)])).toEqual(ALL);
  });
});

describe("what is not met", () => {
  const TUNE = tuneOf("d2fd Adfd|e2ge Bege|d2fd Adfa|gfed d4|", { key: "D" });
  const { analysis, plan } = derive(newWork(TUNE));
  const tick = 60 / (90 * beatTicks(TUNE.metre));
  const evening = (...learners: ReturnType<typeof learner>[]) =>
    planEvening({ analysis, plan, tick, dance: "reel", learners });
  it("is nothing where someone Fluent is there", () => {
    expect(evening(learner("fiddle", "Fluent")).unmet).toEqual([]);
  });
  it("is the tune, bar by bar, where only beginners are", () => {
    const { unmet } = evening(learner("fiddle", "Steady"), learner("viola", "Steady", { name: "Ben" }));
    expect(unmet[0]).toMatchObject({ must: "the tune is carried", bars: [0, 1, 2, 3] });
    expect(unmet[0]?.wayOut).toContain("Take the melody yourself");
  });
  it("is a part for who has none, with a way to one that was tried", () => {
    const whistle = learner("Eb whistle", "First sounds", { name: "Cas" });
    const { unmet } = evening(learner("fiddle", "Fluent"), whistle);
    expect(unmet).toMatchObject([{ must: "a part for Cas on the Eb whistle", wayOut: "On the whistle there is one." }]);
  });
});

describe("ways to a part", () => {
  const candidate = (on: string, level: Level, more: Parameters<typeof learner>[2] = {}) => ({
    learner: learner(on, level, more),
    on: instrument(on)!,
    roles: new Map(),
    settled: null,
  });
  it("are another whistle, one word less, the next level, or another key", () => {
    expect(wayInFor(jig, candidate("Eb whistle", "First sounds"))).toBe("On the whistle there is one.");
    const narrow = candidate("voice", "Steady", { cannot: ["range:A2-C6"] });
    expect(wayInFor(jig, narrow)).toBe("Without “cannot range:A2-C6” there is one.");
  });
});
