import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { tuneOf } from "../../../testing/abc";
import { arbitraryTune } from "../../../testing/arbitraryTune";
import { tuneAbc } from "../../formats";
import { midi } from "../../theory";
import { barTicks, lengthOf, places, timeline } from "../time";
import { Tune } from "../model";
import {
  anticipate,
  addGrace,
  addStrain,
  allBars,
  type Edited,
  insertAfter,
  join,
  joinBars,
  mendBar,
  moveBarline,
  moveSemitone,
  moveStep,
  moveTo,
  notices,
  remove,
  removeStrain,
  renameStrain,
  setAccidental,
  setEnding,
  setKey,
  setLength,
  setMetre,
  setPickup,
  type Spot,
  split,
  splitBar,
  toggleDot,
  toggleMark,
  toggleRepeat,
  toggleStrain,
  toggleTie,
  toggleTriplet,
  toRest,
} from ".";
import { QUARTER } from "../model";
import { lengthWords } from "../time";

const music = (tune: Tune | undefined) =>
  tune
    ? tuneAbc(tune)
        .replace(/^[\s\S]*?\nK:.*\n/, "")
        .replace(/\s/g, "")
    : undefined;
const spot = (bar: number, event: number): Spot => ({ bar, event });

/** An edit of a small tune and how it then reads (L:1/8, K:D). */
const EDITS: [string, string, (t: Tune) => Edited, string][] = [
  ["a step up in the scale", "d2e2 f4|", (t) => moveStep(t, spot(0, 1), 1), "d2f2f4|"],
  ["an octave down", "d2e2 f4|", (t) => moveStep(t, spot(0, 0), -7), "D2e2f4|"],
  ["a semitone up is spelled by the key", "d2e2 f4|", (t) => moveSemitone(t, spot(0, 1), 1), "d2=f2^f4|"],
  ["to a line of the staff", "d2z2 f4|", (t) => moveTo(t, spot(0, 1), 37), "d2g2f4|".replace("g2", "e2")],
  ["flat, whatever the key", "d2e2 f4|", (t) => setAccidental(t, spot(0, 1), -1), "d2_e2f4|"],
  ["a length", "d2e2 f4|", (t) => setLength(t, spot(0, 2), 1680), "d2e2f|"],
  ["a dot and off again", "d2e2 f4|", (t) => toggleDot(t, spot(0, 0)), "d3e2f4|"],
  ["a triplet", "d2e2 f4|", (t) => toggleTriplet(t, spot(0, 0)), "(3:2:3ddde2f4|"],
  ["a triplet back to one note", "(3ded e2 f4|", (t) => toggleTriplet(t, spot(0, 1)), "d2e2f4|"],
  ["a tie", "d2d2 f4|", (t) => toggleTie(t, spot(0, 0)), "d2-d2f4|"],
  ["an accent", "d2e2 f4|", (t) => toggleMark(t, spot(0, 1), "accent"), "d2Le2f4|"],
  ["a ghost note", "d2e2 f4|", (t) => toggleMark(t, spot(0, 1), "ghost"), "d2!style=x!e2f4|"],
  ["a grace note a step above", "d2e2 f4|", (t) => addGrace(t, spot(0, 1)), "d2{f}e2f4|"],
  ["grace notes off", "d2{gf}e2 f4|", (t) => addGrace(t, spot(0, 1), true), "d2e2f4|"],
  ["insert after", "d2e2 f4|", (t) => insertAfter(t, spot(0, 1)), "d2e2e2f4|"],
  ["delete", "d2e2 f4|", (t) => remove(t, spot(0, 1)), "d2f4|"],
  ["delete the last note of a bar leaves a rest", "d8|f8|", (t) => remove(t, spot(0, 0)), "z8|f8|"],
  ["a rest", "d2e2 f4|", (t) => toRest(t, spot(0, 1)), "d2z2f4|"],
  ["split", "d2e2 f4|", (t) => split(t, spot(0, 2)), "d2e2f2f2|"],
  ["join", "d2e2 f4|", (t) => join(t, spot(0, 0)), "d4f4|"],
  ["a bar line before a note", "d2e2 f4|g8|", (t) => splitBar(t, spot(0, 2)), "d2e2|f4|g8|"],
  ["a bar line taken away", "d4|f4|g8|", (t) => joinBars(t, 0), "d4f4|g8|"],
  ["a bar line moved on", "d4 e2|f2 g4 a4|", (t) => moveBarline(t, 0, 1), "d4e2f2|g4a4|"],
  ["a bar line moved back", "d4 e2 f2|g4 a4|", (t) => moveBarline(t, 0, -1), "d4e2|f2g4a4|"],
  ["a pickup for a tune without one", "d2e2 f4|g4 a4|", (t) => setPickup(t, 3360), "d2|e2f4g2-|g2a4|"],
  ["no pickup after all", "d2|e2f2 g4|a6|", (t) => setPickup(t, 0), "d2e2f2g2-|g2a6|"],
  [
    "another metre, bars laid out anew",
    "d4 e4|f4 g4|",
    (t) => setMetre(t, { beats: 2, unit: 4 }, true),
    "d4|e4|f4|g4|",
  ],
  ["a repeat", "d8|e8|f8|g8|", (t) => toggleRepeat(t, 1), "d8|e8|f8|g8:|"],
  ["no repeat", "d8|e8|f8|g8:|", (t) => toggleRepeat(t, 1), "d8|e8|f8|g8|]"],
  ["a second ending", "d8|e8|f8|g8|", (t) => setEnding(t, 3, 2), "d8|e8|f8:|[2g8|"],
  ["a strain of its own", "d8|e8|f8|g8|", (t) => toggleStrain(t, 2), "d8|e8|f8|g8|"],
  ["a tag", "d8|e8|f8|g8|", (t) => addStrain(t, "Tag", 1), "d8|e8|f8|g8|P:Tagg8|]"],
  ["an intro", "d8|e8|f8|g8|", (t) => addStrain(t, "Intro", 2), "P:Introf8|g8||d8|e8|f8|g8|"],
  ["another name for a strain", "d8|e8|", (t) => renameStrain(t, 0, "  Turn  "), "P:Turnd8|e8|"],
  ["a key that keeps the sound", "d2f2 c4|", (t) => setKey(t, { tonic: "C", mode: "major" }, false), "d2^f2^c4|"],
  ["a key the notes follow", "d2f2 c4|", (t) => setKey(t, { tonic: "C", mode: "major" }, true), "d2f2c4|"],
  ["a bar mended by a rest", "d8|e2 f2|g8|a8|", (t) => mendBar(t, 1), "d8|e2f2z4|g8|a8|"],
  ["a bar mended by a shorter note", "d8|e8 f2|g8|a8|", (t) => mendBar(t, 1), "d8|e8|g8|a8|"],
];

