import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { tuneOf } from "../../testing/abc";
import { arbitraryTune } from "../../testing/arbitraryTune";
import { STYLES } from "../chords";
import { SCHOOLS } from "../harmony";
import { allBars, lengthOf } from "../score";
import { Part } from "../grading";
import { INSTRUMENTS } from "../instruments";
import { moveBetween } from "../spelling";
import { midi, parsePitch } from "../theory";
import {
  addLine,
  changeLine,
  derive,
  FILE_CHORDS,
  lockChords,
  lockNote,
  makeDeriver,
  newWork,
  readWork,
  removeLine,
  rivalLine,
  rivalPlan,
  schoolBars,
  sheetOf,
  transposed,
  freeChords,
  unlockChords,
  withNewTune,
  withTune,
  Work,
} from ".";

const TUNE = tuneOf("d2fd a2fd|e2ge b2ge|f2af d'2af|gfed e4:|", { metre: "2/2" });
const PRINTED = tuneOf('"D"d2fd a2fd|"A7"e2ge "Em"b2ge|"D"f2af d\'2af|"G"gfed "A"e4:|', { metre: "2/2" });
const bar = 13440;
const LINE = "line-1";
const locksOf = (work: Work) => work.lines[0]?.locks ?? [];

describe("a new work", () => {
  it("keeps the chords a file prints, and derives them where it prints none", () => {
    expect([newWork(TUNE).fileChords, newWork(PRINTED).fileChords]).toEqual([false, true]);
    expect(derive(newWork(PRINTED)).plan.chords.map((c) => c.symbol)).toEqual(["D", "A7", "Em", "D", "G", "A"]);
    expect(derive(newWork(PRINTED)).plan.chords.every((c) => c.locked && /^The file gives/.test(c.reason))).toBe(true);
  });
  it("is what its schema says: one line, three players, nothing of feel and passes yet", () => {
    const work = newWork(TUNE);
    expect(readWork(work)).toEqual(work);
    expect(work.players.map((p) => [p.id, p.role, p.line, p.instrument])).toEqual([
      ["melody", "melody", null, "fiddle"],
      ["moving", "low harmony", "line-1", "fiddle"],
      ["first", "one-note harmony", null, "fiddle"],
    ]);
    const [line] = work.lines;
    for (const wrong of [
      { version: 3 },
      { lines: [{ ...line, side: "left" }] },
      { locks: [{ bar: -1, at: 0, ticks: 1, symbol: "D" }] },
      { locks: [{ bar: 0, at: 0, ticks: 1, symbol: "" }] },
      { players: [{ ...work.players[0], role: "kazoo" }] },
      { players: [{ ...work.players[0], id: "../etc" }] },
    ])
      expect(Work.safeParse({ ...work, ...wrong }).success, JSON.stringify(wrong)).toBe(false);
  });
});

describe("work of version 1", () => {
  const note = { bar: 1, at: 0, pitch: parsePitch("A4") };
  const old = {
    version: 1,
    tune: TUNE,
    style: "Dance band",
    school: "Thirds",
    side: "above",
    fileChords: false,
    locks: [{ bar: 0, at: 0, ticks: bar, symbol: "D" }],
    second: { school: "Octave", side: "below" },
    barSchools: [{ bar: 2, school: "Chord-fit" }],
    harmonyLocks: [note],
    backing: "block",
  };
  it("is read as two lines and four players, with every lock; its parts keep their ids", () => {
    const work = readWork(old);
    expect(Work.parse(work)).toEqual(work);
    expect([work.style, work.backing, work.locks]).toEqual(["Dance band", "block", old.locks]);
    expect(work.lines).toMatchObject([
      { school: "Thirds", side: "above", bars: old.barSchools, locks: [note] },
      { school: "Octave", side: "below", bars: [], locks: [] },
    ]);
    expect(work.players.map((p) => [p.id, p.role])).toEqual([
      ["melody", "melody"],
      ["moving", "high harmony"],
      ["second", "low harmony"],
      ["first", "one-note harmony"],
    ]);
    expect(derive(work).parts.map((p) => p.name)).toEqual([
      "Tune",
      "Harmony",
      "Harmony, second line",
      "One note per chord",
    ]);
  });
  it("is read when it was saved before there were second lines, bar schools and backings", () => {
    const { second: _s, barSchools: _b, harmonyLocks: _h, backing: _k, ...oldest } = old;
    const work = readWork(oldest);
    expect([work.lines.length, work.players.length, work.backing]).toEqual([1, 3, "bass and chord"]);
  });
  it("is refused with its field where it does not hold together", () => {
    expect(() => readWork({ ...old, side: "left" })).toThrow(/side/);
    for (const other of [null, 7, "work", {}, { version: "constructor" }]) expect(() => readWork(other)).toThrow();
  });
});

