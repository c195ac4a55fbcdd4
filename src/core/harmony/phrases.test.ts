// Phrases worked out by hand, in the four common modes: the melody, its chords, and the line each school writes.
import { describe, expect, test } from "vitest";
import { tuneOf } from "../../testing/abc";
import { analyse, strainKeys } from "../analysis";
import { deriveChords, fileLocks } from "../chords";
import { FIDDLE } from "../instruments";
import { QUARTER } from "../score";
import { pitchName } from "../theory";
import { CHORD_FIT, deriveHarmony, FOURTH_UNDER_TONIC, type School, SCHOOLS as ALL, type Side, THIRDS } from ".";

function line(music: string, header: Parameters<typeof tuneOf>[1], school: School, side: Side = "below"): string {
  const tune = tuneOf(music, header);
  const analysis = analyse(tune);
  const { places, form } = analysis;
  const plan = deriveChords({
    places,
    phrases: form.phrases,
    keys: strainKeys(tune, analysis),
    locks: fileLocks(places),
  });
  return deriveHarmony({
    places,
    plan,
    phraseEnds: new Set(form.phrases.map((p) => p.to)),
    school,
    side,
    instrument: FIDDLE,
  })
    .notes.map(
      (n) => (n.pitch ? pitchName(n.pitch) : "z") + (school.pace === "melody" ? "" : `/${n.ticks / (QUARTER / 2)}`),
    )
    .join(" ");
}

/** Name, music with chords, header, then thirds, fourth under the tonic, chord-fit. */
const PHRASES: [string, string, Parameters<typeof tuneOf>[1], string, string, string][] = [
  [
    "a major scale down to the tonic",
    '"G"g2f2 "C"e2d2|"G"c2B2 "D"A2G2|',
    { key: "G" },
    "E5 D5 C5 B4 A4 G4 F#4 E4",
    "D5 D5 C5 B4 A4 G4 F#4 D4",
    "D5 D5 C5 G4 G4 G4 F#4 D4",
  ],
  ["the tonic chord spelled in D", '"D"d2f2 a2f2|', {}, "B4 D5 F#5 D5", "A4 D5 F#5 D5", "A4 D5 F#5 D5"],
  [
    "a jig bar on its tonic",
    '"A"a3 e3|c3 A3|',
    { key: "A", metre: "6/8" },
    "F#5 C#5 A4 F#4",
    "E5 C#5 A4 E4",
    "E5 C#5 A4 E4",
  ],
  [
    "dorian: the flat seventh's chord",
    '"D"d2f2 "Em"e2g2|',
    { key: "Edor" },
    "B4 D5 C#5 E5",
    "B4 D5 B4 E5",
    "A4 D5 B4 E5",
  ],
  [
    "mixolydian: tonic and flat seventh",
    '"A"a2e2 "G"g2d2|',
    { key: "Amix" },
    "F#5 C#5 E5 B4",
    "E5 C#5 E5 B4",
    "E5 C#5 D5 B4",
  ],
  [
    "minor: the dominant's leading note",
    '"Am"a2e2 "E"b2e2|',
    { key: "Amin" },
    "F5 C5 D5 C5",
    "E5 C5 D5 C5",
    "E5 C5 E5 B4",
  ],
  ["a waltz over one chord", '"F"f2a2c\'2|', { key: "F", metre: "3/4" }, "D5 F5 A5", "C5 F5 A5", "C5 F5 A5"],
  ["fifth of the key under its dominant", '"D"d4 "A"a4|', {}, "B4 F#5", "A4 F#5", "A4 E5"],
];

describe("phrases by hand", () => {
  const SCHOOLS: [string, School, 3 | 4 | 5][] = [
    ["thirds", THIRDS, 3],
    ["fourth under the tonic", FOURTH_UNDER_TONIC, 4],
    ["chord-fit", CHORD_FIT, 5],
  ];
  for (const [school, rule, column] of SCHOOLS) {
    test.each(PHRASES.map((p) => [p[0], p] as const))(`${school}: %s`, (_, phrase) => {
      expect(line(phrase[1], phrase[2], rule)).toBe(phrase[column]);
    });
  }
});

/**
 * Name, music with chords, header, then High line above, and below: Nordic second, Octave, Drone and pedal, One note
 * per chord, Counter-figure. Lines with a rhythm of their own give lengths in eighths.
 */
