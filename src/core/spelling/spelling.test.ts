import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { tuneOf } from "../../testing/abc";
import { arbitraryTune } from "../../testing/arbitraryTune";
import { FIDDLE, INSTRUMENTS, instrument } from "../instruments";
import { lengthOf, places, timeline, type Tune } from "../score";
import { type Key, midi, parsePitch, pitchName } from "../theory";
import { moveBetween, movePitch, nameOf, SPELLINGS, stringMove, tonics, transpose } from ".";

describe("names under notes", () => {
  const key: Key = { tonic: "E", mode: "dorian" };
  test.each([
    ["F#5", "letters", "F♯"],
    ["Bb4", "letters", "B♭"],
    ["F#5", "syllables", "fa♯"],
    ["B4", "degrees", "5"],
    ["C#5", "degrees", "6"],
    ["C5", "degrees", "♭6"],
    ["F#4", "string and finger", "2"],
    ["F4", "string and finger", "L2"],
    ["D#5", "string and finger", "H3"],
  ] as const)("%s as %s is %s", (pitch, spelling, text) => {
    expect(nameOf(parsePitch(pitch), spelling, { key, on: FIDDLE }).text).toBe(text);
  });
  it("says on which string, and when a note cannot be played", () => {
    expect(nameOf(parsePitch("A4"), "string and finger", { key, on: FIDDLE })).toMatchObject({
      stringName: "A",
      string: 2,
      playable: true,
    });
    expect(nameOf(parsePitch("C7"), "string and finger", { key, on: FIDDLE }).playable).toBe(false);
    expect(nameOf(parsePitch("F4"), "tablature", { key, on: instrument("mountain dulcimer")! }).playable).toBe(false);
    expect(SPELLINGS).toHaveLength(5);
  });
});

describe("transposing", () => {
  it("moves every note by the same interval, and back again", () => {
    fc.assert(
      fc.property(arbitraryTune(), fc.constantFrom("C", "D", "G", "A", "F", "Bb", "E"), (tune, to) => {
        const by = moveBetween(tune.key.tonic, to);
        const moved = transpose(tune, by);
        const sounds = (t: Tune) => timeline(places(t)).flatMap((n) => n.event.pitches.map(midi));
        expect(sounds(moved)).toEqual(sounds(tune).map((s) => s + by.semitones));
        expect([moved.key.tonic, moved.key.mode]).toEqual([to, tune.key.mode]);
        expect(moved.strains.map((s) => s.bars.map((b) => lengthOf(b.events)))).toEqual(
          tune.strains.map((s) => s.bars.map((b) => lengthOf(b.events))),
        );
        expect(sounds(transpose(moved, { steps: -by.steps, semitones: -by.semitones }))).toEqual(sounds(tune));
      }),
      { numRuns: 60 },
    );
  });
  it("goes the short way, and spells and names chords in step", () => {
    expect([moveBetween("D", "C"), moveBetween("D", "G"), moveBetween("D", "A"), moveBetween("D", "A", "up")]).toEqual([
      { steps: -1, semitones: -2 },
      { steps: 3, semitones: 5 },
      { steps: -3, semitones: -5 },
      { steps: 4, semitones: 7 },
    ]);
    const moved = transpose(tuneOf('"D"d2^G2 "A7/C#"=c2B2|', { key: "D" }), moveBetween("D", "F"));
    expect(timeline(places(moved)).map((t) => pitchName(t.event.pitches[0]!))).toEqual(["F5", "B4", "Eb5", "D5"]);
    expect(moved.strains[0]!.bars[0]!.chords.map((c) => c.symbol)).toEqual(["F", "C7/E"]);
    expect(movePitch(parsePitch("B4"), { steps: 1, semitones: 1 })).toEqual(parsePitch("C5"));
  });
  it("moves a fingering a string over where the strings are even", () => {
    expect(stringMove(FIDDLE, "up")).toEqual({ steps: 4, semitones: 7 });
    expect(stringMove(FIDDLE, "down")).toEqual({ steps: -4, semitones: -7 });
    expect([stringMove(instrument("guitar")!, "up"), stringMove(instrument("whistle")!, "up")]).toEqual([
      undefined,
      undefined,
    ]);
    expect(tonics("D").slice(0, 3).sort()).toEqual(["A", "D", "G"]);
    for (const i of INSTRUMENTS) expect(midi(i.lowest)).toBeLessThan(midi(i.highest));
  });
});
