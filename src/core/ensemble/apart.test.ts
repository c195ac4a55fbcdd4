import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import {
  addLine,
  changeBowing,
  changeGroove,
  changeLine,
  changePass,
  changeStrum,
  differences,
  joined,
  lockChords,
  lockNote,
  newWork,
  same,
  settleFinger,
  settleStroke,
  type Work,
  withTune,
} from ".";
import { arbitraryTune } from "../../testing/arbitraryTune";
import { tuneOf } from "../../testing/abc";
import { insertAfter, moveStep, splitBar } from "../score";

const base = newWork(tuneOf("|:A2|d2fd Adfd|e2ge Bege|d2fd Adfa|gfed B2:|"));
const line = base.lines[0]!.id;
const lock = (bar: number, symbol: string) => ({ bar, at: 0, ticks: 6720, symbol });
const moved = (work: Work, bar: number, event = 0): Work =>
  withTune(work, moveStep(work.tune, { bar, event }, 1).tune!);
const places = (a: Work, b: Work) => differences(a, b).map((d) => d.place);

describe("what differs between two states of a tune", () => {
  it("is told by what a teacher would name: the whole first, then bar by bar", () => {
    const here = lockChords(moved({ ...base, style: "Colour" }, 2), [lock(3, "G")]);
    const there = lockNote(
      { ...base, tune: { ...base.tune, title: "Rope Walk" } },
      line,
      { bar: 1, at: 0 },
      { step: "F", alter: 1, octave: 4 },
    );
    expect(differences(here, there)).toEqual([
      { place: "title", here: base.tune.title, there: "Rope Walk" },
      { place: "style of the chords", here: "Colour", there: base.style },
      { place: "bar 1, harmony", bar: 1, here: "nothing settled", there: "F#4" },
      { place: "bar 2, notes", bar: 2, here: "F#5 G5 E5 B4 E5 G5 E5", there: "E5 G5 E5 B4 E5 G5 E5" },
      { place: "bar 3, chords", bar: 3, here: "G", there: "nothing settled" },
    ]);
  });
  it("names bars that one has and the other has not, the pickup, and lines and players", () => {
    const longer = withTune(base, splitBar(base.tune, { bar: 2, event: 4 }).tune!);
    expect(differences(longer, base).at(-1)).toMatchObject({ there: "no such bar" });
    expect(places(moved(base, 0), base)).toEqual(["bar 0, the pickup, notes"]);
    expect(places(addLine(base, "Thirds", "above"), base)).toEqual(["harmony", "player"]);
  });
  it("is nothing between equal states, however their keys are ordered", () => {
    fc.assert(
      fc.property(arbitraryTune({ maxBars: 3 }), (tune) => {
        const work = newWork(tune);
        const turned = Object.fromEntries(Object.entries(work).reverse()) as Work;
        return differences(work, turned).length === 0 && same(work, turned);
      }),
      { numRuns: 30 },
    );
  });
  it("is never nothing between unequal ones", () => {
    const silent = { ...base, passes: [{ strain: 0, pass: 1, plays: ["melody"] }] };
    expect(places(silent, base)).toEqual(["something that is not shown"]);
  });
});

describe("both changes in one", () => {
  it("are there where they touch different places", () => {
    const mine = lockChords(base, [lock(1, "G")]);
    const theirs = moved({ ...lockChords(base, [lock(2, "A")]), style: "Colour" }, 3);
    const both = joined(base, mine, theirs)!;
    expect(both.locks.map((l) => [l.bar, l.symbol]).sort()).toEqual([
      [1, "G"],
      [2, "A"],
    ]);
    expect([both.style, both.tune]).toEqual(["Colour", theirs.tune]);
    const school = changeLine(base, line, { school: "Thirds" });
    const note = lockNote(base, line, { bar: 1, at: 0 }, null);
    expect(joined(base, school, note)!.lines[0]).toMatchObject({ school: "Thirds", locks: [{ bar: 1, pitch: null }] });
  });
  it("keep what one of them freed freed", () => {
    const before = lockChords(base, [lock(1, "G"), lock(2, "A")]);
    const mine = { ...before, locks: before.locks.slice(1) };
    const theirs = { ...before, style: "Colour" };
    expect(joined(before, mine, theirs)!.locks.map((l) => l.symbol)).toEqual(["A"]);
  });
  it("are not there where both touch one bar, one place, one setting, or overlap", () => {
    expect(joined(base, moved(base, 2, 0), moved(base, 2, 3))).toBeUndefined();
    expect(joined(base, lockChords(base, [lock(1, "G")]), lockChords(base, [lock(1, "A")]))).toBeUndefined();
    expect(joined(base, { ...base, style: "Colour" }, { ...base, style: "Modal" })).toBeUndefined();
    const late = { bar: 1, at: 3360, ticks: 6720, symbol: "A" };
    expect(joined(base, lockChords(base, [lock(1, "G")]), lockChords(base, [late]))).toBeUndefined();
  });
  it("are not there where one changed the number of bars", () => {
    const longer = withTune(base, splitBar(base.tune, { bar: 2, event: 4 }).tune!);
    expect(joined(base, longer, lockChords(base, [lock(1, "G")]))).toBeUndefined();
  });
  it("of one change and none is that change, and the sides do not matter", () => {
    const changes: ((w: Work) => Work)[] = [
      (w) => ({ ...w, style: "Colour" }),
      (w) => lockChords(w, [lock(1, "G")]),
      (w) => lockChords(w, [lock(3, "D")]),
      (w) => moved(w, 2),
      (w) => changeLine(w, line, { school: "Thirds" }),
      (w) => addLine(w, "Thirds", "above"),
      (w) => withTune(w, insertAfter(w.tune, { bar: 1, event: 0 }).tune ?? w.tune),
    ];
    const some = fc.subarray(changes.map((_, i) => i));
    const made = (which: number[]) => which.reduce((work, i) => changes[i]!(work), base);
    fc.assert(
      fc.property(some, some, (a, b) => {
        const [mine, theirs] = [made(a), made(b)];
        expect(same(joined(base, mine, base), mine)).toBe(true);
        const [one, other] = [joined(base, mine, theirs), joined(base, theirs, mine)];
        expect(one === undefined).toBe(other === undefined);
        if (one && other) expect(differences(one, other)).toEqual([]);
        const disjoint = !a.some((i) => b.includes(i)) && ![...a, ...b].includes(6);
        if (disjoint) expect(one).toBeDefined();
      }),
      { numRuns: 120 },
    );
  });
});

