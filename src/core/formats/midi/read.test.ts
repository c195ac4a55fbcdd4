import fc from "fast-check";
import { writeMidi } from "midi-file";
import { describe, expect, it, test } from "vitest";
import { tuneOf } from "../../../testing/abc";
import { arbitraryTune } from "../../../testing/arbitraryTune";
import { perform } from "../../performance";
import { metreName, places, QUARTER, timeline, type Tune, tuneSheet } from "../../score";
import { pitchName } from "../../theory";
import { readAbc, tuneAbc } from "../abc";
import { performanceMidi, readMidi } from ".";
import { quantise } from "./quantise";

const midiOf = (tune: Tune) =>
  performanceMidi(perform(tune, tuneSheet(tune, places(tune)), { straight: true, chords: false }));
const sounds = (tune: Tune) =>
  perform(tune, tuneSheet(tune, places(tune)), { straight: true, chords: false }).notes.map((s) => [
    s.at,
    s.ticks,
    s.noteNumber,
  ]);
const names = (tune: Tune) => timeline(places(tune)).flatMap((t) => t.event.pitches.map(pitchName));

/** A file of tracks, each a list of [start, end, key] in ticks of 480. */
function fileOf(...tracks: [string, number, [number, number, number][]][]): Uint8Array {
  return Uint8Array.from(
    writeMidi({
      header: { format: 1, numTracks: tracks.length, ticksPerBeat: 480 },
      tracks: tracks.map(([name, channel, notes]) => {
        let last = 0;
        const events = notes
          .flatMap(([from, to, key]) => [
            { at: from, on: true, key },
            { at: to, on: false, key },
          ])
          .sort((a, b) => a.at - b.at || Number(a.on) - Number(b.on));
        const timed = events.map((e) => {
          const deltaTime = e.at - last;
          last = e.at;
          return { deltaTime, channel, type: e.on ? "noteOn" : "noteOff", noteNumber: e.key, velocity: e.on ? 80 : 0 };
        });
        return [
          { deltaTime: 0, meta: true, type: "trackName", text: name },
          ...timed,
          { deltaTime: 0, meta: true, type: "endOfTrack" },
        ];
      }) as never,
    }),
  );
}

describe("reading MIDI", () => {
  it("ABC to MIDI to ABC keeps every pitch and time, for any tune", () => {
    fc.assert(
      fc.property(arbitraryTune(), (tune) => {
        const heard = sounds(tune);
        // A tune that begins with a whole bar of rest begins, in a file, where its first note does.
        fc.pre(heard.length > 0 && (heard[0]?.[0] ?? 0) < (places(tune)[0]?.ticks ?? 0));
        const back = readAbc(tuneAbc(readMidi(midiOf(tune), { key: tune.key }).tune)).tunes[0]!.tune;
        expect(sounds(back)).toEqual(heard);
      }),
      { numRuns: 60 },
    );
  });
  it("keeps metre, pickup and bar lines of its own files, and spells by the key", () => {
    const tune = tuneOf("|:A|d2f edc|_B2A GFE:|", { metre: "6/8", key: "Dmin" });
    const { tune: back, keyed } = readMidi(midiOf(tune));
    expect([metreName(back.metre), places(back)[0]?.pickup, places(back)[0]?.ticks, keyed]).toEqual([
      "6/8",
      true,
      QUARTER / 2,
      true,
    ]);
    expect(names(back).slice(0, names(tune).length)).toEqual(names(tune));
  });
  it("takes the track that is most like a melody, and another when asked", () => {
    const chords: [number, number, number][] = [0, 480, 960].flatMap(
      (t) =>
        [
          [t, t + 480, 48],
          [t, t + 480, 52],
          [t, t + 480, 55],
        ] as [number, number, number][],
    );
    const melody: [number, number, number][] = [
      [0, 240, 74],
      [240, 480, 76],
      [480, 960, 78],
      [960, 1440, 79],
    ];
    const file = fileOf(["Chords", 0, chords], ["Drums", 9, melody], ["Line", 1, melody]);
    const read = readMidi(file);
    expect([read.tracks.map((t) => t.name), read.chosen, read.tracks[0]?.together]).toEqual([
      ["Chords", "Line"],
      1,
      expect.closeTo(2 / 3),
    ]);

    expect(timeline(places(readMidi(file, { track: 0 }).tune))[0]?.event.pitches).toHaveLength(3);
    expect(() => readMidi(file, { track: 7 })).toThrow(/no track 8/);
  });
  it("draws hand-played notes to the beat, and leaves exact ones alone", () => {
    const played = [
      [0.03, 0.44],
      [0.52, 0.9],
      [0.98, 1.7],
      [2.02, 2.3],
      [2.35, 2.6],
      [2.7, 2.95],
      [3.01, 3.9],
    ].map(([from, to], i) => ({ from: from!, to: to!, noteNumber: 60 + i }));
    const { notes, shift } = quantise(played, "auto");
    expect(notes.map((n) => [n.from, n.to].map((t) => Math.round(t * 12) / 12))).toEqual(
      [
        [0, 0.5],
        [0.5, 1],
        [1, 2],
        [2, 28 / 12],
        [28 / 12, 32 / 12],
        [32 / 12, 3],
        [3, 4],
      ].map((pair) => pair.map((t) => Math.round(t * 12) / 12)),
    );
    expect(shift).toBeGreaterThan(0.01);
    expect(quantise(played, "file").notes).toEqual(played);
    expect(
      quantise(
        [
          { from: 0, to: 1 / 3, noteNumber: 60 },
          { from: 1 / 3, to: 1, noteNumber: 62 },
        ],
        "auto",
      ).shift,
    ).toBe(0);
    expect(quantise(played, "eighths").notes.every((n) => Number.isInteger(n.from * 2))).toBe(true);
  });
  const BAD: [string, Uint8Array, RegExp][] = [
    ["no MIDI at all", new TextEncoder().encode("X:1\nK:D\nabc|"), /does not begin with MThd/],
    [
      "a lying track length",
      Uint8Array.from([
        0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 1, 0, 1, 0, 96, 0x4d, 0x54, 0x72, 0x6b, 255, 255, 255, 255,
      ]),
      /claims 4294967295 bytes/,
    ],
    ["no notes", fileOf(["Empty", 0, []]), /no notes with a pitch/],
    ["drums only", fileOf(["Drums", 9, [[0, 480, 40]]]), /no notes with a pitch/],
    [
      "notes too far apart",
      fileOf([
        "Far",
        0,
        [
          [0, 480, 60],
          [100_000_000, 100_000_480, 60],
        ],
      ]),
      /lasts over/,
    ],
  ];
  test.each(BAD)("refuses %s", (_, bytes, message) => expect(() => readMidi(bytes)).toThrow(message));
});
