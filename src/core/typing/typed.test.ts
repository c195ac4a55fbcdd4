import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { arbitraryKey } from "../../testing/arbitraryTune";
import { tuneAbc } from "../formats";
import { FIDDLE, instrument } from "../instruments";
import { barTicks, places, timeline, Tune } from "../score";
import { midi } from "../theory";
import { readTyped, stepOf, tokenFor, TYPED, type TypedSetting, type TypedSpelling } from ".";

const setting = (spelling: TypedSpelling, more: Partial<TypedSetting> = {}): TypedSetting => ({
  spelling,
  key: { tonic: "D", mode: "major" },
  metre: { beats: 4, unit: 4 },
  step: 1680,
  on: FIDDLE,
  ...more,
});
const typed = (text: string, spelling: TypedSpelling, more?: Partial<TypedSetting>) => {
  const read = readTyped(text, setting(spelling, more));
  return {
    abc: read.tune
      ? tuneAbc(read.tune)
          .replace(/^[\s\S]*\nK:.*\n/, "")
          .replace(/\s/g, "")
      : undefined,
    problems: read.problems.map((p) => [text.slice(p.from, p.to).trim(), p.message]),
  };
};

/** What someone types, and the ABC a musician would write for it (L:1/8, K:D). */
const LINES: [string, TypedSpelling, string, string, Partial<TypedSetting>?][] = [
  ["the key gives the sharps", "letters", "D E F G A B c d", "DEFGABcd|]"],
  ["the nearest note is meant", "letters", "D A D A", "DA,DA,|]"],
  ["arrows ask for the next one", "letters", "D >D <D >>D", "DdDd'|]"],
  ["signs override the key", "letters", "F Fn F# Bb C", "F=F^F_Bc|]"],
  ["dashes hold, also over a bar line", "letters", "D- E--- F | - G -----", "D2E4F-|FG6|]"],
  ["halves and dots", "letters", "D/ E/ F. G/", "D/2E/2F3/2G/2|]"],
  ["rests", "letters", "D _ E _-", "DzEz2|]"],
  ["three in the time of two", "letters", "(D E F) G- A----", "(3:2:3DEFG2A4-|A|]"],
  ["repeats", "letters", "|: D--- E--- :| F------- |", "|:D4E4:|F8|]"],
  ["bars fill themselves", "letters", "D E F G A B C D E F", "DEFGABcd|ef|]"],
  ["an accent", "letters", "D! E", "LDE|]"],
  ["octaves by number", "letters", "D5 D4", "dD|]"],
  ["fixed do", "syllables", "re mi fa sol la si do re", "DEFGABcd|]"],
  ["fixed do, natural and flat, other names", "syllables", "fan ti sib", "=FB_B|]"],
  ["strings and fingers", "string and finger", "D: 0 1 2 L2 3 A: 0 1 2", "DEF=FGABc|]"],
  ["high third, low first, fourth", "string and finger", "A: H3 L1 E: 0 4", "^d_Be=b|]"],
  [
    "a viola has its own strings",
    "string and finger",
    "C: 0 1 2 3 G: 0",
    "C,,D,,E,,F,,G,,|]".replaceAll(",,", ","),
    { on: instrument("viola")!, key: { tonic: "C", mode: "major" } },
  ],
  ["frets", "frets", "D: 0 2 4 5 A: 0 2", "DEFGAB|]", { on: instrument("mandolin")! }],
  [
    "a dulcimer's frets are those of its scale",
    "frets",
    "D3: 0 1 2 3 4 5 6 6+",
    "DEFGABc^c|]",
    { on: instrument("mountain dulcimer")!, key: { tonic: "D", mode: "mixolydian" } },
  ],
];