describe("deciding", () => {
  const lock = (at: number, ticks: number, symbol: string, index = 0) => ({ bar: index, at, ticks, symbol });
  it("a chord settled over another trims it, and freeing gives the place back", () => {
    const half = bar / 2;
    const both = lockChords(lockChords(newWork(TUNE), [lock(0, bar, "D")]), [lock(half, half, "A")]);
    expect(both.locks).toMatchObject([lock(0, half, "D"), lock(half, half, "A")]);
    expect(unlockChords(both, [{ bar: 0, at: 0, ticks: half }]).locks).toMatchObject([
      { symbol: "A" },
      { symbol: "D", kept: true },
    ]);
    expect(freeChords(both, [{ bar: 0, at: 0, ticks: half }]).locks).toMatchObject([lock(half, half, "A")]);
    expect(freeChords(both, [{ bar: 0, at: 0, ticks: bar }]).locks).toEqual([]);
  });
  it("a harmony note is settled, changed, silenced and freed in its place alone", () => {
    const [a, f] = [parsePitch("A4"), parsePitch("F#4")];
    const one = lockNote(lockNote(newWork(TUNE), LINE, { bar: 0, at: 0 }, a), LINE, { bar: 1, at: 0 }, f);
    expect(locksOf(one)).toEqual([
      { bar: 0, at: 0, pitch: a },
      { bar: 1, at: 0, pitch: f },
    ]);
    expect(locksOf(lockNote(one, LINE, { bar: 0, at: 0 }, f)).find((l) => l.bar === 0)?.pitch).toEqual(f);
    expect(locksOf(lockNote(one, LINE, { bar: 0, at: 0 }, null)).find((l) => l.bar === 0)?.pitch).toBeNull();
    expect(locksOf(lockNote(one, LINE, { bar: 0, at: 0 }))).toEqual([{ bar: 1, at: 0, pitch: f }]);
  });
  it("bars take another school, and the tune's own school takes them back", () => {
    const some = schoolBars(newWork(TUNE), LINE, 1, 2, "Thirds");
    expect(some.lines[0]?.bars).toEqual([
      { bar: 1, school: "Thirds" },
      { bar: 2, school: "Thirds" },
    ]);
    expect(schoolBars(some, LINE, 2, 3, "Chord-fit").lines[0]?.bars).toEqual([{ bar: 1, school: "Thirds" }]);
  });
});

describe("editing the tune under decisions", () => {
  const work = lockNote(
    lockChords(schoolBars(newWork(TUNE), LINE, 2, 2, "Thirds"), [{ bar: 2, at: 0, ticks: bar, symbol: "Bm" }]),
    LINE,
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
    expect([moved.locks[0]?.bar, moved.lines[0]?.bars, locksOf(moved)[0]?.bar]).toEqual([
      1,
      [{ bar: 1, school: "Thirds" }],
      1,
    ]);
  });
  it("their own bar taken out lets them go", () => {
    const without = withTune(work, withBars([...bars.slice(0, 2), ...bars.slice(3)]));
    expect([without.locks, without.lines[0]?.bars, locksOf(without)]).toEqual([[], [], []]);
  });
  it("a bar rewritten in place keeps them, unless it got too short for where they begin", () => {
    const other = { ...(bars[2] as (typeof bars)[number]), events: [{ ticks: bar, pitches: [parsePitch("D5")] }] };
    expect(withTune(work, withBars(bars.map((b, i) => (i === 2 ? other : b)))).locks).toEqual(work.locks);
    const late = lockChords(newWork(TUNE), [{ bar: 2, at: bar / 2, ticks: bar / 2, symbol: "Bm" }]);
    const short = { ...other, events: [{ ticks: bar / 4, pitches: [parsePitch("D5")] }] };
    expect(withTune(late, withBars(bars.map((b, i) => (i === 2 ? short : b)))).locks).toEqual([]);
  });
});