describe("the feel and the hands, changed in two places", () => {
  const stroke = (bar: number, direction: "down" | "up") => (w: Work) =>
    settleStroke(w, "bow", { bar, at: 0, ticks: 1680 }, direction);
  const finger = (name: string, bar: number) => (w: Work) =>
    settleFinger(w, name, { bar, at: 0 }, { string: 2, fret: "0" });
  const pass = (of: number, cell: string) => (w: Work) =>
    changePass(w, { strain: 0, pass: of, groove: null, cell, bowing: null, strum: null });
  const set = finger("banjo", 1)(stroke(1, "down")(pass(1, "Snap")(base)));
  test.each([
    ["a bow here, another there", stroke(2, "up"), stroke(3, "down")],
    ["two fingers of one hand", finger("banjo", 2), finger("banjo", 3)],
    ["two hands", finger("banjo", 2), finger("guitar", 2)],
    ["two times through", pass(2, "Snap"), pass(3, "Snap")],
    [
      "the dance and the opening chord",
      (w: Work) => changeGroove(w, { groove: "reel" }),
      (w: Work) => changeGroove(w, { opening: true }),
    ],
    [
      "the bow's style and the strum",
      (w: Work) => changeBowing(w, { style: "Shuffle" }),
      (w: Work) => changeStrum(w, { fills: true }),
    ],
  ])("%s are both kept", (_, here, there) => {
    const both = joined(set, here(set), there(set));
    expect(both).toBeDefined();
    // Settled places stand in the order of the tune, in whatever order they were settled.
    const told = differences(both!, here(there(set))).map((d) => d.place);
    expect(told.filter((place) => place !== "something that is not shown")).toEqual([]);
  });
  test.each([
    ["one bow two ways", stroke(2, "up"), stroke(2, "down")],
    ["one time through, two cells", pass(2, "Snap"), pass(2, "Even four")],
    ["two dances", (w: Work) => changeGroove(w, { groove: "reel" }), (w: Work) => changeGroove(w, { groove: "polka" })],
    [
      "strokes that overlap",
      stroke(2, "up"),
      (w: Work) => settleStroke(w, "bow", { bar: 2, at: 840, ticks: 1680 }, "up"),
    ],
  ])("%s have to be chosen between", (_, here, there) => {
    expect(joined(set, here(set), there(set))).toBeUndefined();
  });
  test.each([
    [(w: Work) => changeGroove(w, { groove: "jig" }), { place: "danced as", here: "jig", there: "its own dance" }],
    [
      (w: Work) => changeGroove(w, { strength: 50 }),
      { place: "strength of the feel", here: "50 percent", there: "100 percent" },
    ],
    [(w: Work) => changeBowing(w, { style: "Shuffle" }), { place: "bowed", here: "Shuffle", there: "not chosen" }],
    [
      (w: Work) => changeStrum(w, { grid: "B.D.B.D." }),
      { place: "strummed", here: "B.D.B.D. on the guitar", there: "not chosen" },
    ],
    [pass(2, "Snap"), { place: "feel of single times through", here: "1 set", there: "0 set" }],
    [finger("banjo", 1), { place: "on the banjo", here: "melody, Moving", there: "not yet" }],
  ])("what differs is said as a teacher would: %#", (change, want) => {
    expect(differences(change(base), base)).toContainEqual(want);
  });
  it("strokes and fingering are told bar by bar", () => {
    const told = differences(set, base);
    expect(told.find((d) => d.place.endsWith("strokes"))).toMatchObject({
      bar: 1,
      here: "down",
      there: "nothing settled",
    });
    expect(told.find((d) => d.place.endsWith("fingering"))).toMatchObject({ bar: 1, here: "string 2, fret 0" });
  });
});

describe("stored work", () => {
  it("keeps keys that a later version may have written, at every depth", async () => {
    const { readWork } = await import(".");
    const strain = base.tune.strains[0]!;
    const bar = { ...strain.bars[0]!, ornamented: [1] };
    const later = {
      ...base,
      lessons: [{ week: 3 }],
      tune: { ...base.tune, recorded: "by the window", strains: [{ ...strain, bars: [bar, ...strain.bars.slice(1)] }] },
      locks: [{ ...lock(1, "G"), voicing: "open" }],
      lines: base.lines.map((l) => ({ ...l, colour: "ochre" })),
    };
    expect(readWork(JSON.parse(JSON.stringify(later)))).toEqual(later);
  });
  it("names the style or school there is none of", async () => {
    const { readWork } = await import(".");
    expect(() => readWork({ ...base, style: "constructor" })).toThrow(
      /There is no style of chords called “constructor”/,
    );
    const lines = base.lines.map((l) => ({ ...l, school: "toString" }));
    expect(() => readWork({ ...base, lines })).toThrow(/There is no school of harmony called “toString”/);
  });
});