describe("typed notes", () => {
  test.each(LINES)("%s", (_, spelling, text, abc, more) => {
    const { abc: found, problems } = typed(text, spelling, more);
    expect(problems).toEqual([]);
    expect(found).toBe(abc);
  });
  const WRONG: [string, TypedSpelling, string, string[]][] = [
    ["a letter that is none", "letters", "D X E", ["X"]],
    ["a finger that is none", "string and finger", "D: 0 7 1", ["7"]],
    ["no string named yet", "string and finger", "0 1", ["0", "1"]],
    ["a string the instrument lacks", "string and finger", "C: 0 D: 0", ["C:", "0"]],
    ["a bracket left open", "letters", "(D E F", ["("]],
    ["a bracket never opened", "letters", "D E )", [")"]],
    ["a bar too short", "letters", "D E F G | A B | D E F G A B C D | D E F G |", ["D E F G |", "A B |"].slice(1)],
    ["nothing to hold", "letters", "- D", ["-"]],
    ["a syllable that is none", "syllables", "re my", ["my"]],
  ];
  test.each(WRONG)("underlines %s, reads the rest, and says what to do", (_, spelling, text, wrong) => {
    const { abc, problems } = typed(text, spelling);
    expect(problems.map(([words]) => words)).toEqual(wrong);
    for (const [, message] of problems) expect(message!.length).toBeGreaterThan(20);
    if (/[A-G01]/.test(text) && spelling !== "string and finger") expect(abc).toBeDefined();
  });
  it("never fails on any text, and every tune it makes is sound", () => {
    const sign = fc.constantFrom(
      "D",
      "E",
      "F#",
      "Bb",
      "_",
      "-",
      "/",
      ".",
      "(",
      ")",
      "|",
      "|:",
      ":|",
      " ",
      "re",
      "sol",
      "D:",
      "A:",
      "0",
      "L2",
      "4",
      "7",
      ">",
      "<",
      "!",
      "\n",
      "é",
      "D5",
      "9",
    );
    fc.assert(
      fc.property(fc.array(sign, { maxLength: 60 }), fc.constantFrom(...TYPED), (signs, spelling) => {
        const text = signs.join("");
        const { tune, problems } = readTyped(text, setting(spelling));
        if (tune) expect(Tune.safeParse(tune).success).toBe(true);
        for (const p of problems) expect(p.from >= 0 && p.to >= p.from && p.to <= text.length).toBe(true);
      }),
      { numRuns: 200 },
    );
  });
  it("bars without bar lines add up to the metre", () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom("D", "E-", "F---", "G/ A/", "B."), { minLength: 1, maxLength: 30 }),
        (words) => {
          const { tune } = readTyped(words.join(" "), setting("letters"));
          const bars = places(tune!);
          for (const b of bars.slice(0, -1)) expect(b.ticks).toBe(barTicks(tune!.metre));
        },
      ),
      { numRuns: 60 },
    );
  });
  it("a note that is played in reads back as that note, in every spelling", () => {
    for (const [spelling, on] of [
      ["letters", FIDDLE],
      ["syllables", FIDDLE],
      ["string and finger", FIDDLE],
      ["frets", instrument("guitar")!],
      ["frets", instrument("small lute")!],
    ] as const) {
      fc.assert(
        fc.property(
          fc.array(fc.integer({ min: 57, max: 82 }), { minLength: 1, maxLength: 20 }),
          arbitraryKey,
          (sounds, key) => {
            const own = setting(spelling, { on, key });
            let text = "";
            const played: number[] = [];
            for (const sound of sounds) {
              const token = tokenFor(sound, text, own);
              if (token === undefined) continue;
              text += `${token} `;
              played.push(sound);
            }
            const { tune, problems } = readTyped(text, own);
            expect(problems).toEqual([]);
            // Notes over a bar line are tied, so only starts count.
            const heard = tune
              ? timeline(places(tune))
                  .filter((_, i, all) => !(i > 0 && all[i - 1]?.event.tie))
                  .map((t) => midi(t.event.pitches[0]!))
              : [];
            expect(heard).toEqual(played);
          },
        ),
        { numRuns: 25 },
      );
    }
  });
  it("takes an eighth for its step in any metre", () =>
    expect(
      [
        { beats: 4, unit: 4 as const },
        { beats: 6, unit: 8 as const },
        { beats: 2, unit: 2 as const },
      ].map(stepOf),
    ).toEqual([1680, 1680, 1680]));
});
