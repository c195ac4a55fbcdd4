import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { tuneOf } from "../../testing/abc";
import { arbitraryTune } from "../../testing/arbitraryTune";
import { places, type Tune } from "../score";
import { midi, scaleStep, semitoneOf } from "../theory";
import { analyse, findDance, findForm, inventory, rankKeys, relationWords, strainKeys, weave } from ".";

/** Invented tunes, clear in their key to any player; the declared key of each is wrong on purpose. */
const KEYS: [string, string, string, Parameters<typeof tuneOf>[1], string][] = [
  ["D", "major", "a reel that closes on its tonic", {}, "|:d2fd Adfd|e2ge cege|d2fd Adfa|gfec d2d2:|"],
  ["G", "major", "a waltz", { metre: "3/4" }, "G2B2d2|e2d2B2|A2F2D2|G4B2|=c2e2=c2|B2d2B2|A2F2D2|G6|"],
  [
    "E",
    "dorian",
    "a jig with the raised sixth",
    { metre: "6/8" },
    "E2E BcB|d2c BAF|E2E BcB|AFD E2E|E2E BcB|d2c BAF|Bcd cAF|GFD E3|",
  ],
  [
    "A",
    "mixolydian",
    "a jig with the flat seventh",
    { metre: "6/8" },
    "A2c e2c|A2c ecA|=G2B d2B|=G2B dB=G|A2c e2c|A2c efe|d=GB cBA|A2A A3|",
  ],
  [
    "E",
    "minor",
    "an air with the low sixth",
    { metre: "3/4" },
    "E2=G2B2|=c2B2A2|=G2F2E2|F4B,2|E2=G2B2|=c2d2B2|A2=G2F2|E6|",
  ],
  [
    "F",
    "major",
    "a march in flats",
    { key: "C" },
    "F2A2 c2A2|_B2d2 c4|A2c2 f2e2|d2c2 c4|F2A2 c2A2|_B2d2 c2_B2|A2G2 C2E2|F4 F4|",
  ],
];

describe("key finding", () => {
  test.each(KEYS)("%s %s: %s", (tonic, mode, _, header, music) => {
    const [best] = rankKeys(places(tuneOf(music, header)));
    expect(best).toMatchObject({ tonic, mode });
    expect(best?.evidence.length).toBeGreaterThan(0);
  });
  it("keeps the declared key, and says when the notes speak against it", () => {
    const tune = tuneOf(KEYS[0]![4], { key: "A" });
    const wrong = { ...tune, key: { tonic: "B", mode: "minor" as const } };
    expect(analyse(tune).key.key).toEqual({ tonic: "A", mode: "major" });
    const { key } = analyse({ ...wrong, strains: tuneOf(KEYS[0]![4]).strains });
    expect(key.key).toEqual({ tonic: "B", mode: "minor" });
    expect(key.disagreement).toContain("the notes speak for D major");
    expect(analyse({ ...wrong, strains: tuneOf(KEYS[0]![4]).strains }, { inferKey: true }).key.key).toEqual({
      tonic: "D",
      mode: "major",
    });
  });
  it("ranks all keys with confidences that sum to one", () => {
    fc.assert(
      fc.property(arbitraryTune({ maxBars: 4 }), (tune) => {
        const ranked = rankKeys(places(tune));
        expect(ranked).toHaveLength(72);
        expect(ranked.reduce((sum, k) => sum + k.confidence, 0)).toBeCloseTo(1, 6);
      }),
      { numRuns: 30 },
    );
  });
  it("moves with the tune: transposing every note transposes every answer", () => {
    const up = (tune: Tune): Tune => ({
      ...tune,
      strains: tune.strains.map((s) => ({
        ...s,
        bars: s.bars.map((b) => ({
          ...b,
          events: b.events.map((e) => ({ ...e, pitches: e.pitches.map((p) => fifthUp(p)) })),
        })),
      })),
    });
    fc.assert(
      fc.property(arbitraryTune({ maxBars: 4 }), (tune) => {
        const [before, after] = [rankKeys(places(tune)), rankKeys(places(up(tune)))];
        expect(after[0]?.mode).toBe(before[0]?.mode);
        expect(after[0]?.confidence).toBeCloseTo(before[0]?.confidence ?? 0, 6);
        expect((semitoneOf(after[0]!.tonic) - semitoneOf(before[0]!.tonic) + 12) % 12).toBe(7);
      }),
      { numRuns: 40 },
    );
  });
});

/** A perfect fifth higher, spelled as one. */
function fifthUp(p: Parameters<typeof midi>[0]) {
  const step = scaleStep(p, 4, { tonic: "C", mode: "major" });
  return { ...step, alter: step.alter + midi(p) + 7 - midi(step) };
}

