import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { tuneOf } from "../../testing/abc";
import { arbitraryTune } from "../../testing/arbitraryTune";
import { analyse, strainKeys } from "../analysis";
import { deriveChords, fileLocks } from "../chords";
import { inKey, midi, parseChord, parsePitch, pitchName } from "../theory";
import { deriveHarmony, thirdOrFourth, type HarmonyNote, steppedTo, THIRDS } from ".";
import { FIDDLE } from "../instruments";
import type { Tune } from "../score";

const asked = (tune: Tune, side: "below" | "above" = "below") => {
  const analysis = analyse(tune);
  const plan = deriveChords({
    places: analysis.places,
    phrases: analysis.form.phrases,
    keys: strainKeys(tune, analysis),
    locks: fileLocks(analysis.places),
  });
  return { analysis, plan, questions: thirdOrFourth(analysis.places, plan, side, FIDDLE) };
};

describe("third or fourth asks", () => {
  it("where exactly one of third and fourth is in the chord, and says why", () => {
    const { questions } = asked(tuneOf('"D"d4 f4|"A"a4 e4|'));
    expect(questions.map((q) => [pitchName(q.melody), pitchName(q.third), pitchName(q.fourth), q.fits])).toEqual([
      ["D5", "B4", "A4", "fourth"],
      ["F#5", "D5", "C#5", "third"],
      ["A5", "F#5", "E5", "fourth"],
      ["E5", "C#5", "B4", "third"],
    ]);
    expect(questions[0]!.why).toBe("A is in the chord of D (D, F#, A); B is not.");
  });
  it("once for the same note over the same chord, and not about quick notes", () => {
    expect(asked(tuneOf('"D"d4 d4|"D"defg|')).questions).toHaveLength(1);
  });
  it("only what can be played and heard: both notes in range and key, and the third's line can take the fourth", () => {
    fc.assert(
      fc.property(
        arbitraryTune({ maxBars: 4 }),
        fc.constantFrom("below", "above") as fc.Arbitrary<"below" | "above">,
        (tune, side) => {
          const { analysis, plan, questions } = asked(tune, side);
          for (const q of questions) {
            const key = analysis.places[q.bar]!.key;
            expect([inKey(q.third, key), inKey(q.fourth, key)]).toEqual([true, true]);
            const sounds = parseChord(q.chord)!.classes;
            expect([sounds.includes(midi(q.third) % 12), sounds.includes(midi(q.fourth) % 12)]).toEqual([
              q.fits === "third",
              q.fits === "fourth",
            ]);
            const line = deriveHarmony({
              places: analysis.places,
              plan,
              phraseEnds: new Set(),
              school: THIRDS,
              side,
              instrument: FIDDLE,
              locks: [{ bar: q.bar, at: q.at, pitch: q.fourth }],
            });
            expect(
              pitchName(line.notes.find((n) => n.bar === q.bar && n.at - analysis.places[q.bar]!.at === q.at)!.pitch!),
            ).toBe(pitchName(q.fourth));
          }
        },
      ),
      { numRuns: 40 },
    );
  });
});

describe("a note moved by steps", () => {
  const note = (pitch: string, others: string[]) =>
    ({
      pitch: parsePitch(pitch),
      alternatives: others.map((p) => ({ pitch: parsePitch(p), interval: 3, cost: 1 })),
    }) as HarmonyNote;
  it("goes to the nearest candidate that way, or nowhere", () => {
    const own = note("D4", ["F4", "A3", "B3", "A4"]);
    const to = (steps: number) => {
      const found = steppedTo(own, steps);
      return found && pitchName(found);
    };
    expect([to(1), to(2), to(4), to(-1), to(-3)]).toEqual(["F4", "F4", "A4", "B3", "A3"]);
    expect(steppedTo(note("D4", ["F4"]), -2)).toBeUndefined();
    expect(steppedTo({ ...own, pitch: null }, 1)).toBeUndefined();
  });
});
