import { readFileSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { tuneOf } from "../../../testing/abc";
import { arbitraryTune } from "../../../testing/arbitraryTune";
import { breaches, type Learner, type PartNote, readRoster } from "../../grading";
import { INSTRUMENTS, instrument, LEVELS } from "../../instruments";
import { beatTicks, lengthOf, lineNotes } from "../../score";
import { derive, inStrokes, newWork, planEvening } from "..";
import type { GroupPart } from "./model";
import { barsOf, groupStaff } from "./staff";
import { spellingFor, underPart } from "./under";

const { learners } = readRoster(readFileSync("demo/group.csv", "utf8"));
const REEL = tuneOf("|:d2fd Adfd|e2ge Bege|d2fd Adfa|gfed B2A2:|", { key: "D" });
const planned = (tune: ReturnType<typeof tuneOf>, room: readonly Learner[], bpm = 90) => {
  const { analysis, plan } = derive(newWork(tune));
  const tick = 60 / (bpm * beatTicks(tune.metre));
  const evening = planEvening({ analysis, plan, tick, dance: null, learners: room });
  return { analysis, tick, parts: inStrokes(evening.parts, { analysis, tick }) };
};
const { analysis, parts } = planned(REEL, learners);
const of = (name: string) => parts.find((p) => p.learner.name === name) as GroupPart;
const KEY = { key: analysis.key.key };

describe("strokes of learners’ parts", () => {
  it("a beginner has a bow to each note, who slurs has no more in a bow than they can", () => {
    expect(of("Dov Pike").notes.every((n) => n.slur === undefined && n.stroke)).toBe(true);
    const slurred = of("Anka Reed").notes.filter((n) => n.slur !== undefined);
    expect(slurred.length).toBeGreaterThan(0);
  });
  it("a bass and a drone are bowed note by note", () => {
    for (const name of ["Nia Fenn", "Bo Marram"]) expect(of(name).notes.some((n) => n.slur)).toBe(false);
  });
  it("a plectrum goes down on the beats", () => {
    const gus = of("Gus Tarn");
    const beats = gus.notes.filter((n) => n.at % 3360 === 0);
    expect(beats.every((n) => n.stroke === "down")).toBe(true);
  });
  it("what is blown, struck or strummed keeps its own", () => {
    expect(of("Jon Slip").notes.some((n) => n.stroke)).toBe(false);
    expect(new Set(of("Mo Brine").notes.map((n) => n.stroke))).toEqual(new Set(["heavy", "light"]));
  });
  it("slurs keep the limits of anyone, over any tune", () => {
    const room = fc
      .array(
        fc.record({ on: fc.constantFrom("fiddle", "viola", "cello", "bass"), level: fc.constantFrom(...LEVELS) }),
        {
          minLength: 1,
          maxLength: 4,
        },
      )
      .map((all) =>
        all.map(
          ({ on, level }, i): Learner => ({
            name: `P ${i}`,
            instrument: on,
            level,
            tuning: null,
            can: [],
            cannot: [],
            seat: "",
            notes: "",
          }),
        ),
      );
    fc.assert(
      fc.property(arbitraryTune({ maxBars: 6 }), room, fc.integer({ min: 30, max: 140 }), (tune, all, bpm) => {
        const { analysis: own, tick, parts: made } = planned(tune, all, bpm);
        for (const p of made) {
          const found = breaches({ ...p, places: own.places, tick });
          expect(found.map((f) => `${p.role} ${p.on.name} ${p.learner.level}: ${f.limit}`)).toEqual([]);
        }
      }),
      { numRuns: 60 },
    );
  });
});

describe("a part on its staff", () => {
  it("fills every bar, with the notes of the part and no others", () => {
    for (const part of parts) {
      const bars = barsOf(analysis.places, part.notes, part.on, KEY);
      expect(bars.map(lengthOf)).toEqual(analysis.places.map((p) => p.ticks));
      const places = analysis.places.map((p, i) => ({ ...p, bar: { ...p.bar, events: bars[i] ?? [] } }));
      expect(lineNotes(places).filter((n) => n.pitches.length > 0)).toHaveLength(part.notes.length);
    }
  });
  const marks = (notes: PartNote[], on = "fiddle", starts = new Set([0])) =>
    barsOf(analysis.places, notes, instrument(on)!, { ...KEY, starts })
      .flat()
      .filter((e) => e.pitches.length > 0)
      .map((e) => (e.marks ?? []).join());
  const quarters = (...strokes: ("down" | "up")[]): PartNote[] =>
    strokes.map((stroke, i) => ({ bar: 0, at: i * 3360, ticks: 3360, pitches: [69], stroke }));
  it("signs a bow where a phrase begins and where it comes the same way again", () => {
    expect(marks(quarters("down", "up", "up", "down"))).toEqual(["down-bow", "", "up-bow", ""]);
  });
  it("signs a plectrum where it turns", () => {
    expect(marks(quarters("down", "down", "up", "up"), "mandolin")).toEqual(["down-bow", "", "up-bow", ""]);
  });
  it("signs a bow after a rest", () => {
    const [a, , c] = quarters("down", "up", "up");
    expect(marks([a!, c!])).toEqual(["down-bow", "up-bow"]);
  });
  it("signs nothing where phrases are not known", () => {
    const bars = barsOf(analysis.places, quarters("down", "up"), instrument("fiddle")!, KEY);
    expect(bars.flat().some((e) => e.marks?.length)).toBe(false);
  });
  it("says where someone plays low, and where no longer", () => {
    const [a, b, c] = quarters("down", "up", "down");
    expect(marks([a!, { ...b!, quiet: true }, c!])).toEqual(["down-bow", "p", "mf"]);
  });
  it("opens a slur on its first note and closes it on its last", () => {
    const [a, b, c] = quarters("down", "down", "up").map((n, i) => ({ ...n, ...(i < 2 ? { slur: 1 } : {}) }));
    const events = barsOf(analysis.places, [a!, b!, c!], instrument("fiddle")!, KEY)
      .flat()
      .filter((e) => e.pitches.length > 0);
    expect(events.map((e) => e.slurs)).toEqual([{ open: 1, close: 0 }, { open: 0, close: 1 }, undefined]);
  });
  it("an accent for a heavy stroke, its string and finger beside a note", () => {
    const drum = barsOf(analysis.places, of("Mo Brine").notes, of("Mo Brine").on, KEY);
    expect(drum.flat().some((e) => e.marks?.includes("accent"))).toBe(true);
    const dov = barsOf(analysis.places, of("Dov Pike").notes, of("Dov Pike").on, KEY);
    expect(dov.flat().find((e) => e.pitches.length > 0)?.technique?.notes?.[0]).toMatchObject({ finger: 0 });
  });
  it("stands in the clef of its instrument, quieter than the tune by what it does", () => {
    expect(groupStaff(analysis.places, of("Nia Fenn"), KEY)).toMatchObject({ clef: "bass", loudness: 0.8 });
    expect(groupStaff(analysis.places, of("Anka Reed"), KEY)).toMatchObject({ clef: "treble", loudness: 1 });
  });
});

describe("names under the notes", () => {
  const under = (name: string, settled?: Parameters<typeof spellingFor>[1], tune = analysis) => {
    const write = underPart(of(name), tune.places, tune.key.key, settled);
    return (
      write &&
      of(name)
        .notes.slice(0, 3)
        .map((n) => write(n)?.[0]?.text)
    );
  };
  it("beginners have letters, others none, unless something else is settled", () => {
    expect(spellingFor(of("Dov Pike"), undefined)).toBe("letters");
    expect(spellingFor(of("Dov Pike"), "none")).toBeNull();
    expect(spellingFor(of("Anka Reed"), undefined)).toBeNull();
    expect(spellingFor(of("Anka Reed"), "degrees")).toBe("degrees");
  });
  it("chords and drums have none", () => {
    expect(spellingFor(of("Ida Rook"), "letters")).toBeNull();
    expect(spellingFor(of("Mo Brine"), "letters")).toBeNull();
  });
  it("are those of the notes, in every way of naming", () => {
    const [first] = of("Dov Pike").notes;
    expect(first?.pitches).toEqual([62]);
    expect(under("Dov Pike")?.[0]).toBe("D");
    expect(under("Dov Pike", "syllables")?.[0]).toBe("re");
    expect(under("Dov Pike", "degrees")?.[0]).toBe("1");
    expect(under("Anka Reed")).toBeUndefined();
  });
  it("who sings the tune has its words", () => {
    const song = tuneOf("d2 f2|a2 d2|\nw:one two three four", { key: "D", metre: "2/4" });
    const [singer] = learners;
    const room = [{ ...singer!, instrument: "voice", level: "Fluent" as const, can: ["alone"] }];
    const own = planned(song, room, 60);
    const [part] = own.parts;
    expect(part?.role).toMatch(/melody/);
    const write = underPart(part as GroupPart, own.analysis.places, own.analysis.key.key, undefined);
    expect(part?.notes.map((n) => write?.(n)?.[0]?.text)).toEqual(["one", "two", "three", "four"]);
  });
  it("every instrument has a name for every note it is given", () => {
    for (const on of INSTRUMENTS.filter((i) => i.family !== "drum").slice(0, 12)) {
      const room = [{ ...learners[0]!, instrument: on.name, level: "Moving" as const }];
      for (const part of planned(REEL, room).parts) {
        const write = underPart(part, analysis.places, KEY.key, "letters");
        for (const n of part.notes) if (write && n.pitches.length > 0) expect(write(n)?.[0]?.text).toMatch(/^[A-G]/);
      }
    }
  });
});
