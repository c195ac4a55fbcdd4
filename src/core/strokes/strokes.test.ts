import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { tuneOf } from "../../testing/abc";
import { INSTRUMENTS, type Instrument, instrument } from "../instruments";
import { type Place, places, playingOrder, QUARTER, slice, tuneSheet } from "../score";
import { midi } from "../theory";
import {
  bowedStaff,
  BOWINGS,
  gridTrouble,
  planBowing,
  planPlectrum,
  planStrum,
  type StrokePlan,
  STRUMS,
  strumsFor,
} from ".";

const guitar = instrument("guitar") as Instrument;
const banjo = instrument("banjo") as Instrument;
const G_ALL = [{ bar: 0, at: 0, symbol: "G" }];

const bow = (from: Place[], style: (typeof BOWINGS)[number]["name"], more: object = {}) =>
  planBowing({ places: from, style, bpm: 110, phraseStarts: new Set([0]), ...more });

/** Directions along the tune as it is played, each with whether it is marked as coming again. */
function asPlayed({ strokes }: StrokePlan, from: readonly Place[]) {
  const byBar = (bar: number) => strokes.filter((s) => s.notes[0]!.place.index === bar);
  return playingOrder(from).flatMap(byBar);
}

const TUNES: readonly (readonly [string, { metre?: string; key?: string }])[] = [
  ["|:A2|d2fd Adfd|e2ge Bege|d2fd Adfa|1gfed B2A2:|2gfed d4||", { key: "D" }],
  ["|:d|BcB ABd|e2d B2A|GAB AGE|1D3 D2:|2D3 D3||", { metre: "6/8" }],
  ["|:B2A GAB d2e|dBG AFD G3:|", { metre: "9/8" }],
  ["|:d2Bc d2|e2dc B2|A2Bc dB|A6:|", { metre: "3/4" }],
  ["(3ABc|d4 z2 fe|d2c2 B>A G<F|E8-|E4 z4|", {}],
];
const NOTES = fc.constantFrom("A", "B", "c", "d", "e", "f", "g", "D", "G,");
const LENGTHS = fc.constantFrom("", "", "", "2", "3", "/2", "4");
const EVENTS = fc.array(fc.oneof(fc.tuple(NOTES, LENGTHS), fc.tuple(fc.constant("z"), LENGTHS)), {
  minLength: 1,
  maxLength: 40,
});
/** Any tune at all: bars of any length, rests, repeats. */
const ANY = fc.tuple(EVENTS, fc.boolean()).map(([events, repeated]) => {
  const body = `A4|${events.map(([n, l], i) => `${n}${l}${i % 5 === 4 ? "|" : " "}`).join("")}`;
  return places(tuneOf(repeated ? `|:${body}:|` : `${body}|`));
});

