import { describe, expect, it, test } from "vitest";
import { tuneOf } from "../../testing/abc";
import {
  beatAt,
  beatsWords,
  beatTicks,
  barTicks,
  type Metre,
  momentWords,
  onPaper,
  openingRepeats,
  places,
  playingOrder,
  QUARTER,
  quarters,
  slice,
  strength,
  timeline,
  tuneSheet,
} from ".";

describe("time", () => {
  test.each([
    [{ beats: 4, unit: 4 }, 4, 1],
    [{ beats: 6, unit: 8 }, 3, 1.5],
    [{ beats: 9, unit: 8 }, 4.5, 1.5],
    [{ beats: 12, unit: 8 }, 6, 1.5],
    [{ beats: 3, unit: 4 }, 3, 1],
    [{ beats: 2, unit: 2, symbol: "cut" }, 4, 2],
    [{ beats: 3, unit: 8 }, 1.5, 1.5],
  ] as [Metre, number, number][])("%j has a bar of %d and a beat of %d quarters", (metre, bar, beat) => {
    expect(barTicks(metre) / QUARTER).toBe(bar);
    expect(beatTicks(metre) / QUARTER).toBe(beat);
  });

  it("numbers bars as players do: the pickup 0, a bar split by a repeat once", () => {
    const found = places(tuneOf("A2|d8|d6:|A2|e8|e6|]"));
    expect(found.map((p) => p.number)).toEqual([0, 1, 2, 2, 3, 4]);
    expect(found.map((p) => p.pickup)).toEqual([true, false, false, true, false, false]);
    expect(found.map((p) => quarters(p.at))).toEqual([0, 1, 5, 8, 9, 13]);
    expect(beatAt(found[0]!, 0)).toBe(4);
  });

  it("weighs moments of the bar", () => {
    const [place] = places(tuneOf("abcd efga"));
    expect([0, 1, 2, 3, 4, 5, 6, 7].map((e) => strength(place!, (e * QUARTER) / 2))).toEqual([3, 0, 1, 0, 2, 0, 1, 0]);
    const [jig] = places(tuneOf("abc def", { metre: "6/8" }));
    expect([0, 1, 2, 3, 4, 5].map((e) => strength(jig!, (e * QUARTER) / 2))).toEqual([3, 0, 0, 2, 0, 0]);
  });

  it("follows changes of metre and key", () => {
    const found = places(tuneOf("d8|[M:3/4][K:G]g6|g6|]"));
    expect(found.map((p) => p.metre.beats)).toEqual([4, 3, 3]);
    expect(found.map((p) => p.key.tonic)).toEqual(["D", "G", "G"]);
  });

  test.each([
    [1, "1"],
    [1.5, "1½"],
    [0.25, "¼"],
    [2 / 3, "⅔"],
    [3, "3"],
  ])("%d beats read %s", (beats, words) => {
    expect(beatsWords(beats)).toBe(words);
  });
});

describe("a sheet on paper", () => {
  const tune = tuneOf("|:A2|d2fd Adfd|gfed B2A2:|a2fa dafa|gfed c2A2:|");
  const sheet = onPaper(tuneSheet(tune, places(tune)), tune);
  it("opens every repeat with its sign, whether the file wrote it or not", () => {
    const opened = sheet.places.filter((p) => p.bar.repeatStart).map((p) => p.index);
    expect(opened).toEqual([...openingRepeats(places(tune))]);
    expect(opened.length).toBe(new Set(sheet.places.map((p) => p.strain)).size);
  });
  it("has its strains' letters, where there are several", () => {
    expect(sheet.letters?.map((l) => l.letter)).toEqual(tune.strains.map((s) => s.label));
    const one = tuneOf("ABcd|");
    expect(onPaper(tuneSheet(one, places(one)), one).letters).toBeUndefined();
  });
});

describe("moments in words", () => {
  const bars = (abc: string, metre: string) => places(tuneOf(abc, { metre }));
  it.each([
    ["4/4", "abcd efga|", 1, 0, "beat 1"],
    ["4/4", "abcd efga|", 1, QUARTER, "beat 2"],
    ["4/4", "abcd efga|", 1, QUARTER / 2, "the second eighth of beat 1"],
    ["4/4", "abcd efga|", 1, (7 / 4) * QUARTER, "the fourth sixteenth of beat 2"],
    ["6/8", "abc def|", 1, 2 * QUARTER, "the second eighth of beat 2"],
    ["4/4", "abcd efga|", 1, QUARTER / 3, "the second triplet eighth of beat 1"],
    ["4/4", "e|abcd efga|", 0, 0, "an eighth before the bar"],
    ["6/8", "de|abc def|", 0, 0, "a quarter before the bar"],
  ] as const)("%s %s", (metre, abc, bar, into, words) => {
    const all = bars(abc, metre);
    const place = all[Math.min(bar, all.length - 1)]!;
    expect(momentWords(place, place.at + into)).toBe(words);
  });
});

describe("playing order", () => {
  const order = (music: string) => playingOrder(places(tuneOf(music)));
  test.each([
    ["no repeats", "a8|b8|c8|]", [0, 1, 2]],
    ["a repeat without a start", "a8|b8:|c8|]", [0, 1, 0, 1, 2]],
    ["two strains", "|:a8|b8:||:c8|d8:|", [0, 1, 0, 1, 2, 3, 2, 3]],
    ["endings without brackets", "|:a8|1 b8:|2 c8||d8|]", [0, 1, 0, 2, 3]],
    ["endings with brackets", "|:a8|[1 b8:|[2 c8|]d8|e8|]", [0, 1, 0, 2, 3, 4]],
    ["three endings", "|:a8|[1,2 b8:|[3 c8|]", [0, 1, 0, 1, 0, 2]],
    ["a start that nothing ends", "|:a8|b8|]", [0, 1]],
    ["double repeat signs", "a8::b8:|", [0, 0, 1, 1]],
  ])("%s", (_, music, expected) => {
    expect(order(music)).toEqual(expected);
  });
});

it("cuts sheets with their chords", () => {
  const tune = tuneOf('"D"a8|"G"b8|"A"c8|]');
  const cut = slice(tuneSheet(tune, places(tune)), 1, 3);
  expect(cut.chords.map((c) => [c.bar, c.symbol])).toEqual([
    [0, "G"],
    [1, "A"],
  ]);
  expect(cut.staves[0]?.bars).toHaveLength(2);
  expect(timeline(cut.places)).toHaveLength(2);
});