const OTHERS: [string, string, Parameters<typeof tuneOf>[1], string[]][] = [
  [
    "a scale down to the tonic",
    '"G"g2f2 "C"e2d2|"G"c2B2 "D"A2G2|',
    { key: "G" },
    [
      "B5 B5 G5 G5 G5 D5 F#5 D5",
      "B4 D5 C5 G4 G4 D4 F#4 D4",
      "G4 F#4 E4 D4 C4 B3 A3 G3",
      "D4/8 D4/8",
      "B3/4 C4/4 D4/4 D4/4",
      "z/8 z/8",
    ],
  ],
  [
    "a jig bar on its tonic",
    '"A"a3 e3|c3 A3|',
    { key: "A", metre: "6/8" },
    ["A5 A5 E5 C#5", "C#5 C#5 A4 A4", "A4 E4 C#4 A3", "A4/6 A4/6", "C#5/6 A4/6", "z/4 C#5/1 A4/1 z/6"],
  ],
  [
    "dorian: the flat seventh's chord",
    '"D"d2f2 "Em"e2g2|',
    { key: "Edor" },
    ["F#5 A5 G5 B5", "D5 A4 B4 G4", "D4 F#4 E4 G4", "E4/8", "F#4/4 G4/4", "z/8"],
  ],
  [
    "mixolydian: tonic and flat seventh",
    '"A"a2e2 "G"g2d2|',
    { key: "Amix" },
    ["A5 A5 B5 B5", "A4 C#5 B4 D5", "A4 E4 G4 D4", "A4/4 D4/4", "C#5/4 B4/4", "z/8"],
  ],
  [
    "minor: the dominant's leading note",
    '"Am"a2e2 "E"b2e2|',
    { key: "Amin" },
    ["A5 A5 B5 G#5", "A4 C5 G#4 E4", "A4 E4 B4 E4", "E5/8", "C5/4 B4/4", "z/8"],
  ],
  [
    "long notes over three chords",
    '"G"g6 d2|"C"e8|"D"d6 A2|"G"G8|',
    { key: "G" },
    [
      "B5 B5 G5 F#5 D5 B4",
      "B4 B4 C5 A4 F#4 G4",
      "G4 D4 E4 D4 A3 G3",
      "G3/8 G3/8 D4/8 D4/8",
      "B4/8 G4/8 F#4/8 D4/8",
      "z/8 z/2 E4/1 C4/1 E4/1 C4/1 E4/1 C4/1 z/8 z/8",
    ],
  ],
  [
    "dorian, held and resting",
    '"Em"B6 e2|"D"d8|"Em"e4 z4|E8|',
    { key: "Edor" },
    [
      "G5 G5 F#5 G5 z G4",
      "G4 G4 A4 G4 z E4",
      "B3 E4 D4 E4 z E4",
      "E4/8 E4/8 E4/6 E4/2 E4/8",
      "G4/8 F#4/8 E4/8 B3/8",
      "z/8 z/2 D4/1 F#4/1 D4/1 F#4/1 D4/1 F#4/1 z/2 G4/1 E4/1 G4/1 E4/1 G4/1 E4/1 z/8",
    ],
  ],
];
const COLUMNS: [string, Side][] = [
  ["High line", "above"],
  ["Nordic second", "below"],
  ["Octave", "below"],
  ["Drone and pedal", "below"],
  ["One note per chord", "below"],
  ["Counter-figure", "below"],
];

describe("the other schools by hand", () => {
  COLUMNS.forEach(([name, side], column) => {
    test.each(OTHERS.map((p) => [p[0], p] as const))(`${name}: %s`, (_, [, music, header, lines]) => {
      expect(line(music, header, ALL.find((s) => s.name === name)!, side)).toBe(lines[column]);
    });
  });
});

describe("what a strict listener hears", () => {
  const school = (name: string) => ALL.find((s) => s.name === name)!;
  test.each([
    // Name, music, header, school, line.
    [
      "off the beat what repeats is a chord note",
      '"G"BB "Am"AA "D"d2 f2|',
      { key: "G" },
      "Chord-fit",
      "G4 G4 E4 C4 A4 D5",
    ],
    ["a run passes by step", '"D"fefg a4|', {}, "Chord-fit", "D5 C#5 D5 E5 F#5"],
    ["the melody’s own sign holds for the line too", '"C"=c4 e4|"G"d4 B4|', {}, "Thirds", "A4 C5 B4 G4"],
    ["an octave is exact where a sign stood earlier in the bar", "=c2e2 c2A2|", {}, "Octave", "C4 E4 C4 A3"],
    [
      "the chord’s leading note where the melody is silent on it",
      '"B7"b4 a4|"Em"g8|',
      { key: "Emin" },
      "Thirds",
      "G5 F#5 E5",
    ],
    ["no tritone bare", '"F"a4 "G"d\'4|"C"c\'8|', { key: "C" }, "Thirds", "F5 A5 A5"],
    ["a phrase closes in its chord", '"G"B2c2 d2e2|"D"d4 e4|', { key: "G" }, "Chord-fit", "G4 G4 B4 B4 A4 A4"],
    [
      "a figure of two notes leads on, or none",
      '"D"d4 f4|"G"g6 a2|"D"f8|',
      {},
      "Counter-figure",
      "z/6 D4/1 F#4/1 z/8 z/8",
    ],
    [
      "one note to a chord moves where a step is near",
      '"G"B8|"C"c8|"D"d8|"G"B8|',
      { key: "G" },
      "One note per chord",
      "D4/8 E4/8 F#4/8 G4/8",
    ],
  ] as [string, string, Parameters<typeof tuneOf>[1], string, string][])("%s", (_, music, header, name, expected) => {
    expect(line(music, header, school(name), school(name).side)).toBe(expected);
  });
});
