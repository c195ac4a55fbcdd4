import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { tuneOf } from "../../testing/abc";
import { arbitraryTune } from "../../testing/arbitraryTune";
import { analyse, strainKeys } from "../analysis";
import { QUARTER, type Tune } from "../score";
import {
  type ChordLock,
  chordChart,
  comparePlans,
  copyToLike,
  deriveChords,
  freed,
  likePlaces,
  lockBars,
  mergeChord,
  moveChange,
  settled,
  splitChord,
  STYLES,
  typedChord,
} from ".";

const BAR = 4 * QUARTER;
const worked = (tune: Tune, locks: ChordLock[] = [], style = STYLES[0]!) => {
  const analysis = analyse(tune);
  const { places, form } = analysis;
  return {
    places,
    phrases: form.phrases,
    plan: deriveChords({ places, phrases: form.phrases, keys: strainKeys(tune, analysis), locks, style }),
  };
};
const lock = (bar: number, at: number, beats: number, symbol: string): ChordLock => ({
  bar,
  at: at * QUARTER,
  ticks: beats * QUARTER,
  symbol,
});
const read = (locks: readonly ChordLock[] | undefined) =>
  locks?.map((l) => `${l.bar}:${l.at / QUARTER}+${l.ticks / QUARTER} ${l.symbol}`).join(", ");

describe("locks that overlap", () => {
  const old = [lock(0, 0, 4, "D"), lock(1, 0, 4, "G")];
  test.each([
    ["one inside keeps both ends", { bar: 0, at: 1, beats: 2 }, "0:0+1 D, 0:3+1 D, 1:0+4 G"],
    ["one over it takes all", { bar: 0, at: 0, beats: 4 }, "1:0+4 G"],
    ["one over its start keeps the rest", { bar: 1, at: 0, beats: 2 }, "0:0+4 D, 1:2+2 G"],
    ["one beside it changes nothing", { bar: 2, at: 0, beats: 4 }, "0:0+4 D, 1:0+4 G"],
  ])("%s", (_, { bar, at, beats }, left) => {
    expect(read(freed(old, lock(bar, at, beats, "")))).toBe(left);
  });
  it("a new lock stands whole, whatever was there, and is the teacher's", () => {
    const any = fc
      .record({
        bar: fc.nat(2),
        at: fc.nat(3),
        beats: fc.integer({ min: 1, max: 4 }),
        symbol: fc.constantFrom("D", "Em", "A7"),
      })
      .map((l) => lock(l.bar, l.at, l.beats, l.symbol));
    fc.assert(
      fc.property(fc.array(any, { maxLength: 6 }), any, (before, next) => {
        const kept = settled(settled([], before), [next]);
        expect(kept.at(-1)).toEqual({ ...next, by: "teacher" });
        for (const [i, a] of kept.entries())
          for (const b of kept.slice(i + 1))
            expect(a.bar !== b.bar || a.at + a.ticks <= b.at || b.at + b.ticks <= a.at).toBe(true);
      }),
    );
  });
});

