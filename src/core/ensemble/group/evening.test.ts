import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { arbitraryTune } from "../../../testing/arbitraryTune";
import { breaches, type Learner, WORDS } from "../../grading";
import { INSTRUMENTS, instrument, LEVELS } from "../../instruments";
import { beatTicks } from "../../score";
import { derive, newWork, planEvening } from "..";

const NAMES = INSTRUMENTS.map((i) => i.name);
const LEARNERS: fc.Arbitrary<Learner[]> = fc
  .array(
    fc.record({
      instrument: fc.constantFrom(...NAMES),
      level: fc.constantFrom(...LEVELS),
      can: fc.array(fc.constantFrom(...Object.keys(WORDS), "shape:Em", "range:D4-A4", "key:F"), { maxLength: 3 }),
      cannot: fc.array(fc.constantFrom(...Object.keys(WORDS)), { maxLength: 2 }),
    }),
    { minLength: 1, maxLength: 10 },
  )
  .map((all) => all.map((l, i) => ({ ...l, name: `Player ${i}`, tuning: null, seat: "", notes: "" })));

const evening = (tune: Parameters<typeof newWork>[0], learners: readonly Learner[], bpm: number) => {
  const { analysis, plan } = derive(newWork(tune));
  const tick = 60 / (bpm * beatTicks(tune.metre));
  return { analysis, tick, ...planEvening({ analysis, plan, tick, dance: null, learners }) };
};

describe("parts for any group, over any tune", () => {
  it("break no limit, as somebody sees who knows nothing of how they were written", () => {
    fc.assert(
      fc.property(arbitraryTune({ maxBars: 8 }), LEARNERS, fc.integer({ min: 40, max: 160 }), (tune, learners, bpm) => {
        const { parts, analysis, tick } = evening(tune, learners, bpm);
        for (const part of parts) {
          const found = breaches({ ...part, places: analysis.places, tick });
          expect(found.map((f) => `${part.role} ${part.on.name} ${part.learner.level}: ${f.limit} ${f.bar}`)).toEqual(
            [],
          );
        }
      }),
      { numRuns: 120 },
    );
  });
  it("leave nobody without a part or a reason, and rub nowhere severely", () => {
    fc.assert(
      fc.property(arbitraryTune({ maxBars: 6 }), LEARNERS, (tune, learners) => {
        const { parts, unmet, fit, roadmap } = evening(tune, learners, 80);
        const silent = learners.filter((l) => !parts.some((p) => p.learner.name === l.name));
        for (const l of silent) expect(unmet.map((u) => u.must).join()).toContain(l.name);
        for (const p of parts) {
          expect(p.reason).not.toBe("");
          expect(instrument(p.learner.instrument)?.name).toBe(p.on.name);
        }
        expect(fit.worst.filter((w) => w.severe)).toEqual([]);
        const tune0 = parts.filter((p) => p.role.endsWith("melody")).map((p) => p.id);
        if (tune0.length > 0)
          for (const column of roadmap.columns) expect(column.plays.some((id) => tune0.includes(id))).toBe(true);
      }),
      { numRuns: 60 },
    );
  });
});
