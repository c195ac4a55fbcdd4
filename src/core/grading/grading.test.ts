import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { tuneOf } from "../../testing/abc";
import { arbitraryTune } from "../../testing/arbitraryTune";
import { derive, lockChords, newWork, sheetOf, freeChords, unlockChords, withTune, Work } from "../ensemble";
import { FIDDLE } from "../instruments";
import { firstPosition } from "../technique";
import { addStrain, joinBars, lengthOf, moveStep, type Tune } from "../score";
import { midi, parseChord, parsePitch, pitchName } from "../theory";

const first = (tune: Tune) => {
  const derived = derive(newWork(tune));
  return { derived, part: derived.parts[2]! };
};
const notes = (tune: Tune) =>
  first(tune)
    .part.staff.bars.flat()
    .filter((e) => e.pitches.length)
    .map((e) => pitchName(e.pitches[0]!));

describe("One note per chord", () => {
  it("is one long note per chord, on open strings where they fit", () => {
    const { part } = first(tuneOf('"D"d2fd Adfd|"G"g2bg "A"a2ec|"D"d8|'));
    expect(part.staff.bars.map((b) => b.map((e) => lengthOf([e]) / 3360))).toEqual([[4], [2, 2], [4]]);
    for (const e of part.staff.bars.flat()) expect(e.technique?.notes).toMatchObject([{ finger: 0 }]);
    expect(part.staff.bars.flat().map((e) => e.technique?.notes?.[0]?.string)).toEqual([3, 3, 2, 2]);
  });
  it("holds a note two chords have in common through a quick change, and changes where there is none", () => {
    expect(notes(tuneOf('"D"d4 f2 "A"e2|"D"d8|'))).toEqual(["A4", "A4"]);
    expect(notes(tuneOf('"D"d4 f2 "G"g2|"C"c8|', { key: "D" })).length).toBeGreaterThanOrEqual(2);
  });
  it("uses the first finger where no open string is in the chord", () => {
    expect(notes(tuneOf('"B"b8|', { key: "B" })).every((n) => ["B4", "F#5"].includes(n))).toBe(true);
  });
  it("lowers the first finger rather than reach for another", () => {
    const [note] = notes(tuneOf('"Ab"a8|', { key: "Ab" }));
    expect(firstPosition(FIDDLE, midi(parsePitch(note!)))).toMatchObject({ finger: 1, low: true });
  });
  it("holds for any tune: chord notes, within reach, bars filled", () => {
    fc.assert(
      fc.property(arbitraryTune({ maxBars: 5 }), (tune) => {
        const { derived, part } = first(tune);
        part.staff.bars.forEach((bar, i) => {
          expect(lengthOf(bar)).toBe(derived.analysis.places[i]?.ticks);
          let at = 0;
          for (const event of bar) {
            const chord = derived.plan.chords.findLast((c) => c.bar === i && c.at <= at);
            for (const p of event.pitches) {
              for (const under of derived.plan.chords.filter(
                (c) => c.bar === i && c.at < at + event.ticks && c.at + c.ticks > at,
              ))
                expect(parseChord(under.symbol)?.classes).toContain(midi(p) % 12);
              expect(firstPosition(FIDDLE, midi(p))).toBeDefined();
              const easy = parseChord(chord!.symbol)!.classes.some((s) => [7, 2, 9, 4, 11, 6].includes(s));
              if (easy) expect(firstPosition(FIDDLE, midi(p))!.finger).toBeLessThanOrEqual(1);
            }
            at += event.ticks;
          }
        });
      }),
      { numRuns: 50 },
    );
  });
});

describe("a whole work", () => {
  const tune = tuneOf("d2fd Adfd|e2ge Bege|d2fd Adfa|gfed d4|");
  it("gives three parts over the same bars, and sheets of one or all", () => {
    const work = newWork(tune);
    const derived = derive(work);
    expect(derived.parts.map((p) => p.name)).toEqual(["Tune", "Harmony", "One note per chord"]);
    expect(sheetOf(work, derived).staves).toHaveLength(3);
    expect(sheetOf(work, derived, "first").staves.map((s) => s.name)).toEqual(["One note per chord"]);
    expect(derive(work)).toEqual(derived);
  });
  it("keeps locks through every later stage, and lets them go again", () => {
    const place = { bar: 1, at: 0, ticks: 13440 };
    const locked = lockChords(newWork(tune), [{ ...place, symbol: "Em" }]);
    expect(Work.safeParse(locked).success).toBe(true);
    const derived = derive(locked);
    expect(derived.plan.chords.find((c) => c.bar === 1)).toMatchObject({ symbol: "Em", locked: true });
    expect(parseChord("Em")?.classes).toContain(midi(derived.parts[2]!.staff.bars[1]![0]!.pitches[0]!) % 12);
    expect(lockChords(locked, [{ ...place, symbol: "G" }]).locks).toHaveLength(1);
    expect(unlockChords(locked, [place]).locks).toMatchObject([{ symbol: "Em", kept: true }]);
    expect(freeChords(locked, [place]).locks).toEqual([]);
  });
  it("moves locks with their bars when the tune is edited, and lets go of those whose bar is gone", () => {
    const locked = lockChords(newWork(tune), [{ bar: 2, at: 0, ticks: 13440, symbol: "Em" }]);
    const longer = withTune(locked, addStrain(tune, "Intro", 2).tune!);
    expect(longer.locks.map((l) => l.bar)).toEqual([4]);
    expect(derive(longer).plan.chords.find((c) => c.bar === 4)).toMatchObject({ symbol: "Em", locked: true });
    expect(withTune(locked, joinBars(tune, 2).tune!).locks).toEqual([]);
    expect(withTune(locked, moveStep(tune, { bar: 2, event: 0 }, 1).tune!).locks).toHaveLength(1);
  });
});
