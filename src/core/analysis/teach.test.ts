import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { tuneOf } from "../../testing/abc";
import { analyse } from "./analyse";
import { teachCards } from "./teach";

const cards = (abc: string, more?: Parameters<typeof tuneOf>[1]) => {
  const { places, form } = analyse(tuneOf(abc, more));
  return teachCards(places, form);
};
const LINE = "d2fd Adfd|e2ge Bege|d2fd Adfa|gfed B4|";

describe("things to teach", () => {
  const found = cards(`|:${LINE}d2fd Adfd|e2ge Bege|a2fa gfed|e2d2 d4:||:f2A2 a2f2|g2ef gabg|f2A2 a2f2|g2ef d4:|`, {
    key: "D",
  });
  const titled = (title: string) => found.find((c) => c.title === title);
  it("begins with the first line, as bars that can be looped", () => {
    expect(found[0]).toMatchObject({ title: "The first line", from: 0, to: 3 });
    expect(found.length).toBeGreaterThanOrEqual(3);
    expect(found.length).toBeLessThanOrEqual(6);
  });
  it("names the hardest leap with its notes", () => {
    expect(titled("The one big leap")).toMatchObject({
      words: expect.stringMatching(/^An octave up, A4 to A5, in bar 9\.$/),
      from: 8,
    });
  });
  it("says where a line parts from the one it began like", () => {
    expect(titled("Where it parts")?.words).toBe("Bars 7 to 8: up to here it went like A 1–4.");
  });
  it("says what comes again and again", () => {
    expect(
      cards("|:G2 B2|A2 c2|G2 B2|A2 F2|G2 B2|d2 c2|G2 B2|G4:|", { metre: "2/4" }).find((c) => /often/.test(c.title))
        ?.words,
    ).toBe("Bar 1 comes again as 3, 5 and 7.");
  });
  it("finds the busy bar, and none where all are alike", () => {
    expect(cards("|:G2 B2|A2 c2|GABc dcBA|A2 F2:|", { metre: "2/4" }).some((c) => c.title === "The busy bar")).toBe(
      true,
    );
    expect(cards("|:G2 B2|A2 c2|B2 d2|A2 F2:|").some((c) => c.title === "The busy bar")).toBe(false);
  });
  it("never gives two cards for the same bars, nor bars that are not there", () => {
    const notes = fc.constantFrom("A", "B", "d", "e", "f", "a", "g'");
    const bar = fc.array(notes, { minLength: 4, maxLength: 4 }).map((n) => n.map((x) => `${x}2`).join(""));
    fc.assert(
      fc.property(fc.array(bar, { minLength: 1, maxLength: 20 }), (some) => {
        const own = cards(`${some.join("|")}|`);
        const names = own.map((c) => `${c.from}-${c.to}`);
        expect(new Set(names).size).toBe(names.length);
        for (const { from, to } of own) expect(from >= 0 && from <= to && to < some.length).toBe(true);
      }),
      { numRuns: 60 },
    );
  });
});
