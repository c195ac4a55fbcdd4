import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { tuneOf } from "../../testing/abc";
import { arbitraryTune } from "../../testing/arbitraryTune";
import { difficultyOf } from "../grading";
import { FIDDLE, type Instrument, instrument } from "../instruments";
import { beatTicks, places } from "../score";
import { midi, pitchName } from "../theory";
import { singles } from ".";
import { STEPS } from "./steps";

const KEY = { tonic: "D", mode: "major" } as const;
type Taken = { metre?: string; on?: Instrument };
const take = (name: string, abc: string, { metre = "4/4", on = FIDDLE }: Taken = {}) => {
  const from = places(tuneOf(abc, { key: "D", metre }));
  const step = STEPS.find((s) => s.name === name)!;
  return step.take(
    from.map((p) => p.bar.events),
    { places: from, key: KEY, on },
  );
};
/** Bars as they are read: pitches, lengths in eighths, marks after them. */
const read = (bars: ReturnType<typeof take>) =>
  bars
    ?.map((bar) =>
      bar
        .map((e) => {
          const marks = [...(e.marks ?? []), ...(e.technique?.move ? [e.technique.move] : [])];
          const length = Math.round((e.ticks / 1680) * 100) / 100;
          return `${e.pitches.map(pitchName).join("+") || "z"}:${length}${marks.map((m) => `(${m})`).join("")}`;
        })
        .join(" "),
    )
    .join(" | ");
const MANDOLIN = instrument("mandolin")!;
const WHISTLE = instrument("whistle")!;

describe("easier steps, on bars a player knows", () => {
  test.each([
    ["quarters and eighths", "d>f d/e/f A2f2|", {}, "D5:2 D5:1 F#5:1 A4:2 F#5:2"],
    ["quarters and eighths", "F>GA dA/B/A|", { metre: "6/8" }, "F#4:2 A4:1 D5:1 A4:1 A4:1"],
    ["fewer pitches", "dddd AAAA|FFFF DDDD|BBBB GGGG|dAFD EBAF|", {}, undefined],
    ["fewer strings", "dAdA dAdG|FAFA d4|", {}, "D5:1 A4:1 D5:1 A4:1 D5:1 A4:1 D5:1 G4:1 | F#4:1 A4:1 F#4:1 A4:1 D5:4"],
    ["open strings", "B4 f4|", {}, "G3:4 G3:4"],
  ] as const)("%s: %s", (name, abc, how, want) => {
    const found = read(take(name, abc, how));
    if (name === "fewer pitches") {
      const left = new Set(
        take(name, abc)!
          .flat()
          .flatMap((e) => e.pitches.map(midi)),
      );
      expect(left.size).toBeLessThanOrEqual(6);
    } else if (name === "fewer strings") expect(found ?? want).toBe(want);
    else if (name === "open strings") {
      const open = FIDDLE.strings.map((s) => midi(s.open));
      for (const p of take(name, abc)!
        .flat()
        .flatMap((e) => e.pitches))
        expect(open).toContain(midi(p));
    } else expect(found).toBe(want);
  });
  it("a line on three strings is left with the two it is on most, the others held over", () => {
    // D and A strings; one note on the low G string goes.
    const bars = take("fewer strings", "d2A2 D2B,2|d2A2 F2D2|")!;
    expect(bars.flat().some((e) => e.pitches.some((p) => midi(p) < 62))).toBe(false);
    expect(read(bars)).toContain("D4:4");
  });
});