describe("changing a plan", () => {
  const tune = tuneOf("d2fd Adfd|g2bg dgbg|a2ec Ace2|d2fd A2d2|");
  const two = worked(tune, [
    lock(0, 0, 2, "D"),
    lock(0, 2, 2, "G"),
    lock(1, 0, 4, "G"),
    lock(2, 0, 4, "A"),
    lock(3, 0, 4, "D"),
  ]);
  it("moves a change a beat later or earlier; both chords keep a beat", () => {
    expect(read(moveChange(two.plan, two.places, 1, 1))).toBe("0:0+3 D, 0:3+1 G");
    expect(read(moveChange(two.plan, two.places, 1, -1))).toBe("0:0+1 D, 0:1+3 G");
    expect([
      moveChange(two.plan, two.places, 1, 2),
      moveChange(two.plan, two.places, 1, -2),
      moveChange(two.plan, two.places, 0, 1),
      moveChange(two.plan, two.places, 1, 0),
    ]).toEqual([undefined, undefined, undefined, undefined]);
  });
  it("moves a change over the bar line", () => {
    expect(read(moveChange(two.plan, two.places, 3, -1))).toBe("1:0+3 G, 1:3+1 A, 2:0+4 A");
    expect(read(moveChange(two.plan, two.places, 3, 2))).toBe("1:0+4 G, 2:0+2 G, 2:2+2 A");
  });
  it("refuses to move what is no change: the same chord going on", () => {
    expect(moveChange(two.plan, two.places, 2, 1)).toBeUndefined();
  });
  it("splits at the middle beat and joins again", () => {
    expect(read(splitChord(two.plan, two.places, 2))).toBe("1:0+2 G, 1:2+2 G");
    expect(read(mergeChord(two.plan, 0))).toBe("0:0+4 D");
    expect(read(mergeChord(two.plan, 1))).toBe("0:0+4 G");
    expect(mergeChord(two.plan, 2)).toBeUndefined();
    const one = worked(tune, [lock(0, 0, 1, "D"), lock(0, 1, 3, "G")]);
    expect(splitChord(one.plan, one.places, 0)).toBeUndefined();
    expect(read(splitChord(one.plan, one.places, 1))).toBe("0:1+2 G, 0:3+1 G");
  });
  it("what is moved, split or joined stays so when planned anew", () => {
    fc.assert(
      fc.property(arbitraryTune({ maxBars: 4 }), fc.nat(20), fc.constantFrom(-1, 1), (random, n, by) => {
        const { places, plan } = worked(random, [], STYLES[2]);
        if (plan.chords.length === 0) return;
        const index = n % plan.chords.length;
        for (const locks of [
          moveChange(plan, places, index, by),
          splitChord(plan, places, index),
          mergeChord(plan, index),
        ]) {
          if (!locks) continue;
          const after = worked(random, settled([], locks), STYLES[2]).plan;
          for (const l of locks)
            expect(
              after.chords
                .filter((c) => c.bar === l.bar && c.at >= l.at && c.at < l.at + l.ticks)
                .every((c) => c.symbol === l.symbol && c.locked),
            ).toBe(true);
        }
      }),
      { numRuns: 40 },
    );
  });
  it("copies a phrase to the bars of like phrases, and no further", () => {
    const song = tuneOf("d2fd Adfd|e2ce Aece|d2fd Adfd|g2dg Bgdg|d2fd Adfd|e2ce Aece|a2fa dafa|d8|");
    const { places, phrases, plan } = worked(song);
    expect(likePlaces(places, phrases, 0).map(([a, b]) => [a.index, b.index])).toEqual([
      [0, 4],
      [1, 5],
    ]);
    expect(copyToLike(plan, places, phrases, 0).map((l) => l.bar)).toEqual(lockBars(plan, 0, 1).map((l) => l.bar + 4));
  });
  test.each([
    ["Em", "Em"],
    [" f#m7 ", "F#m7"],
    ["D/F#", "D/F#"],
    ["A♭", "Ab"],
  ])("reads a typed %s as %s", (typed, symbol) => {
    expect(typedChord(typed)).toEqual({ symbol });
  });
  test.each([
    ["", "Write a chord"],
    ["hum", "is not a chord"],
    ["H".repeat(200), "is not a chord"],
    ["<b>", "is not a chord"],
  ])("says what is wrong with %j", (typed, why) => {
    expect((typedChord(typed) as { wrong: string }).wrong).toContain(why);
  });
});

describe("two plans side by side", () => {
  const tune = tuneOf("d2fd Adfd|g2bg dgbg|a2ec Ace2|d2fd A2d2|");
  it("counts agreement by root and third, and names the bars that read otherwise", () => {
    const ours = worked(tune, [lock(0, 0, 4, "D"), lock(1, 0, 4, "G"), lock(2, 0, 4, "A"), lock(3, 0, 4, "D")]);
    const theirs = worked(tune, [
      lock(0, 0, 4, "D"),
      lock(1, 0, 4, "Em"),
      lock(2, 0, 4, "A7"),
      lock(3, 0, 2, "Bm"),
      lock(3, 2, 2, "D"),
    ]);
    expect(comparePlans(ours.plan, theirs.plan, ours.places)).toEqual({
      agreement: 1 - 6 / 16,
      bars: [
        { bar: 1, ours: ["G"], theirs: ["Em"], ticks: BAR },
        { bar: 2, ours: ["A"], theirs: ["A7"], ticks: 0 },
        { bar: 3, ours: ["D"], theirs: ["Bm", "D"], ticks: BAR / 2 },
      ],
    });
  });
  it("a plan agrees with itself, whatever the tune", () => {
    fc.assert(
      fc.property(arbitraryTune({ maxBars: 4 }), (random) => {
        const { plan, places } = worked(random);
        expect(comparePlans(plan, plan, places)).toEqual({ agreement: 1, bars: [] });
      }),
      { numRuns: 20 },
    );
  });
});

describe("the chord chart", () => {
  const tune = tuneOf("A2|:d2fd Adfd|g2bg dgbg|a2ec Ace2|1 d2fd A2d2:|2 d8|]\nw: lo|one two", { more: "" });
  const { plan, places, phrases } = worked(tune, [lock(1, 0, 2, "D"), lock(1, 2, 2, "G")]);
  it("has rows by phrase, beats, repeats, endings and words; the bare pickup is left out", () => {
    const rows = chordChart(plan, places, phrases);
    const bars = rows.flatMap((r) => r.bars);
    expect(bars.map((b) => b.label)).toEqual(["1", "2", "3", "4", "4’"]);
    expect(bars[0]).toMatchObject({
      repeatStart: true,
      words: "(lo) one two",
      cells: [
        { name: "D", beats: 2 },
        { name: "G", beats: 2 },
      ],
    });
    expect(bars.map((b) => [b.ending, b.repeatEnd, b.close])).toEqual([
      ["", 0, "single"],
      ["", 0, "single"],
      ["", 0, "single"],
      ["1", 2, "final"],
      ["2", 0, "final"],
    ]);
  });
  it("writes numerals and functions", () => {
    const names = (as: "numerals" | "functions") =>
      chordChart(plan, places, phrases, as)[0]!.bars[0]!.cells.map((c) => c.name);
    expect([names("numerals"), names("functions")]).toEqual([
      ["I", "IV"],
      ["T", "S"],
    ]);
  });
});
