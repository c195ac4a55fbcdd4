import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { tuneOf } from "../../testing/abc";
import { arbitraryTune } from "../../testing/arbitraryTune";
import { analyse, strainKeys } from "../analysis";
import type { Tune } from "../score";
import { chord, parseChord, semitoneOf } from "../theory";
import { augmented, wardrobe } from "./colour";
import { deriveChords, STYLES } from ".";

const COLOUR = STYLES.find((s) => s.name === "Colour")!;
const coloured = (tune: Tune) => {
  const analysis = analyse(tune);
  return {
    analysis,
    plan: deriveChords({
      places: analysis.places,
      phrases: analysis.form.phrases,
      keys: strainKeys(tune, analysis),
      style: COLOUR,
    }),
  };
};

describe("what triads may wear", () => {
  test.each([
    [
      "G major",
      { tonic: "G", mode: "major" as const },
      ["G", "C", "D", "Em"],
      ["Gmaj7", "D7", "Em7", "Gsus4", "G7", "A7", "B7", "D/F#", "G/B", "Em/D", "G6"],
    ],
    [
      "E minor",
      { tonic: "E", mode: "minor" as const },
      ["Em", "Am", "B", "G"],
      ["Em7", "B7", "E7", "B/D#", "Em/D", "Em7"],
    ],
  ])("in %s", (_, key, set, some) => {
    const symbols = wardrobe(set, key).map((d) => d.symbol);
    const known = key.mode === "minor" ? some.filter((s) => s !== "E7") : some;
    for (const symbol of known) expect(symbols).toContain(symbol);
    for (const symbol of symbols) expect(parseChord(symbol), symbol).not.toBeNull();
  });
  it("has one augmented dominant where dominant and tonic are major, none in minor", () => {
    expect(augmented(["G", "C", "D"], { tonic: "G", mode: "major" })).toMatchObject({
      symbol: "Daug",
      plain: "D",
      wants: 7,
    });
    expect(augmented(["Em", "Am", "B"], { tonic: "E", mode: "minor" })).toBeUndefined();
  });
});

describe("Colour plans", () => {
  it("closes on its closing chord, and says how each addition came and what it is without it", () => {
    const { plan } = coloured(tuneOf("d2fd Adfd|g2bg dgbg|a2ec Ace2|d2fd A2d2|d2fd Adfd|g2bg dgbg|a2ec Ace2|d8|]"));
    const last = plan.chords.at(-1)!;
    expect([last.symbol, last.added]).toEqual(["D6", { what: "closing chord", plain: "D" }]);
    for (const c of plan.chords.filter((c) => c.added))
      expect(c.alternatives.map((a) => a.symbol)).toContain(c.added!.plain);
  });
  it("suspends where the melody holds a fourth and lets it fall", () => {
    const { plan } = coloured(tuneOf("d2fd Adfd|g2bg dgbg|a2ec d2c2|d8|"));
    expect(plan.chords.find((c) => c.added?.what === "suspension")?.symbol).toBe("Asus4");
  });
  it("keeps its promises for any tune", () => {
    fc.assert(
      fc.property(arbitraryTune({ maxBars: 8 }), (tune) => {
        const { plan, analysis } = coloured(tune);
        const { chords } = plan;
        expect(chords.filter((c) => c.added?.what === "augmented dominant").length).toBeLessThanOrEqual(1);
        chords.forEach((c, i) => {
          expect(plan.vocabulary[analysis.places[c.bar]!.strain]).toContain(c.symbol);
          expect(c.reason).toMatch(/\.$/);
          if (!c.added) return;
          const own = new Set(chord(c.symbol).classes);
          const rubs = c.notes
            .filter((n) => n.role === "free" || n.role === "appoggiatura")
            .map((n) => semitoneOf(n.name))
            .filter((s) => !own.has(s) && [1, 11].some((d) => own.has((s + d) % 12)));
          if (c.added.what === "secondary dominant") expect(rubs).toEqual([]);
          if (c.added.what === "closing chord") expect(chords.slice(i).every((d) => d.symbol === c.symbol)).toBe(true);
          if (c.added.what === "secondary dominant" && chords[i + 1]) {
            const next = chords.slice(i + 1).find((d) => d.symbol !== c.symbol);
            if (next && !next.locked)
              expect((semitoneOf(chord(next.symbol).root) - semitoneOf(chord(c.symbol).root) + 12) % 12).toBe(5);
          }
        });
      }),
      { numRuns: 40 },
    );
  });
});