describe("richer steps, on bars a player knows", () => {
  test.each([
    ["dynamics and staccato", "d2fd A4|", {}, "D5:2(accent) F#5:1 D5:1(staccato) A4:4(accent)"],
    ["three, three and two", "dfaf dfaf|", {}, "D5:1(accent) F#5:1 A5:1 F#5:1(accent) D5:1 F#5:1 A5:1(accent) F#5:1"],
    ["pedal note", "B2d2 A4|", {}, "B4:1 D4:1 D5:1 D4:1 A4:4"],
    ["alternating double stops", "d2f2 A2d2|", {}, undefined],
    ["octave below", "d4 A4|", {}, "D4+D5:4 A4:4"],
    ["slides", "f2d2 A4|", {}, "F#5:2(slide) D5:2 A4:4"],
    ["trills", "d4 A2d2|", {}, "D5:4(trill) A4:2 D5:2"],
    ["hammer-ons and pull-offs", "dedc A4|", { on: MANDOLIN }, undefined],
    ["chromatic lead-in", "d4A4|A4d4|A4d4|d2f2 A4|d4f2e2|f8|", {}, undefined],
  ] as const)("%s: %s", (name, abc, how, want) => {
    const bars = take(name, abc, how);
    if (want) expect(read(bars)).toBe(want);
    else if (name === "chromatic lead-in") expect(bars).toBeUndefined();
    else expect(bars).toBeDefined();
  });
  it("three half steps lead into the phrase after the fourth bar, in the time of its last beat", () => {
    const bars = take("chromatic lead-in", "d4A4|A4d4|A4d4|d4f2A2|g4f4|f8|")!;
    expect(bars[3]?.slice(-3).map((e) => [e.pitches.map(midi)[0], e.ticks, e.tuplet?.place])).toEqual([
      [76, 1120, "first"],
      [77, 1120, "inner"],
      [78, 1120, "last"],
    ]);
    expect(bars[0]).toHaveLength(2);
  });
  it("double stops lie a third or a sixth below, on strings side by side", () => {
    for (const name of ["alternating double stops", "full double stops"])
      for (const { pitches } of take(name, "d2f2 a2f2|e2g2 B2d2|")!.flat()) {
        if (pitches.length < 2) continue;
        const far = midi(pitches[1]!) - midi(pitches[0]!);
        expect([3, 4, 5, 8, 9]).toContain(far);
      }
    const count = (name: string) =>
      take(name, "d2f2 a2f2|")!
        .flat()
        .filter((e) => e.pitches.length > 1).length;
    expect(count("full double stops")).toBeGreaterThan(count("alternating double stops"));
  });
  it("the left hand sounds the second of two steps on one string: up a hammer-on, down a pull-off", () => {
    const moves = take("hammer-ons and pull-offs", "fgfe A4|", { on: MANDOLIN })!
      .flat()
      .map((e) => e.technique?.move);
    expect(moves[1]).toBe("hammer-on");
    expect(moves).toContain("pull-off");
    expect(moves[0]).toBeUndefined();
  });
  test.each([
    ["drone strings", WHISTLE],
    ["open strings", WHISTLE],
    ["slides", WHISTLE],
    ["hammer-ons and pull-offs", FIDDLE],
    ["full double stops", WHISTLE],
    ["fewer strings", WHISTLE],
  ])("%s does not exist on the %s", (name, on) => {
    expect(take(name, "d2fd A4|f2ed B4|", { on })).toBeUndefined();
  });
});

describe("every step, over any tune", () => {
  const ON = fc.constantFrom(FIDDLE, MANDOLIN, WHISTLE, instrument("cello")!);
  it("keeps the bars and their lengths, and changes something or is not to be had", () => {
    fc.assert(
      fc.property(arbitraryTune({ maxBars: 6 }), ON, (tune, on) => {
        const from = places(tune);
        const written = from.map((p) => p.bar.events);
        for (const step of STEPS) {
          const bars = step.take(written, { places: from, on, key: tune.key });
          if (!bars) continue;
          expect(bars.map((b) => b.reduce((sum, e) => sum + e.ticks, 0))).toEqual(from.map((p) => p.ticks));
          expect(JSON.stringify(bars)).not.toBe(JSON.stringify(written));
        }
      }),
      { numRuns: 100 },
    );
  });
  it("an easier one by itself is never harder, a richer one never easier; what it wants is said", () => {
    fc.assert(
      fc.property(arbitraryTune({ maxBars: 6 }), ON, fc.integer({ min: 50, max: 140 }), (tune, on, bpm) => {
        const from = places(tune);
        const tick = 60 / (bpm * beatTicks(tune.metre));
        const request = { places: from, on, key: tune.key, tick };
        const own = difficultyOf(
          from,
          from.map((p) => p.bar.events),
          on,
          tick,
        ).difficulty;
        for (const { name, way, needs, taken } of singles(request)) {
          expect(needs, name).not.toBe("");
          if (!taken) continue;
          const now = difficultyOf(from, taken.bars, on, tick).difficulty;
          expect(now - own).toBeCloseTo(taken.change, 9);
          if (way === "easier") expect(taken.change).toBeLessThanOrEqual(1e-6);
          else expect(taken.change).toBeGreaterThanOrEqual(-1e-6);
        }
      }),
      { numRuns: 60 },
    );
  });
  it("there is each step that teachers name", () => {
    expect(STEPS.filter((s) => s.way === "easier")).toHaveLength(8);
    expect(STEPS.filter((s) => s.way === "richer")).toHaveLength(15);
    expect(new Set(STEPS.map((s) => s.name)).size).toBe(23);
  });
});
