import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { tuneOf } from "../../testing/abc";
import { CELLS, GROOVES } from "../feel";
import { sheetAbc, sheetMusicXml, readMusicXml } from "../formats";
import { instrument } from "../instruments";
import { CHORD_LINE, clockOf } from "../performance";
import { type Event, type Performance, QUARTER, timesThrough, places } from "../score";
import { BOWINGS, strumsFor } from "../strokes";
import { midi } from "../theory";
import {
  arrangedFor,
  bowsOf,
  changeBowing,
  changeGroove,
  changePass,
  changeStrum,
  derive,
  HANDS,
  handFor,
  newWork,
  performed,
  readWork,
  settleStroke,
  sheetOf,
  strokesOf,
  strumOf,
  strumSheet,
  type Work,
  withTune,
} from ".";

const REEL = "|:d2fd Adfd|e2ge Bege|d2fd Adfa|gfed B2A2:|";
const work = (abc = REEL, more: Parameters<typeof tuneOf>[1] = { key: "D", more: "R:reel\nQ:1/4=215\n" }) =>
  newWork(tuneOf(abc, more));
const heard = (w: Work, options: Parameters<typeof performed>[3] = {}) => {
  const derived = derive(w);
  return performed(w, derived, sheetOf(w, derived), options);
};
const tuneLine = (p: Performance) => p.notes.filter((n) => n.line === "melody");
const passOf = (w: Work, pass: number, change: object) =>
  changePass(w, { strain: 0, pass, groove: null, cell: null, bowing: null, strum: null, ...change });

describe("times through a strain", () => {
  test.each([
    ["|:A4|B4:|", "0.1 0.1 0.2 0.2"],
    ["|:A8|1B8:|2c8|", "0.1 0.1 0.2 0.2"],
    ["A8|B8|", "0.1 0.1"],
    ["|:A8:|:B8:|", "0.1 0.2 1.1 1.2"],
  ])("%s: %s", (abc, want) => {
    const all = timesThrough(places(tuneOf(abc, {})));
    expect(all.map((t) => `${t.strain}.${t.pass}`).join(" ")).toBe(want);
  });
});

describe("another feel for one time through", () => {
  it("is heard that time only: the cell has its own notes, the other time is as it was", () => {
    const plain = tuneLine(heard(work()));
    const set = tuneLine(heard(passOf(work(), 2, { cell: "Long-short-short" })));
    const half = 16 * QUARTER;
    const early = (n: (typeof plain)[number]) => n.at < half;
    expect(set.filter(early)).toEqual(plain.filter(early));
    expect(set.filter((n) => !early(n))).not.toEqual(plain.filter((n) => !early(n)));
    // Every whole bar but the last is long-short-short twice: six notes.
    const bar = set.filter((n) => n.at >= half && n.at < half + 4 * QUARTER);
    expect(bar).toHaveLength(6);
  });
  it("may be another dance, straight while the other time swings", () => {
    const swung = work(REEL, { key: "D", more: "R:hornpipe\nQ:1/4=160\n" });
    const off = (p: Performance, from: number) =>
      tuneLine(p).filter((n) => n.at >= from && n.at < from + 16 * QUARTER && n.at % (QUARTER / 2) !== 0).length;
    const made = heard(passOf(changeGroove(swung, { groove: "hornpipe" }), 2, { groove: "as written" }));
    expect(off(made, 0)).toBeGreaterThan(8);
    expect(off(made, 16 * QUARTER)).toBe(0);
  });
  it("all of it null is as the tune is set, and is not kept", () => {
    const set = passOf(work(), 2, { bowing: "Shuffle" });
    expect(set.feel.passes).toHaveLength(1);
    expect(passOf(set, 2, {}).feel.passes).toEqual([]);
    expect(readWork(JSON.parse(JSON.stringify(set)))).toEqual(set);
  });
  it("whatever is asked of it, beats stay where they are, bars keep their length, and all lines keep their bars", () => {
    const name = (of: readonly { name: string }[]) => fc.constantFrom(null, ...of.map((x) => x.name));
    const pass = fc.record({
      groove: name(GROOVES),
      cell: name(CELLS),
      bowing: name(BOWINGS),
      strum: fc.constant(null),
    });
    fc.assert(
      fc.property(pass, pass, fc.integer({ min: 40, max: 150 }), (first, second, percent) => {
        const w = passOf(passOf(work(), 1, first), 2, second);
        const plain = heard(work(), { percent });
        const made = heard(w, { percent });
        expect(made.bars).toEqual(plain.bars);
        expect(made.ticks).toBe(plain.ticks);
        for (const n of made.notes)
          expect(n.at >= 0 && n.ticks > 0 && n.at + n.ticks <= made.ticks + QUARTER).toBe(true);
      }),
      { numRuns: 12 },
    );
  });
});

