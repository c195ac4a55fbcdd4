import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { INSTRUMENTS, type Instrument, instrument, LEVELS, tuned } from "../instruments";
import { chord, midi } from "../theory";
import { shapesFor, shapesOf } from ".";

/** A shape as it is written: a fret for each string from the lowest course, x where it is silent. */
const written = (on: Instrument, symbol: string, order = 0): string => {
  const shape = shapesOf(on, symbol)[order]!;
  return on.strings.map((_, i) => shape.held.find((h) => h.string === i)?.fret.label ?? "x").join("");
};

describe("chord shapes, worked out from the strings", () => {
  test.each([
    ["guitar", "C x32010 G 320003 D xx0232 A x02220 E 022100 Em 022000 Am x02210 D7 xx0212 A7 x02020"],
    ["mandolin", "C 0230 G 0023 D 2002 A 2240 Em 0220 Bm x022"],
    ["ukulele", "C 0003 G 0232 D 2220 A 2100 Am 2000 F 2010 D7 2223 A7 0100"],
    ["small lute", "C 2012 G 0000 D 0234 Em 2002"],
    ["banjo", "C x2012 G x0000 D x0234 Em x2002"],
    ["mountain dulcimer", "D 002 G 310"],
  ])("%s", (name, want) => {
    const pairs = want.match(/\S+ \S+/g)!.map((p) => p.split(" ") as [string, string]);
    expect(pairs.map(([symbol]) => `${symbol} ${written(instrument(name)!, symbol)}`)).toEqual(
      pairs.map(([symbol, shape]) => `${symbol} ${shape}`),
    );
  });
  const FRETTED = INSTRUMENTS.filter((i) => i.frets);
  const anyOn = fc.constantFrom(...FRETTED).chain((i) => fc.constantFrom(...i.tunings.map((t) => tuned(i, t.name)!)));
  const symbols = fc.constantFrom("D", "G", "A", "Em", "Bm", "F#m", "C", "Bb", "A7", "D7", "E7", "Gmaj7");
  it("sound notes of their chord only, one to a string, string plus fret, within a hand", () => {
    fc.assert(
      fc.property(anyOn, symbols, (on, symbol) => {
        const { classes } = chord(symbol);
        for (const { held } of shapesOf(on, symbol)) {
          expect(new Set(held.map((h) => h.string)).size).toBe(held.length);
          for (const { string, fret, noteNumber } of held) {
            expect(midi(on.strings[string]!.open) + fret.semitones).toBe(noteNumber);
            expect(classes).toContain(noteNumber % 12);
            expect(on.strings[string]!.shortFrom).toBeUndefined();
          }
          const stopped = held.map((h) => h.fret.semitones).filter((f) => f > 0);
          if (stopped.length > 0) expect(Math.max(...stopped) - Math.min(...stopped)).toBeLessThanOrEqual(3);
        }
      }),
      { numRuns: 80 },
    );
  });
  it("come cheapest first, and follow each other with few fingers moved", () => {
    const guitar = instrument("guitar")!;
    for (const symbol of ["D", "F#m", "Bb"]) {
      const costs = shapesOf(guitar, symbol).map((s) => s.cost);
      expect(costs).toEqual([...costs].sort((a, b) => a - b));
    }
    const found = shapesFor(guitar, ["G", "Em", "G"]);
    expect(found.every((s) => s !== null)).toBe(true);
    expect(shapesFor(instrument("fiddle")!, ["G"])).toEqual([null]);
  });
});

describe("shapes by level", () => {
  const LEVEL_SHAPES = fc.constantFrom(...INSTRUMENTS.filter((i) => i.frets));
  const most = { "First sounds": 2, Steady: 3, Moving: 4, Fluent: 4, Leading: 4 } as const;
  const symbols = fc.constantFrom("D", "G", "A", "Em", "Bm", "F#m", "C", "Bb", "A7", "F", "G5", "D5");
  it("take no more fingers than a level has, and no barre before it is learned", () => {
    fc.assert(
      fc.property(LEVEL_SHAPES, symbols, fc.constantFrom(...LEVELS), (on, symbol, level) => {
        for (const { fingers, barre, held } of shapesOf(on, symbol, level)) {
          expect(fingers).toBeLessThanOrEqual(most[level]);
          expect(fingers).toBeLessThanOrEqual(held.length);
          if (level === "First sounds" || level === "Steady") expect(barre).toBe(0);
          if (level === "Moving") expect(barre).toBeLessThanOrEqual(3);
        }
      }),
      { numRuns: 120 },
    );
  });
  test.each([
    ["guitar", "G", "First sounds", "xxx003"],
    ["guitar", "G", "Steady", "320003"],
    ["guitar", "Em", "First sounds", "022000"],
    ["guitar", "F", "Steady", "xxx211"],
    ["ukulele", "C", "First sounds", "0003"],
    ["ukulele", "F", "First sounds", "2010"],
    ["mandolin", "G5", "Fluent", "0053"],
  ] as const)("on the %s %s for %s: %s", (name, symbol, level, want) => {
    const on = instrument(name)!;
    const [shape] = shapesOf(on, symbol, level);
    expect(on.strings.map((_, i) => shape!.held.find((h) => h.string === i)?.fret.label ?? "x").join("")).toBe(want);
  });
  it("an open fifth has no third, whatever it is held on", () => {
    for (const on of INSTRUMENTS.filter((i) => i.frets))
      for (const { held } of shapesOf(on, "D5"))
        expect(held.every((h) => [2, 9].includes(h.noteNumber % 12))).toBe(true);
  });
});
