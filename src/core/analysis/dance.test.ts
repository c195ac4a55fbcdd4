import { describe, expect, it, test } from "vitest";
import { tuneOf } from "../../testing/abc";
import { places, type Tune } from "../score";
import { findDance } from ".";

const dance = (tune: Tune, infer = true) => findDance(tune, places(tune), infer);

/** Invented strains that any dancer would know by their feet. */
const STRAINS: [string, string, string][] = [
  ["reel", "4/4", "d2fd Adfd|e2ge cege|d2fd Adfa|gfec d2AF|DFAF DFAd|cdec Acec|dfaf gece|fdec d2A2|"],
  ["reel", "2/2", "dAFA defd|gfed cAGE|FADA FAdA|BGEG cBAG|FADA FAdf|gbag fdAF|GBdB AcBA|FDEC D2A2|"],
  [
    "hornpipe",
    "4/4",
    "d>cd>e f>ed>f|g>fg>a b2 g2|f>ga>f g>ef>d|e2 e2 e2 a2|d>cd>e f>ed>f|g>fg>a b2 a>g|f>ga>f e>dc>e|d2 d2 d2 z2|",
  ],
  ["hornpipe", "4/4", "dcde fedf|gfga b2 g2|fgaf gefd|e2 e2 e2 a2|dcde fedf|gfga b2 ag|fgaf edce|d2 d2 d2 z2|"],
  [
    "strathspey",
    "4/4",
    "d>e f<a b>a f<d|e>f g<b a>g e<c|d<f a>f d<f a>g|f<d e>c d2 A2|d<d f>d A>d f<d|e<e g>e c>e g<e|d<f a>f g<b a>g|f>d e<c d2 d2|",
  ],
  ["march", "4/4", "d2 d>d d2 f2|a2 a>f d4|g2 g>e B2 g2|f2 f>d A4|d2 d>d d2 f2|a2 a>f d2 f2|g2 e>c A2 c2|d2 d>d d4|"],
  ["polka", "2/4", "d2 fd|e2 ge|f2 af|e4|d2 fd|e2 ge|fa ce|d4|"],
  ["jig", "6/8", "dfd fag|fed cde|ded cBA|Bcd efg|dfd fag|fed cde|fga efg|fdc d3|"],
  ["slide", "12/8", "d2f f2a a2f d3|e2g g2b b2g e3|d2f f2a a2g f2d|e2d c2e d3 d3|"],
  ["slip jig", "9/8", "d2f fed cde|f2a agf e3|d2f fed cde|faf ece d3|"],
  ["waltz", "3/4", "d2 f4|a2 f4|g4 e2|f6|d2 f4|a2 b4|a2 g2 e2|d6|"],
  ["mazurka", "3/4", "d3/2e/2 f4|e3/2d/2 c4|d3/2e/2 f2 a2|g3/2f/2 e4|d3/2e/2 f4|e3/2d/2 c4|B3/2c/2 d2 e2|d2 d4|"],
  ["air or song", "4/4", "d4 d2f2|a4 a4|b4 a2f2|e8|d4 d2f2|a4 b2a2|f4 e4|d8|"],
];

describe("dances by their feet", () => {
  test.each(STRAINS)("%s in %s", (name, metre, music) => {
    const found = dance(tuneOf(music, { metre }));
    expect([found.name, ...found.alternatives.map((a) => a.name)].slice(0, 2)).toContain(name);
    expect(found.confidence + found.alternatives.reduce((n, a) => n + a.confidence, 0)).toBeCloseTo(1, 6);
  });
  it("names most of them first", () => {
    const right = STRAINS.filter(([name, metre, music]) => dance(tuneOf(music, { metre })).name === name).length;
    expect(right).toBeGreaterThanOrEqual(STRAINS.length - 2);
  });
  it("believes the written name where the metre allows it, and nothing of it when asked for the notes alone", () => {
    const [, metre, music] = STRAINS[0]!;
    const written = (rhythm: string) => tuneOf(music, { metre, more: `R:${rhythm}\n` });
    expect([
      dance(written("march"), false).name,
      dance(written("jig"), false).name,
      dance(written("march")).name,
    ]).toEqual(["march", "reel", "reel"]);
    expect(dance(written("march"))).toEqual(dance(written("reel")));
  });
  it.each([
    ["The Cooper's March", "march"],
    ["A Waltz for the Gate", "reel"],
    ["March of the Jig Makers' Reel", "reel"],
    ["The Reelers", "reel"],
  ])("a title names the dance where the metre allows it: %s, a %s", (title, name) => {
    const [, metre, music] = STRAINS[0]!;
    const tune = { ...tuneOf(music, { metre }), title };
    expect(dance(tune, false).name).toBe(name);
    expect(dance(tune).name).toBe("reel");
  });
  it("the written name goes before the title's", () => {
    const [, metre, music] = STRAINS[0]!;
    const tune = { ...tuneOf(music, { metre, more: "R:polka\nR:hornpipe\n" }), title: "The Cooper's March" };
    expect(dance({ ...tune, rhythm: "hornpipe" }, false).name).toBe("hornpipe");
  });
  it("a slow song in four is no hornpipe", () => {
    const music = "d2 e2 f2 d2|g2 f2 e4|f>e d2 a2 f2|e2 e2 e4|d2 e2 f2 d2|g2 f2 e4|f>e d2 e2 c2|d2 d2 d4|";
    for (const more of ["Q:1/4=60\n", "w:The boats are in the har-bour now\n", ""]) {
      const text = more.startsWith("w") ? `${music}\n${more}` : music;
      const tune = tuneOf(text, more.startsWith("Q") ? { more } : {});
      expect(dance(tune).name).not.toBe("hornpipe");
    }
    expect(dance(tuneOf(music, { more: "Q:1/4=60\n" })).name).toBe("air or song");
  });
  it("gives its reasons in counts, and owns up where it knows no dance", () => {
    expect(dance(tuneOf(STRAINS[2]![2])).evidence.join()).toContain("three struck beats");
    expect(dance(tuneOf("d5|e5|", { metre: "5/8" }))).toMatchObject({ confidence: 0.5, alternatives: [] });
  });
});