describe("every style of bowing, over any tune", () => {
  test.each(BOWINGS.map((b) => b.name))("%s has every note in one stroke, in order", (style) => {
    fc.assert(
      fc.property(ANY, (from) => {
        const plan = bow(from, style);
        const notes = plan.strokes.flatMap((s) => s.notes);
        const sounding = from.flatMap((p) => p.bar.events.filter((e) => e.pitches.length > 0)).length;
        expect(notes).toHaveLength(sounding);
        for (const [i, n] of notes.slice(1).entries()) expect(n.at).toBeGreaterThan(notes[i]!.at);
      }),
      { numRuns: 25 },
    );
  });
  test.each(BOWINGS.map((b) => b.name))("%s alternates as it is played, but for marked retakes", (style) => {
    const check = (from: Place[]) => {
      const played = asPlayed(bow(from, style), from);
      played.slice(1).forEach((s, i) => {
        if (s.direction === played[i]!.direction) expect(s.retake).toBe(true);
      });
    };
    for (const [abc, more] of TUNES) check(places(tuneOf(abc, more)));
    fc.assert(fc.property(ANY, check), { numRuns: 15 });
  });
  test.each(BOWINGS.map((b) => b.name))(
    "%s states exact prices, holds what is settled, and is the same each time",
    (style) => {
      const [abc, more] = TUNES[0]!;
      const from = places(tuneOf(abc, more));
      const plan = bow(from, style);
      expect(bow(from, style)).toEqual(plan);
      for (const stroke of plan.strokes.slice(0, 14)) {
        const [first] = stroke.notes;
        const ticks = stroke.notes.reduce((sum, n) => sum + n.ticks, 0);
        for (const { direction, cost } of stroke.alternatives) {
          const locks = [{ bar: first!.place.index, at: first!.at - first!.place.at, ticks, direction }];
          const locked = bow(from, style, { locks });
          expect(locked.total - plan.total).toBeCloseTo(cost, 6);
          const own = locked.strokes.find((s) => s.notes[0]!.at === first!.at);
          expect([own?.direction, own?.locked]).toEqual([direction, true]);
          // Back again costs what it cost to go.
          expect(own?.alternatives[0]?.cost).toBeCloseTo(-cost, 6);
        }
      }
    },
  );
  test.each(TUNES)("Down on the beat is down on every downbeat of %s, or says why not", (abc, more) => {
    const from = places(tuneOf(abc, more));
    const plan = bow(from, "Down on the beat");
    for (const { notes, direction, reason } of plan.strokes) {
      const [first] = notes;
      const full = 4 * QUARTER * (first!.place.metre.beats / first!.place.metre.unit);
      if (first!.into % full === 0 && direction === "up") expect(reason).toMatch(/downbeat/i);
    }
    expect(plan.strokes.every((s) => s.reason.endsWith("."))).toBe(true);
  });
  it("no slur goes over a rest, skips a string or splits a triplet", () => {
    fc.assert(
      fc.property(ANY, fc.constantFrom(...BOWINGS.map((b) => b.name)), (from, style) => {
        for (const { notes } of bow(from, style).strokes) {
          notes.slice(1).forEach((n, i) => {
            expect(n.rest).toBe(0);
            expect(Math.abs(n.string! - notes[i]!.string!)).toBeLessThanOrEqual(1);
          });
        }
      }),
      { numRuns: 40 },
    );
  });
  it("of a tune without notes there is nothing to bow", () => {
    expect(bow(places(tuneOf("z8|A8|")).slice(0, 1), "Shuffle").strokes).toEqual([]);
  });
  it("an impossible wish is told", () => {
    const from = places(tuneOf("ABcd|"));
    const locks = [{ bar: 0, at: 0, ticks: 7 * QUARTER, direction: "up" as const }];
    expect(() => bow(from, "Separate", { locks })).toThrow(/cannot be bowed together/);
  });
});

describe("the plectrum", () => {
  const picked = (abc: string, style: "Pulse" | "Alternate", metre = "4/4") => {
    const from = places(tuneOf(abc, { metre }));
    const letters = from.map((p) =>
      planPlectrum({ places: from, style })
        .strokes.filter((s) => s.notes[0]!.place.index === p.index)
        .map((s) => (s.direction === "down" ? "D" : "U"))
        .join(""),
    );
    return letters.join("|");
  };
  it.each([
    ["Pulse", "A2FA DAFA|B2GB d2cB|", "4/4", "DDUDUDU|DDUDDU"],
    ["Pulse", "dc|B2A G2B|(3cBA B d3|", "6/8", "UD|DDDD|DUDUD"],
    ["Alternate", "dc|B2A G2B|(3cBA B d3|", "6/8", "DU|DDUU|DUDUD"],
    ["Pulse", "ABc dcB|", "6/8", "DUDDUD"],
    ["Alternate", "ABc dcB|", "6/8", "DUDUDU"],
    ["Alternate", "ABc dcB ABc|ABc dcB ABc|", "9/8", "DUDUDUDUD|DUDUDUDUD"],
    ["Pulse", "ABcd efga|", "4/4", "DUDUDUDU"],
    ["Pulse", "A|ABcd efga|", "4/4", "U|DUDUDUDU"],
    ["Pulse", "FGA|ABcd efga|", "4/4", "UDU|DUDUDUDU"],
    ["Pulse", "A2B/2c/2d/2e/2 f4|", "4/4", "DDUDUD"],
  ] as const)("%s: %s", (style, abc, metre, want) => expect(picked(abc, style, metre)).toBe(want));
  it("Pulse has a down-stroke on every beat of a jig where a note starts, and exact prices", () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom("ABc", "d2e", "f3", "d/2e/2fg", "z2A", "zAB"), { minLength: 2, maxLength: 12 }),
        (beats) => {
          const bars = beats.length % 2 ? [...beats, "A3"] : beats;
          const abc = bars.map((b, i) => b + (i % 2 ? "|" : " ")).join("");
          const from = places(tuneOf(abc, { metre: "6/8" }));
          const plan = planPlectrum({ places: from, style: "Pulse" });
          for (const s of plan.strokes) {
            const [first] = s.notes;
            if (first!.into % (1.5 * QUARTER) === 0) expect(s.direction).toBe("down");
          }
          const [stroke] = plan.strokes;
          const { direction, cost } = stroke!.alternatives[0]!;
          const [n] = stroke!.notes;
          const locks = [{ bar: n!.place.index, at: n!.at - n!.place.at, direction }];
          expect(planPlectrum({ places: from, style: "Pulse", locks }).total - plan.total).toBeCloseTo(cost, 6);
        },
      ),
      { numRuns: 40 },
    );
  });
});

