import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { tuneOf } from "../../testing/abc";
import { arbitraryTune } from "../../testing/arbitraryTune";
import { STYLES } from "../chords";
import { SCHOOLS } from "../harmony";
import { allBars, lengthOf } from "../score";
import { parsePitch } from "../theory";
import {
  derive,
  FILE_CHORDS,
  lockChords,
  lockNote,
  newWork,
  rivalLine,
  rivalPlan,
  schoolBars,
  sheetOf,
  unlockChords,
  Work,
  withTune,
} from "./index";

const TUNE = tuneOf("d2fd a2fd|e2ge b2ge|f2af d'2af|gfed e4:|", { metre: "2/2" });
const PRINTED = tuneOf('"D"d2fd a2fd|"A7"e2ge "Em"b2ge|"D"f2af d\'2af|"G"gfed "A"e4:|', { metre: "2/2" });
const bar = 13440 * 1;

describe("a new work", () => {
  it("keeps the chords a file prints, and derives them where it prints none", () => {
    expect([newWork(TUNE).fileChords, newWork(PRINTED).fileChords]).toEqual([false, true]);
    expect(derive(newWork(PRINTED)).plan.chords.map((c) => c.symbol)).toEqual(["D", "A7", "Em", "D", "G", "A"]);
    expect(derive(newWork(PRINTED)).plan.chords.every((c) => c.locked && /^The file gives/.test(c.reason))).toBe(true);
  });
  it("is what its schema says, and reads works saved before there were second lines", () => {
    expect(Work.parse(newWork(TUNE))).toEqual(newWork(TUNE));
    const { backing: _b, second: _s, barSchools: _a, harmonyLocks: _h, ...old } = newWork(TUNE);
    expect(Work.parse(old)).toEqual(newWork(TUNE));
    for (const wrong of [
      { side: "left" },
      { version: 2 },
      { locks: [{ bar: -1, at: 0, ticks: 1, symbol: "D" }] },
      { locks: [{ bar: 0, at: 0, ticks: 1, symbol: "" }] },
    ])
      expect(Work.safeParse({ ...newWork(TUNE), ...wrong }).success).toBe(false);
  });
});

describe("deciding", () => {
  const lock = (at: number, ticks: number, symbol: string, index = 0) => ({ bar: index, at, ticks, symbol });
  it("a chord settled over another trims it, and freeing gives the place back", () => {
    const half = bar / 2;
    const both = lockChords(lockChords(newWork(TUNE), [lock(0, bar, "D")]), [lock(half, half, "A")]);
    expect(both.locks).toMatchObject([lock(0, half, "D"), lock(half, half, "A")]);
    expect(unlockChords(both, [{ bar: 0, at: 0, ticks: half }]).locks).toMatchObject([lock(half, half, "A")]);
    expect(unlockChords(both, [{ bar: 0, at: 0, ticks: bar }]).locks).toEqual([]);
  });
  it("a harmony note is settled, changed, silenced and freed in its place alone", () => {
    const [a, f] = [parsePitch("A4"), parsePitch("F#4")];
    const one = lockNote(lockNote(newWork(TUNE), { bar: 0, at: 0 }, a), { bar: 1, at: 0 }, f);
    expect(one.harmonyLocks).toEqual([
      { bar: 0, at: 0, pitch: a },
      { bar: 1, at: 0, pitch: f },
    ]);
    expect(lockNote(one, { bar: 0, at: 0 }, f).harmonyLocks.find((l) => l.bar === 0)?.pitch).toEqual(f);
    expect(lockNote(one, { bar: 0, at: 0 }, null).harmonyLocks.find((l) => l.bar === 0)?.pitch).toBeNull();
    expect(lockNote(one, { bar: 0, at: 0 }).harmonyLocks).toEqual([{ bar: 1, at: 0, pitch: f }]);
  });
  it("bars take another school, and the tune's own school takes them back", () => {
    const some = schoolBars(newWork(TUNE), 1, 2, "Thirds");
    expect(some.barSchools).toEqual([
      { bar: 1, school: "Thirds" },
      { bar: 2, school: "Thirds" },
    ]);
    expect(schoolBars(some, 2, 3, "Chord-fit").barSchools).toEqual([{ bar: 1, school: "Thirds" }]);
  });
});

