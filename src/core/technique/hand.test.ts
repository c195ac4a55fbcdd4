import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { FIDDLE, INSTRUMENTS, instrument } from "../instruments";
import { midi, parsePitch, pitchName } from "../theory";
import { firstPosition, placeAbove, semitonesOf } from ".";

const named = (name: string) => {
  const found = instrument(name);
  if (!found) throw new Error(name);
  return found;
};
const at = (name: string, pitch: string) => firstPosition(named(name), midi(parsePitch(pitch)));

/** The sign of a finger moved out of its usual place. */
function slid({ low, high }: { low?: boolean | undefined; high?: boolean | undefined }): "L" | "H" | "" {
  if (low) return "L";
  return high ? "H" : "";
}

describe("fingers in first position", () => {
  test.each([
    ["fiddle", "A4", { string: 2, finger: 0, low: false }],
    ["fiddle", "B4", { string: 2, finger: 1, low: false }],
    ["fiddle", "C5", { string: 2, finger: 2, low: true }],
    ["fiddle", "C#5", { string: 2, finger: 2, low: false }],
    ["fiddle", "D5", { string: 2, finger: 3, low: false }],
    ["fiddle", "F5", { string: 3, finger: 1, low: true }],
    ["fiddle", "G#4", { string: 1, finger: 3, low: false, high: true }],
    ["fiddle", "B5", { string: 3, finger: 4, low: false }],
    ["cello", "E3", { string: 2, finger: 1, low: false }],
    ["cello", "F3", { string: 2, finger: 2, low: false }],
    ["cello", "F#3", { string: 2, finger: 3, low: false }],
    ["cello", "D#4", { string: 3, finger: 4, low: false, high: true }],
    ["viola", "D4", { string: 2, finger: 0, low: false }],
    ["mandolin", "E4", { string: 1, finger: 0, low: false, fret: "2" }],
    ["guitar", "C4", { string: 4, finger: 0, low: false, fret: "1" }],
    ["mountain dulcimer", "F#4", { string: 2, finger: 0, low: false, fret: "2" }],
  ] as const)("%s %s", (name, pitch, place) => {
    expect(at(name, pitch)).toEqual(place);
  });
  it("says where no finger reaches: too low, too high, or between diatonic frets", () => {
    expect([at("fiddle", "F#3"), at("fiddle", "C6"), at("whistle", "D5"), at("mountain dulcimer", "D#5")]).toEqual([
      undefined,
      undefined,
      undefined,
      undefined,
    ]);
  });
  it("fingers as teachers say them, both ways", () => {
    expect([
      semitonesOf(FIDDLE, 2, "L"),
      semitonesOf(FIDDLE, 2, ""),
      semitonesOf(FIDDLE, 3, "H"),
      semitonesOf(FIDDLE, 5, ""),
      semitonesOf(named("cello"), 2, "L"),
    ]).toEqual([3, 4, 6, undefined, undefined]);
    for (const on of [FIDDLE, named("viola"), named("cello")])
      for (let above = 0; above < 7; above++) {
        const place = placeAbove(on, above);
        if (place) expect(semitonesOf(on, place.finger, slid(place))).toBe(above);
      }
  });
  it("holds for every note: the string and the distance above it give the note back, and no open string is passed over", () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...INSTRUMENTS.filter((i) => i.hand)),
        fc.integer({ min: 30, max: 90 }),
        (on, sound) => {
          const place = firstPosition(on, sound);
          if (!place) return;
          const open = on.strings[place.string]?.open;
          expect(open).toBeDefined();
          const above = sound - midi(open as never);
          expect(placeAbove(on, above), `${pitchName(open as never)} + ${above}`).toMatchObject({
            finger: place.finger,
            low: place.low,
          });
          if (on.strings.some((s) => midi(s.open) === sound)) expect(above).toBe(0);
        },
      ),
    );
  });
});