describe("a groove moved by hand", () => {
  const jig = work("|:ABc dcB|ABc d3:|", { key: "D", metre: "6/8", more: "R:jig\nQ:3/8=119\n" });
  const firstBar = (w: Work) => tuneLine(heard(w)).slice(0, 6);
  it("has the accents it was given, and no others move", () => {
    const own = { groove: "jig", accents: [100, 58, 68, 92, 58, 40], lean: [0, 0, 0] };
    const [a, b] = [firstBar(jig), firstBar(changeGroove(jig, { own }))];
    expect(b.map((n) => n.velocity).slice(0, 5)).toEqual(a.map((n) => n.velocity).slice(0, 5));
    expect(b[5]!.velocity).toBeLessThan(a[5]!.velocity * 0.65);
  });
  it("leans where it was dragged, beats stay", () => {
    const own = { groove: "jig", accents: [100, 58, 68, 92, 58, 72], lean: [50, -50, 0] };
    const [a, b] = [firstBar(jig), firstBar(changeGroove(jig, { own }))];
    expect([b[0]!.at, b[3]!.at]).toEqual([a[0]!.at, a[3]!.at]);
    expect((b[1]!.at - a[1]!.at) / (1.5 * QUARTER)).toBeCloseTo(0.05, 3);
    expect(b[2]!.at).toBe(a[2]!.at);
  });
  it("belongs to its dance: another dance has its own", () => {
    const own = { groove: "reel", accents: [5, 5, 5, 5, 5, 5, 5, 5], lean: [0, 0] };
    expect(firstBar(changeGroove(jig, { own }))).toEqual(firstBar(jig));
  });
  it("tight pairs shorten the short note, at strength 0 nothing does", () => {
    const strathspey = work("A>B c<d A>B c2|A>B c<d A4|", { key: "D", more: "R:strathspey\nQ:1/4=100\n" });
    const starts = (w: Work) =>
      tuneLine(heard(w))
        .slice(0, 4)
        .map((n) => n.at / QUARTER);
    expect(starts(strathspey)).toEqual([0, 0.75, 1, 1.25]);
    const tight = starts(changeGroove(strathspey, { tight: 50 }));
    expect(tight[1]).toBeCloseTo(5 / 6, 3);
    expect(tight[3]).toBeCloseTo(1 + 1 / 6, 3);
    expect(starts(changeGroove(strathspey, { tight: 50, strength: 0 }))).toEqual([0, 0.75, 1, 1.25]);
    // A short note is never shorter than seven hundredths of a second.
    const quick = changeGroove(work("A>B c<d A>B c2|", { key: "D", more: "R:strathspey\nQ:1/4=160\n" }), { tight: 50 });
    const [, short] = tuneLine(heard(quick));
    expect(((1 - short!.at / QUARTER) * 60) / 160).toBeGreaterThan(0.0699);
  });
});

describe("notes in one bow", () => {
  it("are joined where bows were chosen; the last of them is let go as any other", () => {
    const chosen = changeBowing(work(), { style: "Slurred threes" });
    const derived = derive(chosen);
    const line = tuneLine(heard(chosen));
    const plain = tuneLine(heard(work()));
    const slurred = bowsOf(chosen, derived).strokes.filter((s) => s.notes.length > 1);
    expect(slurred.length).toBeGreaterThan(3);
    const longer = line.filter((n, i) => n.ticks > plain[i]!.ticks).length;
    const joined = slurred.reduce((n, s) => n + s.notes.length - 1, 0);
    expect(longer).toBe(2 * joined);
  });
  it("swell in the run of a strathspey", () => {
    const tune = work("d2 e2 f2 G/A/B/c/|d4 A4|", { key: "D", more: "R:strathspey\nQ:1/4=100\n" });
    const line = tuneLine(heard(changeBowing(tune, { style: "Down on the beat" })));
    const run = line.slice(3, 7).map((n) => n.velocity);
    const plain = tuneLine(heard(tune))
      .slice(3, 7)
      .map((n) => n.velocity);
    expect(run[0]).toBeLessThan(plain[0] as number);
    expect((run[3] as number) / (plain[3] as number)).toBeGreaterThan((run[0] as number) / (plain[0] as number));
  });
});