describe("edits", () => {
  test.each(EDITS)("%s", (_, before, edit, after) => {
    const { tune, refused } = edit(tuneOf(before));
    expect(refused).toBeUndefined();
    expect(Tune.safeParse(tune).success).toBe(true);
    expect(music(tune)).toBe(after);
  });

  const REFUSED: [string, string, (t: Tune) => Edited, RegExp][] = [
    ["a tie to another pitch", "d2e2 f4|", (t) => toggleTie(t, spot(0, 0)), /same pitch after it/],
    ["a pitch for a rest", "z4 f4|", (t) => moveStep(t, spot(0, 0), 1), /This is a rest/],
    ["a note beyond hearing", "d8|", (t) => moveStep(t, spot(0, 0), 60), /out of any instrument/],
    ["joining past the bar", "d4 e4|f8|", (t) => join(t, spot(0, 1)), /no note after/],
    ["a bar line before the first note", "d4 e4|", (t) => splitBar(t, spot(0, 0)), /needs a note before/],
    ["an empty bar", "d8|e8|", (t) => moveBarline(t, 0, 1), /would be empty/],
    ["bars across a strain", "d8|e8:|f8|", (t) => joinBars(t, 1), /no bar after/],
    ["a pickup as long as a bar", "d8|e8|", (t) => setPickup(t, 13440), /shorter than a bar/],
    ["laying out bars with endings", "d8|1 e8:|2 f8|", (t) => setPickup(t, 1680), /endings off/],
    ["an ending of nothing", "d8|e8|", (t) => setEnding(t, 0, 1), /needs bars before/],
    ["taking out the only strain", "d8|", (t) => removeStrain(t, 0), /only strain/],
    ["a nameless strain", "d8|", (t) => renameStrain(t, 0, "  "), /needs a name/],
    ["a note that is gone", "d8|", (t) => moveStep(t, spot(4, 0), 1), /no note there/],
  ];
  test.each(REFUSED)("refuses %s, and says why", (_, before, edit, why) => {
    const tune = tuneOf(before);
    const copy = JSON.stringify(tune);
    expect(edit(tune).refused).toMatch(why);
    expect(JSON.stringify(tune)).toBe(copy);
  });
});