describe("strums", () => {
  test.each(STRUMS)("$name fills its bar with signs that are known", ({ grid, metre }) => {
    const [beats, unit] = metre.split("/").map(Number) as [number, number];
    expect(grid).toHaveLength((beats * 8) / unit);
    expect(grid).toMatch(/^([BbDUdumxT.]+|[1-5]+)$/);
  });
  it("fill every bar exactly, pickups and odd metres too, on every instrument, with fills and with a grid of one's own", () => {
    for (const [abc, more] of [...TUNES, ["d5|e5|", { metre: "5/8" }] as const]) {
      const from = places(tuneOf(abc, more));
      for (const on of INSTRUMENTS) {
        for (const own of [{}, { fills: true }, { grid: "B.DUB.DU" }]) {
          const { strokes } = planStrum({ places: from, instrument: on, chords: G_ALL, ...own });
          for (const place of from) {
            const bar = strokes.filter((s) => s.place.index === place.index);
            expect(bar.reduce((sum, s) => sum + s.ticks, 0)).toBe(place.ticks);
            expect(bar.every((s) => Number.isInteger(s.ticks) && s.ticks > 0)).toBe(true);
          }
        }
      }
    }
  });
  it("those made for an instrument come first, and others are there for all", () => {
    expect(strumsFor({ beats: 4, unit: 4 }, "mandolin")[0]?.name).toBe("off-beat chop");
    expect(strumsFor({ beats: 4, unit: 4 }, "banjo")[0]?.name).toBe("basic strum");
    expect(strumsFor({ beats: 2, unit: 2 }, "piano").length).toBeGreaterThan(0);
    expect(strumsFor({ beats: 2, unit: 4 }, "banjo", true)[0]?.grid).toBe("m.DTm.DT");
  });
  test.each([
    ["B.DUb.DU", "G", "6:3 . 4:0+3:0+2:0+1:3 3:0+2:0+1:3 4:0 . 4:0+3:0+2:0+1:3 3:0+2:0+1:3"],
    ["B.DUb.DU", "C", "5:3 . 4:2+3:0+2:1+1:0 3:0+2:1+1:0 3:0 . 4:2+3:0+2:1+1:0 3:0+2:1+1:0"],
  ])("on the guitar %s over %s strikes these strings", (grid, symbol, want) => {
    const from = places(tuneOf("G8|", {}));
    const plan = planStrum({ places: from, instrument: guitar, chords: [{ bar: 0, at: 0, symbol }], grid });
    expect(plan.strokes.map((s) => s.struck.map((x) => `${x.string}:${x.fret}`).join("+") || ".").join(" ")).toBe(want);
  });
  test.each([
    ["B.D", "has 8 places"],
    ["B.D?B.D.", "is no stroke"],
    ["........", "one stroke at least"],
    ["B.D.B.D.", undefined],
  ])("a grid of one's own, %s, is looked at", (grid, trouble) => {
    const found = gridTrouble(grid, { beats: 4, unit: 4 });
    if (trouble) expect(found).toContain(trouble);
    else expect(found).toBeUndefined();
  });
  it("a fill is light, under a held note, and stops half a beat before the melody goes on", () => {
    const from = places(tuneOf("G8|B4 c4|ABcd e4|", {}));
    const plan = planStrum({ places: from, instrument: guitar, chords: G_ALL, fills: true });
    const fills = plan.strokes.flatMap((s) => (s.fill ? [s.at / (QUARTER / 2)] : []));
    // Under G8 from beat 2 on, four at most; under each half note one place: from beat 2 to the "and" of it.
    expect(fills).toEqual([2, 3, 4, 5, 10, 14, 22]);
    expect(plan.room).toHaveLength(4);
  });
});