describe("a deriver that remembers", () => {
  it("gives what deriving anew gives, after any change", () => {
    const remembers = makeDeriver();
    const start = newWork(TUNE);
    const other = { ...TUNE, strains: TUNE.strains.map((s) => ({ ...s, bars: s.bars.slice(1) })) };
    const steps: Work[] = [
      start,
      { ...start, style: "Colour" },
      lockChords(start, [{ bar: 1, at: 0, ticks: bar, symbol: "Bm" }]),
      lockChords(start, [{ bar: 1, at: 840, ticks: 1680, symbol: "Bm" }]),
      changeLine(start, LINE, { school: "Thirds", side: "above" }),
      lockNote(start, LINE, { bar: 0, at: 0 }, null),
      addLine(start, "Octave", "below"),
      withTune(start, other),
      start,
    ];
    for (const work of steps) {
      const { analysis, weave } = derive(work);
      expect(remembers.tune(work)).toEqual({ analysis, weave });
      expect(remembers.whole(work)).toEqual(derive(work));
    }
    const again = remembers.whole({ ...start, backing: "block" });
    expect(again.plan).toBe(remembers.whole(start).plan);
    expect(again.analysis).toBe(remembers.whole(start).analysis);
  });
  it("shows the new tune over the old chords, unless bars have changed their length", () => {
    const before = derive(newWork(TUNE));
    const note = TUNE.strains.map((s) => ({
      ...s,
      bars: s.bars.map((b) => ({ ...b, events: b.events.map((e) => ({ ...e, pitches: [parsePitch("E5")] })) })),
    }));
    const after = derive(newWork({ ...TUNE, strains: note }));
    const ahead = withNewTune(before, after)!;
    expect(ahead.analysis).toBe(after.analysis);
    const melody = (d: typeof before) => d.parts.filter((p) => p.role === "melody");
    expect(melody(ahead).map((p) => p.staff.bars)).toEqual(melody(after).map((p) => p.staff.bars));
    expect([ahead.plan, ahead.lines]).toEqual([before.plan, before.lines]);
    const fewer = derive(newWork({ ...TUNE, strains: TUNE.strains.map((s) => ({ ...s, bars: s.bars.slice(1) })) }));
    expect(withNewTune(before, fewer)).toBeUndefined();
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
    const work = lockNote(newWork(TUNE), LINE, { bar: 0, at: 0 }, null);
    expect(rivalLine(work, LINE, "Drone and pedal")?.school).toBe("Drone and pedal");
    expect(rivalLine(work, LINE, "Chord-fit")?.notes.find((n) => n.bar === 0 && n.at === 0)?.pitch).not.toBeNull();
    expect(derive(work).lines[0]?.notes.find((n) => n.bar === 0 && n.at === 0)?.pitch).toBeNull();
    expect(rivalLine(work, "line-9", "Thirds")).toBeNull();
  });
});

describe("lines and players", () => {
  it("a line is added with its player, changed with its side, and taken away again", () => {
    const two = addLine(newWork(TUNE), "Octave", "below");
    expect(two.players.map((p) => p.id)).toEqual(["melody", "moving", "second", "first"]);
    const line = two.lines[1]?.id as string;
    const high = changeLine(two, line, { side: "above", school: "High line" });
    expect(high.players.find((p) => p.line === line)?.role).toBe("high harmony");
    expect(derive(high).lines[1]).toMatchObject({ id: line, school: "High line", side: "above" });
    expect(removeLine(high, line)).toEqual(newWork(TUNE));
    expect(removeLine(newWork(TUNE), LINE)).toEqual(newWork(TUNE));
    expect(new Set(addLine(two, "Thirds", "below").players.map((p) => p.id)).size).toBe(5);
  });
  it("every part is in the range and clef of its own instrument", () => {
    const on = (name: string): Work => {
      const work = newWork(TUNE);
      return {
        ...work,
        lines: work.lines.map((l) => ({ ...l, instrument: name })),
        players: work.players.map((p) => ({ ...p, instrument: name })),
      };
    };
    for (const i of INSTRUMENTS) {
      const { parts } = derive(on(i.name));
      for (const part of parts) {
        expect(Part.safeParse(part).success).toBe(true);
        expect([part.instrument, part.staff.clef, part.staff.program]).toEqual([i.name, i.clef, i.program]);
        expect(part.staff.transposition ?? 0).toBe(i.transposition);
        if (part.role === "melody") continue;
        for (const p of part.staff.bars.flat().flatMap((e) => e.pitches)) {
          expect(midi(p), `${i.name}: ${part.role}`).toBeGreaterThanOrEqual(midi(i.lowest));
          expect(midi(p), `${i.name}: ${part.role}`).toBeLessThanOrEqual(midi(i.highest));
        }
      }
    }
  });
  it("another key takes everything along that was settled", () => {
    const settled = lockChords(lockNote(newWork(TUNE), LINE, { bar: 0, at: 0 }, parsePitch("A4")), [
      { bar: 0, at: 0, ticks: bar, symbol: "Bm/D" },
    ]);
    const moved = transposed(settled, moveBetween("D", "G", "down"));
    expect([moved.tune.key.tonic, locksOf(moved)[0]?.pitch, moved.locks[0]?.symbol]).toEqual([
      "G",
      parsePitch("D4"),
      "Em/G",
    ]);
    expect(derive(moved).lines[0]?.notes[0]).toMatchObject({ pitch: parsePitch("D4"), locked: true });
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
          const work = changeLine({ ...newWork(tune), style: style.name }, LINE, { school: school.name, side });
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
