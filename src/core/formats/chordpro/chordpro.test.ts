import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { tuneOf } from "../../../testing/abc";
import { analyse } from "../../analysis";
import { locksFromSheet } from "../../chords";
import { QUARTER, type Tune } from "../../score";
import { readChordPro, writeChordPro } from ".";

const chordsOf = (tune: Tune) =>
  analyse(tune).places.flatMap((p) => p.bar.chords.map((c) => ({ bar: p.index, at: c.at, symbol: c.symbol })));
const written = (tune: Tune) => {
  const { places, form } = analyse(tune);
  return writeChordPro({ tune, places, chords: chordsOf(tune), lines: form.phrases.map((p) => p.from) });
};
const SONG =
  '"D"d2 d2 f2 d2|"G"g4 "A7"e4|"D"d8|\nw: Down by the har- bour wall to- night\nw: Up on the hill-* top all a- lone';

describe("ChordPro out", () => {
  it("puts each chord before its syllable, verse by verse", () => {
    const text = written(tuneOf(SONG, { more: "Q:1/4=100\n" }));
    expect(text.split("\n")).toEqual([
      "{title: Test}",
      "{key: D}",
      "{time: 4/4}",
      "{tempo: 100}",
      "",
      "{start_of_verse}",
      "[D]Down by the har[G]bour [A7]wall [D]to",
      "{end_of_verse}",
      "",
      "{start_of_verse}",
      "[D]Up on the hill[G] [A7]top [D]all",
      "{end_of_verse}",
      "",
    ]);
  });
  it("puts a change inside a held note after its syllable", () => {
    const tune = tuneOf('"D"d8|\nw: long');
    const { places } = analyse(tune);
    expect(
      writeChordPro({
        tune,
        places,
        chords: [
          { bar: 0, at: 0, symbol: "D" },
          { bar: 0, at: 2 * QUARTER, symbol: "G" },
        ],
        lines: [0],
      }),
    ).toContain("[D]long [G]");
  });
  it("writes a tune without words as a grid with repeats", () => {
    expect(written(tuneOf('|:"D"d4 d4|"G"g4 "A"a4:|'))).toContain(
      "{start_of_grid}\n|: D . . . | G . A . :|\n{end_of_grid}",
    );
  });
  it("lets no markup of a title or word through", () => {
    const text = written(tuneOf('"D"d8|\nw: [x]{y}', { more: "C:a}{new_song}\n" }));
    expect(text).not.toMatch(/\{new_song\}|\[x\]|\{y\}/);
  });
});

describe("ChordPro in", () => {
  it("reads title, words and chords; passes over comments, tabs and annotations", () => {
    const sheet = readChordPro(
      "{title: Quay Song}\n# note\n{sot}\n[D]not this\n{eot}\n[D]Down by the [G]quay [*softly] [A7]we [hum]go",
    );
    expect(sheet).toMatchObject({ title: "Quay Song", letters: "downbythequaywego" });
    expect(sheet.chords).toEqual([
      { symbol: "D", letters: 0, line: 6 },
      { symbol: "G", letters: 9, line: 6 },
      { symbol: "A7", letters: 13, line: 6 },
    ]);
    expect(sheet.remarks).toEqual(['Line 6, column 41: "hum" is not a chord; left out.']);
  });
  test.each([
    ["words only", "Write chords in square brackets"],
    ["x".repeat(200_001), "longer than"],
  ])("refuses %#", (text, why) => {
    expect(() => readChordPro(text)).toThrow(why);
  });
  it("never fails otherwise, whatever the text", () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 200 }), (text) => {
        try {
          readChordPro(text);
        } catch (e) {
          expect((e as Error).name).toBe("FormatError");
        }
      }),
    );
  });
});

describe("a song sheet on its tune", () => {
  const tune = tuneOf(SONG);
  const { places } = analyse(tune);
  const starts = (text: string) =>
    locksFromSheet(readChordPro(text), places)?.map((l) => `${l.bar}:${l.at / QUARTER} ${l.symbol}`);
  it("lays chords on their syllables and holds each to the next", () => {
    expect(starts("[Bm]Down by the har[Em]bour [F#]wall [Bm]tonight")).toEqual([
      "0:0 Bm",
      "1:0 Em",
      "1:2 F#",
      "2:0 Bm",
    ]);
  });
  it("finds its way where words are spelled otherwise", () => {
    expect(starts("[Bm]Doon by tha har[Em]bor [F#]wall, [Bm]to-nicht!")).toEqual([
      "0:0 Bm",
      "1:0 Em",
      "1:2 F#",
      "2:0 Bm",
    ]);
  });
  it("reads back what was written", () => {
    expect(starts(written(tune))).toEqual(["0:0 D", "1:0 G", "1:2 A7", "2:0 D"]);
  });
  it("gives nothing for other words, or for a tune without words", () => {
    expect(starts("[C]Quite [F]another [G]song about [C]a fox in the henhouse yard")).toBeUndefined();
    expect(locksFromSheet(readChordPro("[C]la"), analyse(tuneOf("d8|")).places)).toBeUndefined();
  });
});
