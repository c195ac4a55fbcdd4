import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { tuneOf } from "../../testing/abc";
import { places, QUARTER } from "../score";
import { pitchName } from "../theory";
import {
  bowUse,
  carriedBy,
  CELLS,
  clapEar,
  clapperLateness,
  clapSound,
  foundCells,
  grooveOf,
  lateness,
  spokenNotes,
  tapped,
  withFlicks,
  withoutFlicks,
} from ".";

const RATE = 48_000;
const cell = (name: string) => CELLS.find((c) => c.name === name)!;
const said = (abc: string, metre: string, ...names: string[]) => {
  const from = places(tuneOf(abc, { metre }));
  return spokenNotes(from, names.map(cell)).map((n) => (n.cell === null ? n.word : n.word.toUpperCase()));
};

describe("the tune as it is spoken", () => {
  test.each([
    ["d2fd Adfd|", "4/4", ["Long-short-short"], "DUM TA KA ta ka ta ka"],
    ["d2fd Adfd|", "4/4", ["Long-short-short", "Even four"], "DUM TA KA TA KA TA KA"],
    ["d4 A2Bc|", "4/4", [], "doom dum ta ka"],
    ["(3ABc d2 d4|", "4/4", [], "ti ki ti dum doom"],
    ["ABc d2e|", "6/8", ["Jig run", "Jig step"], "DA KI TA DUM TA"],
    ["ABc d3|", "6/8", [], "da ki ta dum"],
    ["A>B c<d|", "4/4", ["Snap"], "ta ka K DAH"],
    ["d2 B2 A2|", "3/4", [], "dum dum dum"],
  ])("%s in %s with %j: %s", (abc, metre, cells, want) => {
    expect(said(abc, metre, ...cells).join(" ")).toBe(want);
  });
  it("joins what is tied, and says nothing on rests", () => {
    const from = places(tuneOf("z2 A2-|A2 z2 B4|", {}));
    const notes = spokenNotes(from, []);
    expect(notes.map((n) => [n.bar, n.ticks / QUARTER])).toEqual([
      [0, 2],
      [1, 2],
    ]);
  });
  it("tells how much of the tune its cells carry", () => {
    const from = places(tuneOf("d2fd Adfd|d4 d2fd|", {}));
    const cells = foundCells(from).slice(0, 1);
    expect(cells[0]!.name).toBe("Long-short-short");
    expect(carriedBy(from, spokenNotes(from, cells))).toEqual({ beats: 4, all: 8 });
  });
  it("has every sounding note once, in order, whatever cells are asked for", () => {
    const NOTES = fc.constantFrom("A", "B2", "c/2d/2", "(3efg", "A>B", "z2", "d3", "d4");
    fc.assert(
      fc.property(fc.array(NOTES, { minLength: 1, maxLength: 24 }), fc.subarray([...CELLS]), (events, cells) => {
        const from = places(tuneOf(`A${events.join(" ")}|`, {}));
        const notes = spokenNotes(from, cells);
        const sounding = from[0]!.bar.events.flatMap((e, i) => (e.pitches.length > 0 ? [i] : []));
        expect(notes.map((n) => n.event)).toEqual(sounding);
        expect(notes.every((n) => n.word.length > 0)).toBe(true);
      }),
    );
  });
});

describe("taps", () => {
  test.each([
    [1.02, [0, 1, 2], 0.02],
    [0.97, [0, 1, 2], -0.03],
    [2.3, [0, 1, 2], 0.3],
    [1.5, [0, 1, 2], undefined],
    [-0.1, [0, 1], -0.1],
    [0.4, [], undefined],
  ])("a tap at %d against %j is %d late", (tap, moments, want) => {
    const late = lateness(tap, moments, 0.45);
    if (want === undefined) expect(late).toBeUndefined();
    else expect(late).toBeCloseTo(want, 9);
  });
  test.each([
    [[], "Tap along while it plays."],
    [[5, 6], "A few more taps."],
    [[5, -5, 10, -10], "Together with the tune, and even."],
    [[40, 44, 38, 42], "41 ms late on the whole, and even."],
    [[-60, -20, -50, -10], "35 ms early on the whole, and even."],
    [[-90, 90, -80, 80], "Together with the tune, but uneven: try it slower."],
  ])("%j: %s", (late, words) => expect(tapped(late).words).toBe(words));
});

