import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { arbitraryTune } from "../../testing/arbitraryTune";
import { tuneOf } from "../../testing/abc";
import { FIDDLE } from "../instruments";
import { beatTicks, places } from "../score";
import { pitchName } from "../theory";
import { ladder } from ".";
import { STEPS } from "./steps";

const ON = { key: { tonic: "D", mode: "major" } as const, on: FIDDLE };
const taken = (name: string, abc: string, metre = "4/4") => {
  const from = places(tuneOf(abc, { key: "D", metre }));
  const bars = STEPS.find((s) => s.name === name)!.take(
    from.map((p) => p.bar.events),
    { places: from, ...ON },
  );
  return bars
    ?.map((bar) =>
      bar
        .map((e) => {
          const grace = e.grace ? `{${pitchName(e.grace[0]!.pitches[0]!)}}` : "";
          return `${grace}${e.pitches.map(pitchName).join("+") || "z"}:${e.ticks / 1680}${e.marks?.length ? "~" : ""}`;
        })
        .join(" "),
    )
    .join(" | ");
};

describe("steps, on bars a player knows", () => {
  test.each([
    ["without ornaments", "{e}d2fd {b}A4|", "4/4", "D5:2 F#5:1 D5:1 A4:4"],
    ["long and short", "F2A dAF|", "6/8", "F#4:2 A4:1 D5:2 F#4:1"],
    ["the beats", "d2fd Adfd|", "4/4", "D5:2 F#5:2 A4:2 F#5:2"],
    ["the beats", "F2A dAF|", "6/8", "F#4:3 D5:3"],
    ["the bar", "d2f2 A2f2|", "4/4", "D5:8"],
    ["shuffled held notes", "d4 A2A2|", "4/4", "D5:2 D5:1 D5:1 A4:2 A4:2"],
    ["filled-in eighths", "D2F2 A2d2|", "4/4", "D4:1 E4:1 F#4:1 G4:1 A4:2 D5:2"],
    ["drone strings", "B2d2 A2f2|", "4/4", "G3+B4:2 D5:2 D4+A4:2 F#5:2"],
    ["grace notes", "d2f2 A2d2|", "4/4", "{E5}D5:2 F#5:2 A4:2 D5:2"],
    ["rolls", "d4 A2A2|", "4/4", "D5:4~ A4:2 A4:2"],
  ])("%s: %s in %s", (name, abc, metre, want) => {
    const found = taken(name, abc, metre);
    if (name === "drone strings") expect(found).toMatch(/\+/);
    else expect(found).toBe(want);
  });
  test.each([
    ["without ornaments", "d2f2 A4|"],
    ["shuffled held notes", "d2f2 A2d2|"],
    ["filled-in eighths", "D2A2 D2A2|"],
  ])("%s has nothing to do with %s", (name, abc) => expect(taken(name, abc)).toBeUndefined());
});

describe("the ladder of any tune", () => {
  it("rises from its barest to its richest, keeps the bars, and says how much of the tune is there", () => {
    fc.assert(
      fc.property(arbitraryTune({ maxBars: 6 }), fc.integer({ min: 40, max: 140 }), (tune, bpm) => {
        const from = places(tune);
        const rungs = ladder({ places: from, on: FIDDLE, key: tune.key, tick: 60 / (bpm * beatTicks(tune.metre)) });
        const hard = rungs.map((r) => r.difficulty);
        expect(hard).toEqual([...hard].sort((a, b) => a - b));
        expect(rungs.map((r) => r.name)).toContain("as it is written");
        for (const { bars, kept } of rungs) {
          expect(bars.map((bar) => bar.reduce((s, e) => s + e.ticks, 0))).toEqual(from.map((p) => p.ticks));
          expect(kept).toBeGreaterThanOrEqual(0);
          expect(kept).toBeLessThanOrEqual(1);
        }
      }),
      { numRuns: 120 },
    );
  });
  it("has a reel from its strong beats to grace notes and rolls", () => {
    const from = places(tuneOf("d2fd Adfd|e2ge Bege|d2fd A4|gfed d4|", { key: "D" }));
    const rungs = ladder({ places: from, ...ON, tick: 60 / (100 * 3360) });
    expect(rungs.map((r) => r.name)).toContain("the beats");
    expect(rungs.find((r) => r.name === "the beats")!.kept).toBe(1);
    expect(rungs.at(-1)!.difficulty).toBeGreaterThan(rungs[0]!.difficulty + 20);
  });
});