describe("edits of any tune", () => {
  const spots = (tune: Tune) => allBars(tune).flatMap((b, bar) => b.events.map((_, event) => ({ bar, event })));
  const ALL: ((t: Tune, s: Spot) => Edited)[] = [
    (t, s) => moveStep(t, s, 2),
    (t, s) => moveSemitone(t, s, -1),
    (t, s) => setLength(t, s, 3360),
    toggleDot,
    toggleTriplet,
    toggleTie,
    toRest,
    insertAfter,
    remove,
    split,
    join,
    splitBar,
    (t, s) => toggleMark(t, s, "roll"),
    (t, s) => addGrace(t, s),
    (t, s) => joinBars(t, s.bar),
    (t, s) => moveBarline(t, s.bar, 1),
    (t, s) => moveBarline(t, s.bar, -1),
    (t, s) => toggleStrain(t, s.bar),
    (t, s) => toggleRepeat(t, s.bar),
    (t, s) => setEnding(t, s.bar, 2),
    (t) => setPickup(t, 1680),
    (t) => setMetre(t, { beats: 3, unit: 4 }, true),
    (t) => addStrain(t, "Vamp", 2),
    (t, s) => removeStrain(t, s.bar),
    (t, s) => mendBar(t, s.bar),
  ];
  it("every edit gives a sound tune or a reason, leaves the old one as it was, and can be written down", () => {
    fc.assert(
      fc.property(arbitraryTune({ maxBars: 4 }), fc.nat(), fc.constantFrom(...ALL), (tune, n, edit) => {
        const all = spots(tune);
        const copy = JSON.stringify(tune);
        const { tune: after, refused } = edit(tune, all[n % all.length]!);
        expect(JSON.stringify(tune)).toBe(copy);
        if (!after) {
          expect(refused!.length).toBeGreaterThan(15);
          return;
        }
        expect(Tune.safeParse(after).success).toBe(true);
        expect(tuneAbc(after)).toContain("K:");
      }),
      { numRuns: 300 },
    );
  });
  it("laying bars out anew loses no sound: the same pitches for the same time", () => {
    const heard = (tune: Tune) => {
      const notes: [number, number][] = [];
      for (const t of timeline(places(tune))) {
        const sound = t.event.pitches.length ? midi(t.event.pitches[0]!) : -1;
        const last = notes.at(-1);
        if (last && last[0] === sound) last[1] += t.event.ticks;
        else notes.push([sound, t.event.ticks]);
      }
      return notes;
    };
    fc.assert(
      fc.property(arbitraryTune({ maxBars: 4 }), fc.constantFrom(840, 1680, 2520), (tune, pickup) => {
        const { tune: after } = setPickup(tune, pickup);
        fc.pre(after !== undefined);
        expect(heard(after!)).toEqual(heard(tune));
        for (const s of after!.strains)
          for (const [i, b] of s.bars.entries())
            if (i > 0 && i < s.bars.length - 1) expect(lengthOf(b.events)).toBe(barTicks(after!.metre));
      }),
      { numRuns: 60 },
    );
  });
  it("going up and down again, splitting and joining, come back to the start", () => {
    fc.assert(
      fc.property(arbitraryTune({ maxBars: 3 }), fc.nat(), (tune, n) => {
        const all = spots(tune).filter((s) => {
          const e = allBars(tune)[s.bar]!.events[s.event]!;
          return e.pitches.length > 0 && !e.tie && e.pitches.every((p) => p.alter === 0);
        });
        fc.pre(all.length > 0 && tune.key.mode === "major" && tune.key.tonic === "C");
        const at = all[n % all.length]!;
        expect(moveStep(moveStep(tune, at, 3).tune!, at, -3).tune).toEqual(tune);
      }),
      { numRuns: 60 },
    );
  });
});

describe("bars that do not add up", () => {
  it("says what is missing or too much, and leaves pickups and the bars they complete alone", () => {
    const off = (text: string) => notices(places(tuneOf(text))).map((n) => n.message);
    expect(off("d2|d8|e8|f6:|")).toEqual([]);
    expect(off("d8|e6|f8|g8|")).toEqual(["Bar 2 needs one more quarter. Add a rest, or lengthen the last note."]);
    expect(off("d8|e8 f|f8|g8|")).toEqual(["Bar 2 has one eighth too many. Shorten a note, or move the bar line."]);
    expect([5040, 1680, 13440, 1120].map(lengthWords)).toEqual([
      "three eighths",
      "one eighth",
      "one whole note",
      "0.33 quarters",
    ]);
  });
});

describe("an anticipation", () => {
  const early = (abc: string, bar: number, event: number) => anticipate(tuneOf(abc), { bar, event });
  const lengths = (edited: Edited, bar: number) =>
    places(edited.tune!)[bar]!.bar.events.map((e) => [(e.ticks * 2) / QUARTER, e.tie === true]);
  it("comes an eighth early and takes it from the note before", () => {
    expect(lengths(early("A2B2 c4|", 0, 1), 0)).toEqual([
      [1, false],
      [3, false],
      [4, false],
    ]);
  });
  it("is tied into its bar where it comes over the line", () => {
    const made = early("A4 B4|c4 d4|", 1, 0);
    expect(lengths(made, 0)).toEqual([
      [4, false],
      [3, false],
      [1, true],
    ]);
    expect(lengths(made, 1)[0]).toEqual([4, false]);
  });
  it.each([
    ["AB c2 d4|", 0, 1, "too short"],
    ["A4 B4|", 0, 0, "nothing before"],
    ["A4 z4|", 0, 1, ""],
  ])("%s: %d, %d is refused in words", (abc, bar, event, why) => {
    expect(early(abc, bar, event).refused).toContain(why);
  });
});