describe("the ear for claps", () => {
  it("hears every clap of the clapper within three milliseconds, and nothing else", () => {
    const moments = [0.3, 0.8, 1.05, 1.3, 2.2];
    const sound = clapSound(moments, 3, RATE);
    const claps = clapEar(RATE).hear(sound);
    expect(claps).toHaveLength(moments.length);
    for (const [i, at] of claps.entries()) expect(Math.abs(at - moments[i]!)).toBeLessThanOrEqual(0.0031);
  });
  it("hears the same whatever pieces the sound comes in", () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 4000 }), { minLength: 1, maxLength: 60 }), (sizes) => {
        const sound = clapSound([0.2, 0.6, 1.1], 1.5, 16_000);
        const [whole, ear] = [clapEar(16_000).hear(sound), clapEar(16_000)];
        const heard: number[] = [];
        let from = 0;
        for (const size of [...sizes, sound.length]) {
          heard.push(...ear.hear(sound.subarray(from, Math.min(sound.length, from + size))));
          from = Math.min(sound.length, from + size);
        }
        expect(heard).toEqual(whole);
      }),
      { numRuns: 20 },
    );
  });
  it("stays calm in a loud room, and hears a clap over it", () => {
    const hum = new Float32Array(RATE * 2).map((_, i) => 0.05 * Math.sin((2 * Math.PI * 110 * i) / RATE));
    const clap = clapSound([1.5], 2, RATE);
    const claps = clapEar(RATE).hear(hum.map((s, i) => s + (clap[i] as number)));
    expect(claps.filter((at) => at > 0.2)).toHaveLength(1);
    expect(Math.abs(claps.at(-1)! - 1.5)).toBeLessThan(0.004);
  });
  it("the clapper is a little behind and not quite even, the same every time", () => {
    const late = clapperLateness(40);
    expect(late).toEqual(clapperLateness(40));
    const { mean, spread } = tapped(late.map((l) => l * 1000));
    expect(mean).toBeGreaterThan(5);
    expect(mean).toBeLessThan(40);
    expect(spread).toBeGreaterThan(5);
  });
});

describe("flicks", () => {
  const graced = (abc: string) =>
    places(withFlicks(tuneOf(abc, { key: "D" }))).map((p) =>
      p.bar.events.map((e) => (e.grace ? pitchName(e.grace[0]!.pitches[0]!) : "-")).join(" "),
    );
  test.each([
    // Repeated on the beat, and a step down to it; never on two beats running.
    ["A2A2 A2G2|", ["- B4 - A4"]],
    ["A2c2 B2d2|", ["- - C#5 -"]],
    ["(3ABA A2 B2c2|", ["- - - B4 - -"]],
    ["A2B2 c2d2|", ["- - - -"]],
  ])("%s: %j", (abc, want) => expect(graced(abc)).toEqual(want));
  it("are taken away again, other graces stay", () => {
    const tune = tuneOf("A2A2 {gf}e2d2|", { key: "D" });
    expect(withoutFlicks(withFlicks(tune)).strains).toEqual(tune.strains);
  });
});

describe("how much bow is used", () => {
  const jig = grooveOf("jig")!;
  const metre = { beats: 6, unit: 8 as const };
  test.each([
    [60, "half", "a quarter"],
    [119, "a fifth", "a twelfth"],
  ])("at %d: accents take %s, the others %s", (bpm, strong, light) => {
    expect(bowUse(jig, metre, bpm).words).toBe(`At this tempo accents take ${strong} of the bow, the others ${light}.`);
  });
  it("never grows with tempo", () => {
    const used = [50, 70, 90, 110, 130].map((bpm) => bowUse(jig, metre, bpm));
    for (const [i, faster] of used.slice(1).entries()) {
      expect(faster.strong).toBeLessThanOrEqual(used[i]!.strong);
      expect(faster.light).toBeLessThanOrEqual(used[i]!.light);
    }
  });
});
