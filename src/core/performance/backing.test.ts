import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { tuneOf } from "../../testing/abc";
import { places, QUARTER } from "../score";
import { chord } from "../theory";
import { backed, voicing } from ".";

const bar = (header: Parameters<typeof tuneOf>[1], music = "d8|") => places(tuneOf(music, header))[0]!;
const heard = (
  header: Parameters<typeof tuneOf>[1],
  music: string,
  symbols: [number, string][],
  backing: "bass and chord" | "block" = "bass and chord",
) =>
  backed(
    symbols.map(([at, symbol]) => ({ bar: 0, at: at * QUARTER, symbol })),
    bar(header, music),
    0,
    backing,
    [],
  ).notes;
const lowest = (notes: ReturnType<typeof heard>) =>
  notes.filter((s) => s.velocity > 45).map((s) => [s.at / QUARTER, s.noteNumber]);

describe("voicings", () => {
  test.each([
    ["C", [], [55, 60, 64]],
    ["G", [55, 60, 64], [55, 59, 62]],
    ["F", [55, 60, 64], [57, 60, 65]],
    ["Em", [55, 59, 62], [55, 59, 64]],
  ] as [string, number[], number[]][])("%s after %j is %j", (symbol, before, notes) => {
    expect(voicing(chord(symbol), before)).toEqual(notes);
  });
  const symbols = fc.constantFrom(
    "C",
    "Em",
    "F#m",
    "Bb",
    "D7",
    "Gsus4",
    "A5",
    "Baug",
    "C6",
    "G/B",
    "Edim",
    "Am7",
    "Ebmaj7",
  );
  it("are close, near the middle, made of chord notes, and move little", () => {
    fc.assert(
      fc.property(fc.array(symbols, { minLength: 1, maxLength: 12 }), (list) => {
        let before: number[] = [];
        for (const symbol of list) {
          const own = chord(symbol);
          const shape = voicing(own, before);
          expect(new Set(shape).size).toBe(shape.length);
          for (const key of shape) expect(own.classes).toContain(key % 12);
          expect([shape[0]! >= 47, shape.at(-1)! <= 76, shape.at(-1)! - shape[0]! < 12]).toEqual([true, true, true]);
          if (before.length)
            for (const key of shape) expect(Math.min(...before.map((b) => Math.abs(b - key)))).toBeLessThanOrEqual(6);
          before = shape;
        }
      }),
    );
  });
});

describe("backing", () => {
  it("bass and chord take turns in common time, root and fifth", () => {
    expect(lowest(heard({}, "d8|", [[0, "D"]]))).toEqual([
      [0, 50],
      [2, 45],
    ]);
  });
  it("in three the bass stands alone on the first beat", () => {
    expect(lowest(heard({ metre: "3/4" }, "d6|", [[0, "D"]]))).toEqual([[0, 50]]);
  });
  it("a jig has bass and chord on its two beats", () => {
    expect(heard({ metre: "6/8" }, "d6|", [[0, "G"]]).map((s) => s.at / QUARTER)).toEqual([0, 1.5, 1.5, 1.5]);
  });
  it("a chord of one beat has both at once; a slashed chord its own bass", () => {
    expect(
      heard({}, "d8|", [
        [0, "D/F#"],
        [1, "G"],
      ])
        .filter((s) => s.at === 0)
        .map((s) => s.noteNumber % 12)
        .sort((a, b) => a - b),
    ).toEqual([2, 6, 6, 9]);
  });
  it("held chords last to the next change", () => {
    const notes = heard(
      {},
      "d8|",
      [
        [0, "D"],
        [2, "A"],
      ],
      "block",
    );
    expect([...new Set(notes.map((s) => `${s.at / QUARTER}+${s.ticks / QUARTER}`))]).toEqual(["0+2", "2+2"]);
  });
  it("keeps clear of the bar's end and of text that is no chord", () => {
    expect(heard({}, "d8|", [[0, "hum"]])).toEqual([]);
    for (const s of heard({}, "d8|", [[3, "D"]])) expect(s.at + s.ticks).toBeLessThanOrEqual(4 * QUARTER);
  });
});