describe("editing the tune under decisions", () => {
  const work = lockNote(
    lockChords(schoolBars(newWork(TUNE), 2, 2, "Thirds"), [{ bar: 2, at: 0, ticks: bar, symbol: "Bm" }]),
    { bar: 2, at: 0 },
    parsePitch("D4"),
  );
  const [strain] = TUNE.strains;
  const bars = strain?.bars ?? [];
  const withBars = (list: typeof bars) => ({
    ...TUNE,
    strains: [{ ...(strain as NonNullable<typeof strain>), bars: list }],
  });
  it("a bar taken out before them takes locks along, one bar earlier", () => {
    const moved = withTune(work, withBars(bars.slice(1)));
    expect([moved.locks[0]?.bar, moved.barSchools, moved.harmonyLocks[0]?.bar]).toEqual([
      1,
      [{ bar: 1, school: "Thirds" }],
      1,
    ]);
  });
  it("their own bar taken out lets them go", () => {
    const without = withTune(work, withBars([...bars.slice(0, 2), ...bars.slice(3)]));
    expect([without.locks, without.barSchools, without.harmonyLocks]).toEqual([[], [], []]);
  });
  it("a bar rewritten in place keeps them, unless it got too short for where they begin", () => {
    const other = { ...(bars[2] as (typeof bars)[number]), events: [{ ticks: bar, pitches: [parsePitch("D5")] }] };
    expect(withTune(work, withBars(bars.map((b, i) => (i === 2 ? other : b)))).locks).toEqual(work.locks);
    const late = lockChords(newWork(TUNE), [{ bar: 2, at: bar / 2, ticks: bar / 2, symbol: "Bm" }]);
    const short = { ...other, events: [{ ticks: bar / 4, pitches: [parsePitch("D5")] }] };
    expect(withTune(late, withBars(bars.map((b, i) => (i === 2 ? short : b)))).locks).toEqual([]);
  });
});

describe("comparing", () => {
  it("a style keeps the teacher's locks; the file's chords are the file's alone", () => {
    const work = lockChords(newWork(PRINTED), [{ bar: 0, at: 0, ticks: bar, symbol: "Bm" }]);
    expect(rivalPlan(work, "Dance band").chords[0]?.symbol).toBe("Bm");
    expect(rivalPlan(work, FILE_CHORDS).chords.map((c) => c.symbol)).toEqual(["D", "A7", "Em", "D", "G", "A"]);
    expect(rivalPlan(work, "Dance band").style).toBe("Dance band");
  });
  it("another school goes over the same chords, without the locks", () => {
    const work = lockNote({ ...newWork(TUNE), second: null }, { bar: 0, at: 0 }, null);
    expect(rivalLine(work, "Drone and pedal").school).toBe("Drone and pedal");
    expect(rivalLine(work, "Chord-fit").notes.some((n) => n.bar === 0 && n.at === 0)).toBe(true);
    expect(derive(work).line.notes.some((n) => n.bar === 0 && n.at === 0 && n.pitch)).toBe(false);
  });
});

describe("everything at once, for any tune", () => {
  it("is the same twice, fills every bar of every part, and every chord is of its style", () => {
    fc.assert(
      fc.property(
        arbitraryTune({ maxBars: 4 }),
        fc.constantFrom(...STYLES),
        fc.constantFrom(...SCHOOLS),
        fc.constantFrom("below" as const, "above" as const),
        (tune, style, school, side) => {
          const work: Work = { ...newWork(tune), style: style.name, school: school.name, side };
          const made = derive(work);
          expect(derive(work)).toEqual(made);
          const lengths = allBars(tune).map((b) => lengthOf(b.events));
          for (const { staff } of made.parts)
            expect(
              staff.bars.map((b) => lengthOf(b)),
              staff.id,
            ).toEqual(lengths);
          for (const { symbol, bar: at } of made.plan.chords) {
            const strain = made.analysis.places[at]?.strain ?? 0;
            expect(made.plan.vocabulary[strain], `${symbol} in ${style.name}`).toContain(symbol);
          }
          expect(made.plan.fits.every((f) => f >= 0 && f <= 1)).toBe(true);
        },
      ),
      { numRuns: 25 },
    );
  });
  it("a locked chord holds in every style, and the sheets name the parts asked for", () => {
    fc.assert(
      fc.property(
        arbitraryTune({ maxBars: 3 }),
        fc.constantFrom(...STYLES),
        fc.constantFrom("Em", "F#", "Bb7", "C5"),
        (tune, style, symbol) => {
          const places = derive(newWork(tune)).analysis.places;
          const place = places.find((p) => !p.pickup) ?? places[0];
          if (!place) return;
          const work = {
            ...lockChords(newWork(tune), [{ bar: place.index, at: 0, ticks: place.ticks, symbol }]),
            style: style.name,
          };
          const made = derive(work);
          expect(made.plan.chords.filter((c) => c.bar === place.index).map((c) => [c.symbol, c.locked])).toEqual([
            [symbol, true],
          ]);
          expect(sheetOf(work, made, "melody").staves.map((s) => s.id)).toEqual(["melody"]);
          expect(sheetOf(work, made).staves).toHaveLength(made.parts.length);
        },
      ),
      { numRuns: 25 },
    );
  });
});