describe("form", () => {
  const form = (music: string, header?: Parameters<typeof tuneOf>[1]) => {
    const tune = tuneOf(music, header);
    return { tune, from: places(tune), form: findForm(tune, places(tune)) };
  };
  it("tells same, new ending and new apart, with the bar where they part", () => {
    const { form: f, from } = form(
      "|:d2fd Adfd|e2ge Bege|d2fd Adfa|gfed BAFA|d2fd Adfd|e2ge Bege|faaf gbag|fdec d4:|f8|g8|a8|b8|d2fd Adfd|e2ge Bege|d2fd Adfa|gfed BAFA|]",
    );
    expect(f.phrases.map((p) => [p.name, p.relation])).toEqual([
      ["A 1–4", "new"],
      ["A 5–8", "same start, new ending"],
      ["B 9–12", "new"],
      ["B 13–16", "same"],
    ]);
    expect(f.phrases.map((p) => relationWords(p, f, from))).toEqual([
      "",
      "begins like A 1–4, parts in bar 7",
      "",
      "same as A 1–4",
    ]);
    expect([f.sequence, f.bars, f.learn]).toEqual(["AAB", 16, 10]);
  });
  it("keeps a pickup with its phrase and a lone last bar with the one before", () => {
    const { form: f } = form("A2|d8|e8|f8|g8|a8|");
    expect(f.phrases.map((p) => [p.from, p.to])).toEqual([[0, 5]]);
  });
  it("weaves dye for notes and texture for rhythm", () => {
    const { form: f, from } = form(
      "d2fd Adfd|e2ge Bege|d2fd Adfa|gfed BAFA|d2fd Adfd|e2ge Bege|d2fd Adfd|d8|e2ge Bege|f2af cfaf|e2ge Bege|agfe cBGB|",
    );
    const cells = weave(from, f);
    expect(cells.map((c) => c.dye).join("")).toBe("000000001111");
    expect(cells.map((c) => c.texture).join("")).toBe("000000000000");
    expect(cells.map((c) => (c.parting ? "y" : "-")).join("")).toBe("------yy----");
  });
  it("covers every bar once, for any tune", () => {
    fc.assert(
      fc.property(arbitraryTune(), (tune) => {
        const from = places(tune);
        const covered = findForm(tune, from).phrases.flatMap((p) =>
          Array.from({ length: p.to - p.from + 1 }, (_, i) => p.from + i),
        );
        expect(covered).toEqual(from.map((p) => p.index));
      }),
    );
  });
});

describe("phrases are cut where the music breathes", () => {
  const lengths = (music: string) => {
    const from = places(tuneOf(music));
    return findForm(tuneOf(music), from).phrases.map(
      (p) => from.slice(p.from, p.to + 1).filter((b) => !b.pickup && b.offset === 0).length,
    );
  };
  const run = "d2fd Adfd|";
  const rest = "e2c2 A4|";
  test.each([
    ["8 bars of running notes, by fours", run.repeat(8), [4, 4]],
    ["4 + 4 + 6", `${run.repeat(3)}${rest}${run.repeat(3)}${rest}${run.repeat(5)}d8|`, [4, 4, 6]],
    [
      "6 + 8, which breathes after the sixth",
      `${run.repeat(5)}d8|e2ge Bege|${run.repeat(2)}${rest}${run.repeat(3)}d8|`,
      [6, 4, 4],
    ],
    ["4 + 6", `${run.repeat(3)}d8|e2ge Bege|${run.repeat(4)}d8|`, [4, 6]],

    ["5 bars", `${run.repeat(4)}d8|`, [5]],
    ["a bar alone", "d8|", [1]],
  ])("%s", (_, music, expected) => {
    expect(lengths(music)).toEqual(expected);
  });
  it("every strain keeps a letter of its own", () => {
    const tune = tuneOf("P:A\nd8|A8|d8|A8:|\nP:C\ne8|A8|e8|A8:|\n|:f8|A8|f8|A8:|\n|:g8|A8|g8|A8:|");
    const labels = tune.strains.map((s) => s.label);
    expect(new Set(labels).size).toBe(labels.length);
  });
});

describe("dance type", () => {
  test.each([
    ["jig", "6/8", "abc def|gfe dcB|"],
    ["slip jig", "9/8", "abc def gab|"],
    ["waltz", "3/4", "a2b2c2|d6|"],
    ["polka", "2/4", "abcd|efga|"],
    ["reel", "4/4", "abcd efga|gfed cBAG|"],
    ["hornpipe", "4/4", "a>bc>d e>fg>a|g>fe>d c>BA>G|"],
    ["strathspey", "4/4", "a<bc>d e<fg>a|g<fe>d c>BA<G|"],
  ])("%s", (name, metre, music) => {
    const tune = tuneOf(music, { metre });
    expect(findDance(tune, places(tune)).name).toBe(name);
  });
});

it("takes the inventory", () => {
  const found = inventory(places(tuneOf("A4 d2 f2|A4 z4|")));
  expect(found.pitches.map((p) => [p.pitch.step, p.count])).toEqual([
    ["A", 2],
    ["D", 1],
    ["F", 1],
  ]);
  expect([found.notes, found.held, found.leaps]).toEqual([4, 2, 2]);
});

it("gives each strain the key in force", () => {
  const tune = tuneOf("d8|d8|d8|d8||[K:G]g8|g8|g8|g8|]");
  expect(strainKeys(tune, analyse(tune)).map((k) => k.tonic)).toEqual(["D", "G"]);
});
