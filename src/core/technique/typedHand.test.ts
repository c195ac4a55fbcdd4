import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { tuneOf } from "../../testing/abc";
import { instrument, type Level, tuned } from "../instruments";
import { places } from "../score";
import { arrange, handText, placeLabel, readHand } from ".";

const made = (
  name: string,
  abc: string,
  { key = "D", level = "Fluent" as Level, tuning = null as string | null } = {},
) =>
  arrange({
    places: places(tuneOf(abc, { key })),
    instrument: tuned(instrument(name)!, tuning)!,
    kind: "melody",
    level,
    bpm: 90,
  })!;
const typed = (name: string, abc: string, text: string, more = {}) => {
  const { board, strokes } = made(name, abc, more);
  const read = readHand(board, strokes, text);
  return "faults" in read
    ? read.faults.map((f) => `${f.order} ${f.words}`)
    : read.places.map((p) => `${p.at / 3360} ${p.string}:${p.fret}`);
};

describe("a bar's places, typed", () => {
  test.each([
    ["mandolin", "A2FA|", "Moving", "2:0 3:4 2:0"],
    ["fiddle", "A2FA|", "Moving", "A0 D2 A0"],
    ["fiddle", "c2=cB|", "Moving", "A2 AL2 A1"],
    ["banjo", "B2dg|", "Moving", "2:0 1:0 1:5"],
    ["mountain dulcimer", "D2FA|", "Moving", "1:0 1:2 1:4"],
  ] as const)("on the %s %s stands as %s", (name, abc, level, text) => {
    const { board, strokes } = made(name, abc, { level, key: name === "banjo" ? "G" : "D" });
    expect(handText(board, strokes)).toBe(text);
    expect(readHand(board, strokes, text)).toEqual({ places: [] });
  });
  test.each([
    ["mandolin", "A2FA|", "3:7 - -", ["0 3:7"]],
    ["mandolin", "A2FA|", "3:7", ["0 3:7"]],
    ["guitar", "A2FA|", "4:7 4:4 4:7", ["0 4:7", "1.5 4:7"]],
    ["fiddle", "A2FA|", "D4 d2 a0", ["0 3:7"]],
    ["fiddle", "A2FA|", "- - D4", ["1.5 3:7"]],
    ["fiddle", "e2FA|", "A4 - -", ["0 2:7"]],
  ] as const)("on the %s %s, %s", (name, abc, text, want) => {
    expect(typed(name, abc, text)).toEqual(want);
  });
  test.each([
    ["mandolin", "3:5 - -", ["0 3:5 sounds G4; the tune has A4."]],
    ["mandolin", "9:5 - -", ["0 There is no string 9; they are counted from 1 to 4."]],
    ["mandolin", "x", ['0 "x" is no place. Write string and fret: 2:3.']],
    ["mandolin", "3:19", ["0 3:19 is out of reach for Fluent."]],
    ["mandolin", "- - - -", ["3 The bar has 3 notes; here are 4."]],
    ["fiddle", "B1", ["0 There is no B string."]],
    ["fiddle", "A5", ['0 "A5" is no place. Write string and finger: D1, or DL2 for a low second.']],
    ["fiddle", "DH4", ["0 Nothing lies under H4."]],
    ["fiddle", "AL2 - D3", ["0 AL2 sounds C5; the tune has A4.", "2 D3 sounds G4; the tune has A4."]],
  ] as const)("on the %s %s: %s", (name, text, want) => {
    expect(typed(name, "A2FA|", text)).toEqual(want);
  });
  it("keeps to the strings a level plays on", () => {
    expect(typed("mandolin", "A2FA|", "4:14", { level: "First sounds" })).toEqual([
      "0 4:14 is out of reach for First sounds.",
    ]);
    expect(typed("guitar", "e2dB|", "- - 4:0", { level: "First sounds" })).toEqual([
      "2 4:0 sounds D3; the tune has B3.",
    ]);
  });
  it("tells strings of one letter apart by what they sound", () => {
    expect(typed("fiddle", "A,2EA|", "A0 E0 A0", { tuning: "AEAE", key: "A" })).toEqual([]);
  });
  it("names other places in the player's words", () => {
    const { board } = made("fiddle", "A2FA|");
    expect(["0", "3", "7", "10"].map((fret) => placeLabel(board, { string: 3, fret }))).toEqual([
      "D string, open",
      "D string, low 2",
      "D string, 4",
      "D string, up the neck",
    ]);
    expect(placeLabel(made("guitar", "A2|").board, { string: 2, fret: "3" })).toBe("string 2, fret 3");
  });
  it("what is typed from what stands changes nothing; other places lock exactly those notes", () => {
    const notes = fc.array(fc.constantFrom("D", "E", "F", "G", "A", "B", "c", "d", "e"), {
      minLength: 1,
      maxLength: 8,
    });
    fc.assert(
      fc.property(notes, fc.constantFrom("fiddle", "viola", "cello", "mandolin", "guitar", "banjo"), (abc, name) => {
        const { board, strokes } = made(name, `${abc.join("")}|`, { level: "Leading" });
        expect(readHand(board, strokes, handText(board, strokes))).toEqual({ places: [] });
      }),
      { numRuns: 80 },
    );
  });
});
