import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { tuneOf } from "../../testing/abc";
import { readMusicXml, sheetMusicXml } from "../formats";
import { INSTRUMENTS, LEVELS } from "../instruments";
import { type Event, places } from "../score";
import { KINDS } from "../technique";
import { midi } from "../theory";
import {
  arrangedFor,
  changeHand,
  derive,
  handFor,
  handSheet,
  newWork,
  performedBy,
  playedBy,
  readWork,
  settleFinger,
  sheetOf,
  tuningsFor,
  type Work,
  withTune,
} from ".";

const REEL = "|:A|d2fd Adfd|e4 Bege|d2fd A(3dfa f|gfed B4:|";
const work = (abc = REEL) => newWork(tuneOf(abc, { key: "D" }));
const sheeted = (w: Work, name: string) => {
  const derived = derive(w);
  return handSheet(w, derived, sheetOf(w, derived, "melody"), handFor(w, name));
};
const STRUNG = INSTRUMENTS.filter((i) => i.strings.length > 0).map((i) => i.name);

describe("a hand under the tune", () => {
  it("is its notes alone for the third level until something is chosen, and is kept with the work", () => {
    expect(handFor(work(), "guitar")).toEqual({
      instrument: "guitar",
      tuning: null,
      kind: "melody",
      level: "Moving",
      locks: [],
    });
    const chosen = changeHand(work(), "guitar", { kind: "melody with chords", level: "Leading" });
    expect(readWork(JSON.parse(JSON.stringify(chosen)))).toEqual(chosen);
    expect(changeHand(chosen, "banjo", {}).hands!.map((h) => h.instrument)).toEqual(["banjo", "guitar"]);
  });
  it("fills every bar exactly, whatever it is played on and however", () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...STRUNG),
        fc.constantFrom(...KINDS),
        fc.constantFrom(...LEVELS),
        (name, kind, level) => {
          const w = changeHand(work(), name, { kind, level });
          const sheet = sheeted(w, name);
          const staff = sheet.staves.at(-1)!;
          const full = sheet.places.map((p) => p.ticks);
          expect(staff.bars.map((bar) => bar.reduce((sum, e) => sum + e.ticks, 0))).toEqual(full);
        },
      ),
      { numRuns: 60 },
    );
  });
  test.each(["guitar", "mandolin", "banjo", "small lute", "tenor banjo", "fiddle", "viola", "octave mandola"])(
    "on the %s reads back from MusicXML: the same pitches at the same times",
    (name) => {
      const w = changeHand(work(), name, { kind: "double stops", level: "Leading", doubling: "full" });
      const sheet = sheeted(w, name);
      const { tune } = readMusicXml(sheetMusicXml(sheet), { part: 1 });
      const read = (bars: readonly (readonly Event[])[]) =>
        bars.map((bar) => bar.map((e) => [e.ticks, ...new Set(e.pitches.map(midi))]));
      expect(read(places(tune).map((p) => p.bar.events))).toEqual(read(sheet.staves.at(-1)!.bars));
    },
  );
  it("settles a note on another string, and frees it; another tuning lets go of it", () => {
    const w = changeHand(work(), "mandolin", { level: "Leading" });
    const derived = derive(w);
    const first = arrangedFor(w, derived, handFor(w, "mandolin"))!.strokes[1]!;
    const other = first.alternatives[0]!;
    const spot = { bar: first.place.index, at: first.at - first.place.at };
    const settled = settleFinger(w, "mandolin", spot, other);
    const own = (x: Work) => arrangedFor(x, derived, handFor(x, "mandolin"))!.strokes[1]!;
    expect(own(settled)).toMatchObject({ locked: true, notes: [{ string: other.string, fret: other.fret }] });
    expect(own(settleFinger(settled, "mandolin", spot)).locked).toBe(false);
    expect(changeHand(settled, "mandolin", { tuning: "GDGD" }).hands![0]!.locks).toEqual([]);
    // An edit of the tune keeps what still stands.
    expect(withTune(settled, settled.tune).hands![0]!.locks).toHaveLength(1);
  });
  it("of an instrument without strings there is none", () => {
    const w = work();
    const derived = derive(w);
    const plain = sheetOf(w, derived, "melody");
    expect(handSheet(w, derived, plain, handFor(w, "whistle"))).toBe(plain);
  });
});

