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
  readWork,
  settleFinger,
  sheetOf,
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
      const w = changeHand(work(), name, { kind: "double stops", level: "Leading" });
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
