import { describe, expect, it, test } from "vitest";
import { midi } from "../theory";
import { INSTRUMENTS, Instrument, instrument, LEVELS, rangeOf, spansOf, tuned } from ".";

const named = (name: string) => {
  const found = instrument(name);
  if (!found) throw new Error(name);
  return found;
};
describe("the catalogue", () => {
  test.each(INSTRUMENTS.map((i) => [i.name, i] as const))("%s: range, strings and hand agree", (_, i) => {
    expect(midi(i.lowest)).toBeLessThan(midi(i.highest));
    expect(i.strings.length > 0).toBe(i.hand !== undefined);
    expect(i.hand === "frets").toBe(i.frets !== undefined);
    expect(i.program).toBeGreaterThanOrEqual(0);
    expect(i.program).toBeLessThan(128);
    if (i.strings.length) expect(Math.min(...i.strings.map((s) => midi(s.open)))).toBe(midi(i.lowest));
    if (i.frets)
      expect(i.frets.map((f) => f.semitones)).toEqual([...i.frets.map((f) => f.semitones)].sort((a, b) => a - b));
  });
  it("finds by name whatever the capitals, and nothing by a wrong name", () => {
    expect([instrument(" Fiddle ")?.name, instrument("MOUNTAIN DULCIMER")?.name, instrument("kazoo")]).toEqual([
      "fiddle",
      "mountain dulcimer",
      undefined,
    ]);
  });
  it("fiddle, viola and cello are tuned in fifths", () => {
    for (const name of ["fiddle", "viola", "cello", "mandolin"]) {
      const sounds = named(name).strings.map((s) => midi(s.open));
      expect(
        sounds.slice(1).map((s, i) => s - (sounds[i] as number)),
        name,
      ).toEqual([7, 7, 7]);
    }
  });
});

describe("levels", () => {
  const range = (name: string, level: (typeof LEVELS)[number]) => {
    const { lowest, highest } = rangeOf(named(name), level);
    return [lowest, highest];
  };
  test.each([
    ["whistle", "First sounds", 74, 83],
    ["whistle", "Leading", 74, 98],
    ["Eb whistle", "Steady", 75, 89],
    ["flute", "First sounds", 67, 74],
    ["flute", "Leading", 62, 86],
    ["soprano", "Steady", 62, 76],
    ["soprano", "Leading", 62, 81],
    ["guitar", "First sounds", 55, 67],
    ["guitar", "Leading", 40, 79],
    ["mandolin", "First sounds", 62, 74],
    ["mountain dulcimer", "First sounds", 62, 74],
    ["fiddle", "Moving", 55, 83],
  ] as const)("%s, %s: %d to %d", (name, level, lowest, highest) => {
    expect(range(name, level)).toEqual([lowest, highest]);
  });
  it("never take away what a level below has", () => {
    for (const on of INSTRUMENTS)
      LEVELS.slice(1).forEach((level, i) => {
        const [now, before] = [rangeOf(on, level), rangeOf(on, LEVELS[i]!)];
        expect(now.lowest, `${on.name} ${level}`).toBeLessThanOrEqual(before.lowest);
        expect(now.highest, `${on.name} ${level}`).toBeGreaterThanOrEqual(before.highest);
      });
  });
  it("open the hand wider level by level, and wider up the neck", () => {
    for (const on of INSTRUMENTS.filter((i) => i.strings.length > 0)) {
      LEVELS.forEach((level, i) => {
        const spans = spansOf(on, level);
        expect(spans.map((s) => s.span)).toEqual([...spans.map((s) => s.span)].sort((a, b) => a - b));
        const before = LEVELS[i - 1];
        const narrower = before ? spansOf(on, before) : [];
        for (const [k, s] of narrower.entries()) expect(spans[k]!.span).toBeGreaterThanOrEqual(s.span);
      });
    }
  });
});

describe("an instrument as data", () => {
  const fiddle = named("fiddle");
  test.each([
    ["a range that runs down", { lowest: fiddle.highest, highest: fiddle.lowest }],
    ["strings without a hand", { hand: undefined }],
    ["frets on a hand that has none", { frets: [{ label: "0", semitones: 0 }] }],
    ["a transposition that is not whole octaves", { transposition: 5 }],
    ["a program General MIDI does not have", { program: 128 }],
    ["a clef nobody writes", { clef: "soprano" }],
  ])("is refused with %s", (_, change) => {
    expect(Instrument.safeParse(fiddle).success).toBe(true);
    expect(Instrument.safeParse({ ...fiddle, ...change }).success).toBe(false);
  });
  it("has the strings of the tuning that is asked for, its usual one without asking, none that it does not know", () => {
    for (const own of INSTRUMENTS) {
      expect(tuned(own, null)).toEqual(own);
      expect(tuned(own, "no such tuning")).toBeUndefined();
      for (const { name, strings } of own.tunings) expect(tuned(own, name)?.strings).toEqual(strings);
    }
  });
  it("sounds where it is written, but for what reads the fiddle's page an octave down, and the whistle", () => {
    const small = (name: string) => / whistle$/.test(name);
    for (const i of INSTRUMENTS.filter((x) => small(x.name))) expect(i.transposition).toBe(12);
    const moved = INSTRUMENTS.filter((i) => i.transposition !== 0 && !small(i.name)).map((i) => [
      i.name,
      i.transposition,
    ]);
    expect(moved).toEqual([
      ["octave mandola", -12],
      ["guitar", -12],
      ["banjo", -12],
      ["tenor banjo", -12],
      ["bass", -12],
      ["plucked bass", -12],
      ["whistle", 12],
      ["soprano recorder", 12],
      ["tenor", -12],
    ]);
  });
  test.each([
    ["guitar", "EADGBE DADGBE DADGAD DGDGBD DADF#AD"],
    ["banjo", "GDGBD GCGCD GCGBD GDGCD F#DF#AD"],
    ["mandolin", "GDAE AEAE GDGD ADAE"],
    ["mountain dulcimer", "DAD DAA DAC DAG"],
    ["tenor banjo", "GDAE CGDA"],
    ["small lute", "DGBD DGBE"],
  ])("%s has its tunings by their letters, the usual one first", (name, letters) => {
    expect(named(name).tunings.map((t) => t.name)).toEqual(letters.split(" "));
    expect(named(name).strings).toEqual(named(name).tunings[0]?.strings);
    expect(tuned(named(name), letters.split(" ").at(-1)?.toLowerCase() ?? "")).toBeDefined();
  });
  it("tells two tunings of the same letters apart", () => {
    expect(named("ukulele").tunings.map((t) => t.name)).toContain("GCEA, low G");
  });
  test.each([
    ["Five-string banjo", "banjo"],
    ["violin", "fiddle"],
    ["D whistle", "whistle"],
    ["constructor", undefined],
  ])("%s is understood as %s", (asked, name) => {
    expect(instrument(asked)?.name).toBe(name);
  });
  it("knows the banjo's short string: the fret it begins at, above all the others", () => {
    const { strings } = named("banjo");
    const short = strings.filter((s) => s.shortFrom !== undefined);
    expect(short).toHaveLength(1);
    expect(short[0]!.shortFrom).toBe(5);
    expect(midi(short[0]!.open)).toBe(Math.max(...strings.map((s) => midi(s.open))));
  });
  it("counts the dulcimer's frets as its players do, half frets with a plus", () => {
    const labels = named("mountain dulcimer").frets!.map((f) => f.label);
    expect(labels.slice(0, 3)).toEqual(["0", "1", "2"]);
    expect(labels).toContain("6+");
  });
});
