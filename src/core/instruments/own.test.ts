import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { midi, pitchName } from "../theory";
import { catalogueWith, draftOf, INSTRUMENTS, instrument, LEVELS, type OwnDraft, rangeOf, readOwn, reachOf } from ".";

const named = (name: string) => instrument(name)!;
const made = (draft: OwnDraft) => {
  const read = readOwn(draft);
  if ("faults" in read) throw new Error(read.faults.map((f) => `${f.field}: ${f.words}`).join("; "));
  return read.made;
};
const faults = (change: Partial<OwnDraft>, from = "fiddle") => {
  const read = readOwn({ ...draftOf(named(from)), ...change });
  return "faults" in read ? read.faults : [];
};

describe("an instrument of one's own", () => {
  test.each(INSTRUMENTS.map((i) => [i.name, i] as const))("%s is written and read as it is", (_, on) => {
    // How far a capo goes is the catalogue's own.
    const { capo: _capo, ...rest } = on;
    expect(made(draftOf(on))).toEqual(rest);
  });
  it("takes what it is given: other strings, frets a teacher counts, a level that goes farther", () => {
    const own = made({
      ...draftOf(named("mountain dulcimer")),
      name: " Long  dulcimer ",
      tunings: "A2 E3 A3\nA2 E3 G3 | low",
      frets: "0=0 1=2 1+=3 2=4 3=5 4=7 5=9 6=10 6+=11 7=12 8=14 9=16",
      reach: ["4 on 1", "7", "7", "9", "9"],
    });
    expect(own.name).toBe("Long dulcimer");
    expect(own.tunings.map((t) => t.name)).toEqual(["AEA", "AEG, low"]);
    expect(own.frets?.map((f) => f.label).join(" ")).toBe("0 1 1+ 2 3 4 5 6 6+ 7 8 9");
    expect(reachOf(own, "First sounds")).toEqual({ strings: [1], highest: 4 });
    expect(rangeOf(own, "First sounds")).toEqual({ lowest: 57, highest: 64 });
    expect(pitchName(own.lowest)).toBe("A2");
  });
  it("takes the usual where nothing is said", () => {
    const blank: OwnDraft = {
      ...draftOf(named("fiddle")),
      name: "Alto ukulele",
      family: "plucked",
      tunings: "G3 C3 E3 A3",
      hand: "frets",
      frets: "",
      scale: "",
      highest: "E5",
      reach: ["", "", "", "", ""],
      spans: ["", "", "", "", ""],
      speed: ["", "", "", "", ""],
      fingers: "",
      cautions: "",
      source: "",
    };
    const own = made(blank);
    expect(own.frets).toHaveLength(16);
    expect(LEVELS.map((l) => reachOf(own, l).highest)).toEqual([3, 5, 7, 10, 12]);
    expect(own.cautions.join(" ")).toContain("Pain");
    expect(own.source).toBe("my own");
  });
  test.each([
    ["name", { name: "  " }, "Give it a name"],
    ["name", { name: "x".repeat(41) }, "40 letters"],
    ["family", { family: "brass" }, "Choose a family"],
    ["clef", { clef: "soprano" }, "Choose a clef"],
    ["octaves", { octaves: "5" }, "from -2 to 2"],
    ["octaves", { octaves: "0.5" }, "whole number"],
    ["tunings", { tunings: "G3 H4" }, '"H4" is not a string'],
    ["tunings", { tunings: "G3 D4 A4 E5\nG3 D4" }, "has not as many strings"],
    ["tunings", { tunings: "G3 D4\nG3 D4" }, "stands twice"],
    ["hand", { hand: "paw" }, "how the hand finds notes"],
    ["reach", { reach: ["7 on 9", "7", "7", "7", "7"] as OwnDraft["reach"] }, "There is no string 9"],
    ["reach", { reach: ["7", "5", "7", "7", "7"] as OwnDraft["reach"] }, "Steady has less than First sounds"],
    ["spans", { spans: ["4/4", "", "", "", ""] as OwnDraft["spans"] }, "three spans"],
    ["speed", { speed: ["fast", "", "", "", ""] as OwnDraft["speed"] }, "notes a second"],
    ["highest", { highest: "C2" }, "lies above G3"],
    ["highest", { highest: "H9" }, "is not a pitch"],
  ] as const)("says what is wrong with %s: %j", (field, change, words) => {
    const found = faults(change);
    expect(found.map((f) => f.field)).toContain(field);
    expect(found.map((f) => f.words).join(" ")).toContain(words);
  });
  test.each([
    ["5x", "is not a fret"],
    ["99", "how many frets"],
    ["0=0 1=5 2=3", "does not sound above"],
    ["1=2 2=4", "the open string"],
  ])("frets written %s are refused: %s", (frets, words) => {
    const found = faults({ frets }, "ukulele");
    expect(found.map((f) => f.field)).toEqual(["frets"]);
    expect(found[0]!.words).toContain(words);
  });
  it("tells everything at once, the level with it", () => {
    const found = faults({ name: "", clef: "", spans: ["1/2/3", "0/2/3", "", "", ""] });
    expect(found.map((f) => f.field)).toEqual(["name", "clef", "spans"]);
    expect(found[2]!.level).toBe("Steady");
  });
  it("stands in the place of its namesake, or after all others", () => {
    const fiddle = { ...named("fiddle"), source: "the hall" };
    const own = [fiddle, { ...named("ukulele"), name: "Long ukulele" }];
    const all = catalogueWith(own);
    expect(all[0]).toBe(fiddle);
    expect(all).toHaveLength(INSTRUMENTS.length + 1);
    expect(instrument("violin", own)).toBe(fiddle);
    expect(instrument("LONG UKULELE", own)?.name).toBe("Long ukulele");
    expect(catalogueWith([])).toBe(INSTRUMENTS);
  });
  it("whatever is written is read, or told field by field, and never thrown", () => {
    const text = fc.oneof(
      fc.string({ maxLength: 12 }),
      fc.constantFrom("G3 D4", "7", "4/4/5", "frets", "-1", "0=0 1=2"),
    );
    const five = fc.tuple(text, text, text, text, text);
    const draft = fc.record<OwnDraft>({
      name: text,
      family: fc.constantFrom("plucked", "bowed", "wind", "x"),
      clef: fc.constantFrom("treble", ""),
      octaves: text,
      program: fc.constantFrom("25", "200", ""),
      tunings: text,
      hand: text,
      frets: text,
      scale: text,
      lowest: text,
      highest: fc.constantFrom("B5", "C9", "?"),
      reach: five,
      spans: five,
      ranges: five,
      speed: five,
      fingers: text,
      cautions: text,
      source: text,
    });
    fc.assert(
      fc.property(draft, (from) => {
        const read = readOwn(from);
        if ("faults" in read) for (const f of read.faults) expect(Object.hasOwn(from, f.field)).toBe(true);
        else expect(midi(read.made.lowest)).toBeLessThan(midi(read.made.highest));
      }),
      { numRuns: 400 },
    );
  });
});
