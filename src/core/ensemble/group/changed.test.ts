import { describe, expect, it, test } from "vitest";
import { tuneOf } from "../../../testing/abc";
import { type Limits, limitsOf, type PartNote } from "../../grading";
import { FIDDLE } from "../../instruments";
import { derive, newWork } from "..";
import { byHand, mended, withChanges } from "./changed";
import { materialOf } from "./material";
import type { Change } from "./model";

const TUNE = tuneOf('"D"d4 f4|"A"a4 e4|"D"f4 d4|', { key: "D" });
const { analysis, plan } = derive(newWork(TUNE));
const tick = 60 / (100 * 3360);
const material = materialOf(analysis, plan, tick, null);
const HALF = 2 * 3360;
const learner = {
  name: "Ann",
  instrument: "fiddle",
  tuning: null,
  level: "Moving",
  can: [],
  cannot: [],
  seat: "",
  notes: "",
} as const;
const limits: Limits = limitsOf({
  who: { ...learner, can: [], cannot: [] },
  on: FIDDLE,
  key: material.key,
  kind: "line",
  wanted: [],
});
const note = (bar: number, at: number, ...pitches: number[]): PartNote => ({ bar, at, ticks: HALF, pitches });
const PART = [note(0, 0, 66), note(0, HALF, 69), note(1, 0, 69), note(1, HALF, 64), note(2, 0, 62)];
const changed = (what: Change, bar = 1, notes = PART, name = "Ann") =>
  withChanges(material, notes, { name, limits }, [{ name: "Ann", bar, what }]);
const pitches = (notes: readonly PartNote[], bar: number) =>
  notes.filter((n) => n.bar === bar).map((n) => n.pitches[0]);

describe("room that is made in a bar", () => {
  it("is a rest, and only there", () => {
    expect(pitches(changed("rest"), 1)).toEqual([]);
    expect(changed("rest").filter((n) => n.bar !== 1)).toEqual(PART.filter((n) => n.bar !== 1));
  });
  it("is another octave where the part has that, without the fingers it had", () => {
    expect(pitches(changed("octave higher"), 1)).toEqual([81, 76]);
    const fingered = PART.map((n) => ({ ...n, strings: [2], fingers: [0] }));
    expect(changed("octave higher", 1, fingered).find((n) => n.bar === 1)).not.toHaveProperty("fingers");
    // An octave lower than A4 is A3, which the G string has; than E4 there is nothing.
    expect(pitches(changed("octave lower"), 1)).toEqual([57, 64]);
  });
  it("is the nearest other note of the chord", () => {
    // Under A: from A4 up to C sharp; from E4 to A, since the C sharp below it wants a high third finger.
    expect(pitches(changed("another note"), 1)).toEqual([73, 69]);
    for (const p of pitches(changed("another note"), 1)) expect([9, 1, 4]).toContain((p ?? 0) % 12);
  });
  it("is playing low, with every note where it was", () => {
    const low = changed("quieter");
    expect(low.map(({ quiet: _, ...n }) => n)).toEqual(PART);
    expect(low.filter((n) => n.quiet).every((n) => n.bar === 1)).toBe(true);
  });
  it("is nobody else’s", () => {
    expect(changed("rest", 1, PART, "Ben")).toEqual(PART);
  });
  it("a double stop has no other note to go to", () => {
    const double = [note(1, 0, 69, 73)];
    expect(changed("another note", 1, double)).toEqual(double);
  });
});

describe("bars written by hand", () => {
  it("stand in the place of the bar, in order, and leave the others", () => {
    const own = { name: "Ann", bar: 1, notes: [{ at: 0, ticks: 2 * HALF, pitches: [73] }] };
    const made = byHand(PART, [own]);
    expect(made.map((n) => n.bar)).toEqual([0, 0, 1, 2]);
    expect(pitches(made, 1)).toEqual([73]);
    expect(byHand(PART, [])).toEqual(PART);
  });
  it("a bar may be emptied", () => {
    expect(pitches(byHand(PART, [{ name: "Ann", bar: 0, notes: [] }]), 0)).toEqual([]);
  });
});

describe("a part that is mended", () => {
  const whole = (notes: readonly PartNote[]) => ({
    role: "one-note harmony" as const,
    on: FIDDLE,
    limits,
    notes,
    places: analysis.places,
    tick,
  });
  it("loses no note where nothing is broken", () => {
    expect(mended(whole(PART), new Set())).toEqual(PART);
  });
  test.each([
    ["a note the level does not have", [...PART.slice(0, 2), note(1, 0, 63), note(2, 0, 62)], 1],
    ["a leap too wide", [note(0, 0, 55), note(1, 0, 78)], 1],
    ["notes that overlap", [note(0, 0, 66), { ...note(0, HALF / 2, 69) }], 1],
  ])("%s goes, and no other", (_, notes, lost) => {
    expect(mended(whole(notes), new Set())).toHaveLength(notes.length - lost);
  });
  it("what was written by hand stands, whatever it breaks", () => {
    const notes = [...PART.slice(0, 2), note(1, 0, 63), note(2, 0, 62)];
    expect(mended(whole(notes), new Set([1]))).toEqual(notes);
  });
});