describe("a hand that is heard", () => {
  const DOUBLED = changeHand(work("d2f2 a4|A2d2 f4|"), "fiddle", {
    kind: "double stops",
    level: "Leading",
    doubling: "full",
  });
  const heard = (w: Work, name: string, pure: boolean) => {
    const derived = derive(w);
    return performedBy(handFor(w, name), w, derived, sheetOf(w, derived, "melody"), { pure, chords: false }).notes;
  };
  it("plays its double stops in the tune's place, at their times", () => {
    const notes = heard(DOUBLED, "fiddle", false);
    const single = heard(changeHand(DOUBLED, "fiddle", { kind: "melody" }), "fiddle", false);
    expect(notes.length).toBeGreaterThan(single.length);
    const times = (of: typeof notes) => [...new Set(of.map((n) => n.at))];
    expect(times(notes)).toEqual(times(single));
    expect(notes.every((n) => n.line === "melody" && n.cents === 0)).toBe(true);
  });
  it("moves the stopped note of a double stop to where it rings pure, and no other", () => {
    const open = new Set([55, 62, 69, 76]);
    const pure = heard(DOUBLED, "fiddle", true);
    const moved = pure.filter((n) => n.cents !== 0);
    expect(moved.length).toBeGreaterThan(0);
    for (const n of moved) {
      expect(open.has(n.noteNumber)).toBe(false);
      expect(Math.abs(n.cents)).toBeLessThanOrEqual(16);
      expect(pure.filter((o) => o.at === n.at)).toHaveLength(2);
    }
    expect(heard(changeHand(DOUBLED, "guitar", { kind: "double stops" }), "guitar", true).every((n) => !n.cents)).toBe(
      true,
    );
  });
  it("with chords leaves the backing to the hand", () => {
    const chords = changeHand(work(), "guitar", { kind: "melody with chords" });
    const derived = derive(chords);
    const lines = (kind: string) =>
      new Set(
        performedBy({ ...handFor(chords, "guitar"), kind }, chords, derived, sheetOf(chords, derived, "melody"), {
          pure: false,
        }).notes.map((n) => n.line),
      );
    expect(lines("melody with chords")).toEqual(new Set(["melody"]));
    expect(lines("melody")).toEqual(new Set(["melody", "chords"]));
  });
});

describe("a song under the hand", () => {
  it("has its words under the notes they are sung on, in a roll too", () => {
    const song = newWork(tuneOf("G2B2 d4|d2B2 G4|]\nw:Four gulls fly home and two are late", { key: "G" }));
    for (const kind of ["melody", "roll"]) {
      const w = changeHand(song, "banjo", { kind });
      const derived = derive(w);
      const alone = { ...sheetOf(w, derived, "melody"), staves: [] };
      const staff = handSheet(w, derived, alone, handFor(w, "banjo")).staves.at(-1)!;
      expect(staff.lyrics).toBe(true);
      const sung = staff.bars.flat().flatMap((e) => e.lyrics?.[0]?.text ?? []);
      expect(sung).toEqual(["Four", "gulls", "fly", "home", "and", "two"]);
    }
  });
});

describe("tunings for a work", () => {
  it("are ranked for the hand, and taking one lets go what was settled", () => {
    const w = settleFinger(work(), "guitar", { bar: 1, at: 0 }, { string: 3, fret: "7" });
    const best = tuningsFor(w, derive(w), handFor(w, "guitar"));
    expect(best[0]).toMatchObject({ tuning: "EADGBE", capo: 0 });
    const raised = changeHand(w, "guitar", { capo: 2 });
    expect(handFor(raised, "guitar")).toMatchObject({ capo: 2, locks: [] });
    expect(playedBy(raised, handFor(raised, "guitar")).strings.map((s) => midi(s.open))).toEqual([
      42, 47, 52, 57, 61, 66,
    ]);
    expect(tuningsFor(w, derive(w), handFor(w, "fiddle"))).toEqual([]);
  });
});