describe("the strum of a work", () => {
  const strummed = (change: Parameters<typeof changeStrum>[1] = {}) =>
    ({ ...changeStrum(work(), change), backing: "strum" }) satisfies Work;
  const chords = (p: Performance) => p.notes.filter((n) => n.line === CHORD_LINE.id);
  it("is heard in the place of the chords: its strings, down from the lowest, up from the highest", () => {
    const made = chords(heard(strummed({ grid: "B.DUB.DU" })));
    const bar = made.filter((n) => n.at < 4 * QUARTER);
    const at = (eighth: number) => bar.filter((n) => Math.floor((n.at + 200) / (QUARTER / 2)) === eighth);
    expect(at(0)).toHaveLength(1);
    expect(at(1)).toHaveLength(0);
    const [down, up] = [at(2), at(3)];
    expect(down.length).toBeGreaterThan(2);
    expect(down.map((n) => n.noteNumber)).toEqual([...down.map((n) => n.noteNumber)].sort((a, b) => a - b));
    expect(up.map((n) => n.noteNumber)).toEqual([...up.map((n) => n.noteNumber)].sort((a, b) => b - a));
  });
  it("is the guitar's first where none was chosen yet, and not the bass and chord of before", () => {
    const own = chords(heard({ ...work(), backing: "strum" }));
    expect(own.length).toBeGreaterThan(20);
    expect(own).not.toEqual(chords(heard(work())));
  });
  it("of one time through is heard that time alone, and the other keeps its backing", () => {
    const half = 16 * QUARTER;
    const plain = chords(heard(work()));
    const second = chords(heard(passOf(work(), 2, { strum: "reel bass" })));
    const early = (notes: typeof plain) => notes.filter((n) => n.at < half);
    const late = (notes: typeof plain) => notes.filter((n) => n.at >= half);
    expect(early(second)).toEqual(early(plain));
    expect(late(second)).not.toEqual(late(plain));
    expect(late(second)).toEqual(
      late(chords(heard({ ...changeStrum(work(), { style: "reel bass" }), backing: "strum" }))),
    );
  });
  it("and its hand are the very same things while nothing of theirs has changed", () => {
    const w = changeStrum(work(), { tuning: "DADGAD" });
    const derived = derive(w);
    expect(strumOf(w, derived)).toBe(strumOf({ ...w }, { ...derived }));
    expect(bowsOf(w, derived)).toBe(bowsOf(w, derived));
    expect(arrangedFor(w, derived, handFor(w, "banjo"))).toBe(arrangedFor(w, derived, handFor(w, "banjo")));
    expect(strumOf(changeStrum(w, { fills: true }), derived)).not.toBe(strumOf(w, derived));
  });
  it("sounds nothing the chord and the strings do not have", () => {
    const w = strummed();
    const derived = derive(w);
    const guitar = instrument("guitar")!;
    for (const stroke of strumOf(w, derived).strokes)
      for (const { string, fret, noteNumber } of stroke.struck) {
        const open = guitar.strings.find((s) => s.number === string)!.open;
        expect(midi(open) + guitar.frets!.find((f) => f.label === fret)!.semitones).toBe(noteNumber);
      }
  });
  it("off-beats fall where the dance has them, and nowhere else", () => {
    const made = chords(heard({ ...work(), backing: "off-beats" }));
    const quarters = new Set(made.map((n) => Math.round(n.at / QUARTER) % 4));
    expect([...quarters].sort()).toEqual([1, 3]);
  });
  test.each(["guitar", "banjo", "ukulele", "mountain dulcimer", "mandolin"])(
    "stands under the tune as slashes and, on the %s, as tablature, and reads back from MusicXML",
    (name) => {
      const w = changeStrum(work(), { instrument: name });
      const derived = derive(w);
      for (const as of ["slashes", "tablature"] as const) {
        const sheet = strumSheet(w, derived, sheetOf(w, derived, "melody"), as);
        const staff = sheet.staves.at(-1)!;
        staff.bars.forEach((bar, i) => {
          expect(bar.reduce((sum, e) => sum + e.ticks, 0)).toBe(sheet.places[i]!.ticks);
        });
        const xml = sheetMusicXml(sheet);
        expect(xml.includes("<notehead>slash</notehead>")).toBe(as === "slashes");
        const { tune: back } = readMusicXml(xml, { part: 1 });
        const events = places(back).map((p) => p.bar.events);
        // Two strings that sound the same pitch are one note of the page.
        const read = (bars: readonly (readonly Event[])[]) =>
          bars.map((bar) => bar.map((e) => [e.ticks, ...new Set(e.pitches.map(midi))]));
        expect(read(events)).toEqual(read(staff.bars));
        if (as === "slashes") {
          const words = (bars: typeof events) => bars.flat().flatMap((e) => e.words?.map((x) => x.text) ?? []);
          expect(words(events)).toEqual(words(staff.bars as typeof events));
        }
      }
    },
  );
  it("its signs are in the ABC under their strokes", () => {
    const w = changeStrum(work(), { grid: "B.DUB.DU" });
    const derived = derive(w);
    expect(sheetAbc(strumSheet(w, derived, sheetOf(w, derived, "melody")))).toContain('"_B"vB2 "_D"vB"_U"uB');
  });
  it("every strum of the library is there for its metre", () => {
    expect(strumsFor({ beats: 4, unit: 4 }, "guitar").map((s) => s.name)).toContain("reel bass");
  });
});

