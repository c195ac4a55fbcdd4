// What is said of chords, checked against what is there: bars by hand, and any tune.
import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { tuneOf } from "../../testing/abc";
import { arbitraryTune } from "../../testing/arbitraryTune";
import { analyse, strainKeys } from "../analysis";
import { beatTicks, type Tune } from "../score";
import { parseChord, semitoneOf } from "../theory";
import { deriveChords, fileLocks, STYLES } from ".";
import { reasonFor } from "./explain";

const told = (tune: Tune, style = "Dance band") => {
  const analysis = analyse(tune);
  const { places, form } = analysis;
  const found = STYLES.find((s) => s.name === style)!;
  return deriveChords({ places, phrases: form.phrases, keys: strainKeys(tune, analysis), style: found }).chords;
};

const HOME = "d2fd Adfd|g2bg dgbg|a2ec Ace2|";

describe("the end of a tune", () => {
  test.each([
    ["a held last note comes home", "d8|", "The tune comes home: the tonic of D major."],
    ["a short lead-in after it does no harm", "d6 A2|", "The tune comes home: the tonic of D major."],
    ["a run leads on, whatever stood before it", "d2 fd Adfa|", "The tune ends on the tonic and runs on."],
    ["eighths to the end lead on", "dfaf dfaf|", "The tune ends on the tonic and runs on."],
  ])("%s", (_, music, words) => {
    expect(
      told(tuneOf(HOME + music))
        .at(-1)!
        .reason.startsWith(words),
    ).toBe(true);
  });
});

it("a first ending closes its line, and leads to no second one", () => {
  const music = "|:dfd def|ece cde|dfd BAB|1 ^GAB E2E:|2 c2B A3|]";
  const chords = told(tuneOf(music, { key: "Amin", metre: "6/8" }));
  const first = chords.find((c) => c.bar === 3)!;
  expect(first.symbol[0]).toBe("E");
  expect(first.reason).toMatch(/^(Half close at the end|At the end) of the first line/);
  expect(first.reason).not.toContain("falls to");
  expect(chords.at(-1)!.reason).not.toContain("Still");
});

describe("sentences by hand", () => {
  const planned = {
    bar: 0,
    at: 0,
    ticks: 13440,
    symbol: "A",
    roman: "V",
    locked: false,
    costs: [],
    notes: [
      { name: "A", beats: 2, role: "root" as const },
      { name: "C#", beats: 1, role: "third" as const },
      { name: "B", beats: 0.5, role: "passing" as const },
      { name: "D", beats: 0.5, role: "passing" as const },
    ],
    alternatives: [],
  };
  const standing = {
    opening: false,
    closing: false,
    line: "first line",
    lineStarts: false,
    lineEnds: false,
    strainEnds: false,
    rests: true,
    before: "D",
    next: "D",
  };
  const scene = {
    key: { tonic: "D", mode: "major" as const },
    standing,
    rival: undefined,
    by: undefined,
    unlike: undefined,
  };
  const say = (more: Partial<typeof standing> = {}, rest: object = {}) =>
    reasonFor({ ...planned, ...rest }, { ...scene, standing: { ...standing, ...more } });

  test.each([
    [{}, "The dominant, which falls to D. A and C# belong to it; B and D pass."],
    [{ opening: true }, "The opening: the dominant. A and C# belong to it; B and D pass."],
    [
      { lineEnds: true },
      "Half close at the end of the first line: the dominant, so that the answer can come. A and C# belong to it; B and D pass.",
    ],
    [
      { lineEnds: true, rests: false },
      "At the end of the first line, which runs on: the dominant, which falls to D. A and C# belong to it; B and D pass.",
    ],
    [{ lineStarts: true }, "The first line starts on the dominant. A and C# belong to it; B and D pass."],
    [{ before: "A" }, "Still the dominant, which falls to D. A and C# belong to it; B and D pass."],
    [{ next: "G" }, "The dominant, on the way to G. A and C# belong to it; B and D pass."],
    [{ closing: true }, "The tune ends on the dominant, away from home. A and C# belong to it; B and D pass."],
  ])("%j", (more, words) => {
    expect(say(more)).toBe(words);
  });
  it("counts the notes that belong, and says where the melody rests", () => {
    const notes = planned.notes;
    expect(say({}, { notes: notes.slice(0, 1) })).toContain("A belongs to it.");
    expect(say({}, { notes: notes.slice(0, 2) })).toContain("A and C# both belong to it.");
    expect(say({}, { notes: [] })).toContain("The melody rests here.");
    expect(say({}, { notes: notes.slice(2) })).toContain("No note of the melody belongs to A: B and D pass.");
  });
  test.each([
    [{ symbol: "D", cost: 0.3, gained: ["D"], lost: ["C#"] }, "D would take D and leave C# outside. Nearly as good."],
    [{ symbol: "A7", cost: 1, gained: [], lost: [] }, "A7 would be the same chord in another form. A close second."],
    [{ symbol: "F#m", cost: 4, gained: [], lost: ["A"] }, "F#m would leave A outside."],
    [{ symbol: "Em", cost: 4, gained: [], lost: [] }, "Em would hold the same notes."],
  ])("a rival: %j", (rival, words) => {
    const reason = reasonFor(planned, { ...scene, rival: { where: "", tipped: undefined, ...rival } });
    expect(reason.endsWith(words)).toBe(true);
  });
  test.each([
    [{ bar: "3", symbol: "D", next: "G" }, "Bar 3 has the same notes over D; here G follows."],
    [{ bar: "3", symbol: "D", next: undefined }, "Bar 3 has the same notes over D."],
  ])("a like bar: %j", (unlike, words) => {
    expect(reasonFor(planned, { ...scene, unlike })).toContain(words);
  });
});

describe("what is said of any tune is so", () => {
  it("belonging, coming home, falling a fifth, the chords of the file", () => {
    fc.assert(
      fc.property(arbitraryTune({ maxBars: 6 }), fc.constantFrom(...STYLES), (tune, style) => {
        const chords = told(tune, style.name);
        const { places } = analyse(tune);
        chords.forEach((c, i) => {
          const own = parseChord(c.symbol)!;
          const names = /(?:^|\. )([A-G#b, and]+?) (?:both |all )?belongs? to it/.exec(c.reason)?.[1];
          for (const name of names?.split(/, | and /) ?? []) expect(own.classes).toContain(semitoneOf(name));
          const falls = /falls to (\S+?)\./.exec(c.reason)?.[1];
          if (falls) {
            const next = parseChord(falls)!;
            expect((semitoneOf(own.root) - semitoneOf(next.root) + 12) % 12).toBe(7);
            expect(chords[i + 1]?.symbol).toBe(falls);
          }
          if (!c.reason.includes("comes home")) return;
          const place = places[c.bar]!;
          const held = place.bar.events.filter((e) => e.pitches.length && e.ticks >= beatTicks(place.metre));
          const silent = c.notes.length <= 1;
          expect(silent || held.length > 0).toBe(true);
        });
      }),
      { numRuns: 80 },
    );
  });
  it("says whose the chord is where it is not planned", () => {
    const tune = tuneOf('"D"d8|"A7"e8|');
    const { places, form } = analyse(tune);
    const { chords } = deriveChords({ places, phrases: form.phrases, keys: [tune.key], locks: fileLocks(places) });
    expect(chords.map((c) => c.reason)).toEqual(["The file gives D major here.", "The file gives A seventh here."]);
  });
});
