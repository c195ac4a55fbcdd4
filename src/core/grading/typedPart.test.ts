import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { tuneOf } from "../../testing/abc";
import { places } from "../score";
import { barText, type PartNote, readBar } from ".";

const [place] = places(tuneOf("d2fd Adfd|", { key: "D" }));
const KEY = { tonic: "D", mode: "major" } as const;
const read = (text: string) => readBar(text, place!);

describe("a bar of a part, typed", () => {
  test.each([
    [
      "D4:1 z:1 A4+D5:2",
      [
        [0, 1, [62]],
        [2, 2, [69, 74]],
      ],
    ],
    [
      "F#4:1/2 G4:3/2 Bb3:2",
      [
        [0, 0.5, [66]],
        [0.5, 1.5, [67]],
        [2, 2, [58]],
      ],
    ],
    ["z:4", []],
  ] as const)("%s", (text, want) => {
    const found = read(text);
    expect("notes" in found && found.notes.map((n) => [n.at / 3360, n.ticks / 3360, n.pitches])).toEqual(want);
  });
  it("a drum has heavy and light", () => {
    const found = read("h:1 l:1 z:1 l:1");
    expect("notes" in found && found.notes.map((n) => n.stroke)).toEqual(["heavy", "light", "light"]);
  });
  test.each([
    ["D4", '"D4" is no note. Write pitch and length in quarters'],
    ["H4:1 z:3", '"H4" is no pitch'],
    ["D4:0 z:4", '"D4:0" has no length'],
    ["D4:1", "The bar has 4 quarters; here 3 are missing."],
    ["D4:9/2", "The bar has 4 quarters; here are 1/2 too many."],
  ])("%s: %s", (text, words) => {
    const found = read(text);
    expect("fault" in found && found.fault).toContain(words);
  });
  it("is read back as it stands", () => {
    const note = fc.tuple(
      fc.constantFrom(420, 840, 1120, 1680, 2240, 3360),
      fc.integer({ min: 48, max: 84 }),
      fc.boolean(),
    );
    fc.assert(
      fc.property(fc.array(note, { maxLength: 5 }), (all) => {
        let at = 0;
        const notes: PartNote[] = [];
        for (const [ticks, pitch, rest] of all) {
          if (at + ticks > place!.ticks) break;
          if (!rest) notes.push({ bar: place!.index, at, ticks, pitches: [pitch] });
          at += ticks;
        }
        expect(read(barText(notes, place!, KEY))).toEqual({ notes });
      }),
      { numRuns: 200 },
    );
  });
});