describe("the opening chord", () => {
  it("is one bar of the tonic before the tune, and moves all that comes after it", () => {
    const [plain, opened] = [heard(work()), heard(changeGroove(work(), { opening: true }))];
    const bar = 4 * QUARTER;
    expect(opened.ticks).toBe(plain.ticks + bar);
    expect(opened.bars[0]!.at).toBe(bar);
    const first = opened.notes.filter((n) => n.at === 0);
    expect(first.every((n) => [2, 6, 9].includes(n.noteNumber % 12))).toBe(true);
    expect(tuneLine(opened).map((n) => n.at - bar)).toEqual(tuneLine(plain).map((n) => n.at));
    expect(clockOf(opened).seconds(bar)).toBeCloseTo((4 * 60) / 215, 6);
  });
});

describe("grace notes", () => {
  it("are stolen from before the note they lead to, which stays on its beat", () => {
    const plain = tuneLine(heard(work("A2B2 c2d2|", { key: "D" })));
    const graced = tuneLine(heard(work("A2B2 {e}c2d2|", { key: "D" })));
    const main = graced.find((n) => n.noteNumber === 73)!;
    expect(main.at).toBe(plain.find((n) => n.noteNumber === 73)!.at);
    const grace = graced.find((n) => n.noteNumber === 76)!;
    expect(grace.at + grace.ticks).toBe(main.at);
    expect(grace.velocity).toBeLessThan(main.velocity);
    const before = graced.find((n) => n.noteNumber === 71)!;
    expect(before.at + before.ticks).toBeLessThanOrEqual(grace.at);
  });
});

describe("strokes that are settled", () => {
  it("stay through any style, and what no longer fits the notes gives way instead of breaking the page", () => {
    const place = { bar: 0, at: 0, ticks: QUARTER };
    const settled = settleStroke(work("ABcd efga|b8|", { key: "D" }), "bow", place, "up");
    for (const { name } of BOWINGS) {
      const w = changeBowing(settled, { style: name });
      const [first] = bowsOf(w, derive(w)).strokes;
      expect([first!.direction, first!.notes.length, first!.locked]).toEqual(["up", 2, true]);
    }
    const edited = withTune(settled, tuneOf("A3B c2d2|b8|", { key: "D" }));
    expect(bowsOf(edited, derive(edited)).strokes.flatMap((s) => s.notes)).toHaveLength(5);
  });
  test.each(HANDS)("are freed again: the %s", (hand) => {
    const w = work();
    const derived = derive(w);
    const [first] = strokesOf(w, derived, hand).strokes;
    const place = { bar: first!.place.index, at: first!.at - first!.place.at, ticks: first!.ticks };
    const other = first!.direction === "down" ? "up" : "down";
    const settled = settleStroke(w, hand, place, other);
    expect(strokesOf(settled, derived, hand).strokes[0]).toMatchObject({ direction: other, locked: true });
    const freed = settleStroke(settled, hand, place);
    expect(strokesOf(freed, derived, hand).strokes[0]).toMatchObject({ direction: first!.direction, locked: false });
  });
});