describe("the banjo's strum with the melody in it", () => {
  const played = (abc: string, style: string, more: Parameters<typeof tuneOf>[1] = { key: "G" }) => {
    const from = places(tuneOf(abc, more));
    const plan = planStrum({ places: from, instrument: banjo, style, chords: G_ALL });
    const slots = plan.strokes.map((s) => {
      const { kind, pluck } = s;
      const own = s.own?.move ? `${s.own.move} ` : "";
      if (kind === "rest") return "-";
      if (kind === "brush") return "brush";
      const strings = s.struck.map((x) => `${x.string}:${x.fret}`).join("+");
      return `${own}${strings}${pluck === "T" && kind === "melody" ? " thumb" : ""}`;
    });
    return { slots: slots.join(", "), plan };
  };
  test.each([
    ["B2AB d2B2|", "2:0, -, 3:2, slide 3:4, 1:0, -, 2:0, 5:0"],
    ["A2GA B4|", "3:2, -, 3:0, hammer-on 3:2, 2:0, -, brush, 5:0"],
    ["d2cA G4|", "1:0, -, 2:1, 3:2 thumb, 3:0, -, brush, 5:0"],
    ["A2AG G4|", "3:2, -, 3:2, pull-off 3:0, 3:0, -, brush, 5:0"],
    ["G8|", "3:0, -, brush, 5:0, 4:0, -, brush, 5:0"],
  ])("%s down-stroke: %s", (abc, want) => {
    expect(played(abc, "basic strum").slots).toBe(want);
    expect(played(abc, "basic strum, up-picking").slots).toBe(want);
  });
  it("has another hand in each school", () => {
    const plucks = (style: string) =>
      played("G4 G4|", style).plan.strokes.map((s) => `${s.pluck ?? "-"}${s.direction?.[0] ?? ""}`);
    expect(plucks("basic strum").slice(0, 4)).toEqual(["indexd", "-", "indexd", "Td"]);
    expect(plucks("basic strum, up-picking").slice(0, 4)).toEqual(["Iu", "-", "Md", "Td"]);
  });
  it("in three-time has one more brush and thumb", () => {
    expect(played("B2 A2 G2|", "basic strum", { key: "G", metre: "3/4" }).slots).toBe("2:0, -, 3:2, 5:0, 3:0, 5:0");
    expect(played("B6|", "basic strum", { key: "G", metre: "3/4" }).slots).toBe("2:0, -, brush, 5:0, brush, 5:0");
  });
  it("names what has no place, and sounds every struck note as string plus fret", () => {
    const { plan } = played("B2A/B/A/B/ d2B2|", "basic strum");
    expect(plan.leftOut).toEqual(["2 melody notes are between the strokes or out of reach, and left out: bar 1."]);
    for (const { struck } of plan.strokes)
      for (const { string, fret, noteNumber } of struck) {
        const open = banjo.strings.find((s) => s.number === string)!.open;
        expect(midi(open) + Number(fret)).toBe(noteNumber);
      }
  });
  test.each(STRUMS.filter((s) => s.fingers))(
    "$name: no finger twice running, one string a place",
    ({ name, metre, fingers, grid }) => {
      const around = `${fingers}${fingers}`;
      for (let i = 1; i < around.length; i++) expect(around[i]).not.toBe(around[i - 1]);
      const from = places(tuneOf(metre === "3/4" ? "G6|" : "G8|", { key: "G", metre }));
      const plan = planStrum({ places: from, instrument: banjo, style: name, chords: G_ALL });
      expect(plan.strokes.map((s) => s.struck[0]?.string).join("")).toBe(grid);
      expect(plan.strokes.map((s) => s.pluck).join("")).toBe(fingers);
    },
  );
});

describe("bows on the staff", () => {
  it("have a sign each and one slur over several notes; written slurs give way", () => {
    const tune = tuneOf("(AB)cd efga|", { key: "D" });
    const from = places(tune);
    const plan = bow(from, "Slurred threes");
    const staff = bowedStaff(slice(tuneSheet(tune, from), 0, 1).staves[0]!, plan, from);
    const events = staff.bars[0]!;
    expect(events.map((e) => e.marks?.[0] ?? "").filter(Boolean)).toHaveLength(plan.strokes.length);
    const open = events.reduce((n, e) => n + (e.slurs?.open ?? 0), 0);
    expect(open).toBe(plan.strokes.filter((s) => s.notes.length > 1).length);
    expect(events.reduce((n, e) => n + (e.slurs?.close ?? 0), 0)).toBe(open);
  });
});
