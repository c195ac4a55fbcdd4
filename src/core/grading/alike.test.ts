import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { tuneOf } from "../../testing/abc";
import { arbitraryTune } from "../../testing/arbitraryTune";
import { learner, materialFor } from "../../testing/jig";
import { INSTRUMENTS, instrument, LEVELS } from "../instruments";
import { alike, breaches, PLAYED_ROLES, writeRole } from ".";

// Two phrases of four bars, the second the first over again, then another.
const TUNE = tuneOf(
  "d2fd Adfd|e2ge Bege|d2fd Adfa|gfed B2A2|d2fd Adfd|e2ge Bege|d2fd Adfa|gfed B2A2|a2fa dafa|b2gb egbg|a2fa dafa|gfed d4|",
  { key: "D" },
);
const material = materialFor(TUNE, 90, "reel");

describe("like phrases", () => {
  it("are known by their notes", () => {
    expect(material.phrases.map((p) => p.like)).toEqual([null, 0, null]);
  });
  it.each([
    ["fiddle", "First sounds", "one-note harmony"],
    ["fiddle", "Steady", "simple melody"],
    ["cello", "Moving", "low harmony"],
    ["bass", "Steady", "bass"],
    ["guitar", "Steady", "strum"],
    ["viola", "Fluent", "counter-figure"],
  ] as const)("%s, %s: %s has the same notes in both", (on, level, role) => {
    const part = writeRole(material, learner(on, level), instrument(on)!, role);
    if ("refused" in part) throw new Error(part.refused);
    const made = alike(material, part.request, part.notes);
    const phrase = (from: number) =>
      made.filter((n) => n.bar >= from && n.bar < from + 4).map((n) => [n.bar - from, n.at, n.ticks, n.pitches]);
    expect(phrase(4)).toEqual(phrase(0));
    expect(phrase(0).length).toBeGreaterThan(0);
  });
  it("stay as they are where the chords under them are others", () => {
    const chords = material.chords.map((c) => (c.bar === 5 ? { ...c, symbol: "Em" } : c));
    const other = { ...material, chords };
    const part = writeRole(other, learner("fiddle", "Steady"), instrument("fiddle")!, "one-note harmony");
    if ("refused" in part) throw new Error(part.refused);
    expect(alike(other, part.request, part.notes)).toEqual(part.notes);
  });
  it("never break a limit that was kept, over any tune, for anyone", () => {
    fc.assert(
      fc.property(
        arbitraryTune({ maxBars: 8 }),
        fc.constantFrom(...INSTRUMENTS.map((i) => i.name)),
        fc.constantFrom(...LEVELS),
        fc.constantFrom(...PLAYED_ROLES),
        (tune, on, level, role) => {
          const own = materialFor(tune, 90, null);
          const part = writeRole(own, learner(on, level), instrument(on)!, role);
          if ("refused" in part) return;
          const { limits } = part.request;
          const count = (notes: typeof part.notes) =>
            breaches({ role, on: instrument(on)!, limits, notes, places: own.places, tick: own.tick }).length;
          expect(count(alike(own, part.request, part.notes))).toBeLessThanOrEqual(count(part.notes));
        },
      ),
      { numRuns: 120 },
    );
  });
});
