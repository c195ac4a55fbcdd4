import { describe, expect, it, test } from "vitest";
import { midi } from "../theory";
import { INSTRUMENTS, instrument } from ".";

const named = (name: string) => {
  const found = instrument(name);
  if (!found) throw new Error(name);
  return found;
};
describe("the catalogue", () => {
  test.each(INSTRUMENTS.map((i) => [i.name, i] as const))("%s: range, strings and hand agree", (_, i) => {
    expect(midi(i.lowest)).toBeLessThan(midi(i.highest));
    expect(i.strings.length > 0).toBe(i.hand !== undefined);
    expect(i.hand === "frets").toBe(i.frets !== undefined);
    expect(i.program).toBeGreaterThanOrEqual(0);
    expect(i.program).toBeLessThan(128);
    if (i.strings.length) expect(Math.min(...i.strings.map((s) => midi(s.open)))).toBe(midi(i.lowest));
    if (i.frets)
      expect(i.frets.map((f) => f.semitones)).toEqual([...i.frets.map((f) => f.semitones)].sort((a, b) => a - b));
  });
  it("finds by name whatever the capitals, and nothing by a wrong name", () => {
    expect([instrument(" Fiddle ")?.name, instrument("MOUNTAIN DULCIMER")?.name, instrument("kazoo")]).toEqual([
      "fiddle",
      "mountain dulcimer",
      undefined,
    ]);
  });
  it("fiddle, viola and cello are tuned in fifths", () => {
    for (const name of ["fiddle", "viola", "cello", "mandolin"]) {
      const sounds = named(name).strings.map((s) => midi(s.open));
      expect(
        sounds.slice(1).map((s, i) => s - (sounds[i] as number)),
        name,
      ).toEqual([7, 7, 7]);
    }
  });
});
