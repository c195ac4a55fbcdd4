// Phrases worked out by hand, in the four common modes: the melody, its chords, and the line each school writes.
import { describe, expect, test } from "vitest";
import { tuneOf } from "../../testing/abc";
import { analyse, strainKeys } from "../analysis";
import { deriveChords, fileLocks } from "../chords";
import { pitchName } from "../theory";
import { CHORD_FIT, deriveHarmony, FOURTH_UNDER_TONIC, type School, THIRDS } from ".";

function line(music: string, header: Parameters<typeof tuneOf>[1], school: School): string {
  const tune = tuneOf(music, header);
  const analysis = analyse(tune);
  const { places, form } = analysis;
  const plan = deriveChords({ places, phrases: form.phrases, keys: strainKeys(tune, analysis), locks: fileLocks(places) });
  return deriveHarmony({ places, plan, phraseEnds: new Set(form.phrases.map((p) => p.to)), school }).notes.map((n) => (n.pitch ? pitchName(n.pitch) : "z")).join(" ");
}

/** Name, music with chords, header, then thirds, fourth under the tonic, chord-fit. */
const PHRASES: [string, string, Parameters<typeof tuneOf>[1], string, string, string][] = [
  ["a major scale down to the tonic", '"G"g2f2 "C"e2d2|"G"c2B2 "D"A2G2|', { key: "G" },
    "E5 D5 C5 B4 A4 G4 F#4 E4", "D5 D5 C5 B4 A4 G4 F#4 D4", "D5 D5 C5 G4 G4 G4 F#4 D4"],
  ["the tonic chord spelled in D", '"D"d2f2 a2f2|', {}, "B4 D5 F#5 D5", "A4 D5 F#5 D5", "A4 D5 F#5 D5"],
  ["a jig bar on its tonic", '"A"a3 e3|c3 A3|', { key: "A", metre: "6/8" }, "F#5 C#5 A4 F#4", "E5 C#5 A4 E4", "E5 C#5 A4 E4"],
  ["dorian: the flat seventh's chord", '"D"d2f2 "Em"e2g2|', { key: "Edor" }, "B4 D5 C#5 E5", "B4 D5 B4 E5", "A4 D5 B4 E5"],
  ["mixolydian: tonic and flat seventh", '"A"a2e2 "G"g2d2|', { key: "Amix" }, "F#5 C#5 E5 B4", "E5 C#5 E5 B4", "E5 C#5 D5 B4"],
  ["minor: the dominant's leading note", '"Am"a2e2 "E"b2e2|', { key: "Amin" }, "F5 C5 G5 C5", "E5 C5 G5 C5", "E5 C5 G#5 B4"],
  ["a waltz over one chord", '"F"f2a2c\'2|', { key: "F", metre: "3/4" }, "D5 F5 A5", "C5 F5 A5", "C5 F5 A5"],
  ["fifth of the key under its dominant", '"D"d4 "A"a4|', {}, "B4 F#5", "A4 F#5", "A4 E5"],
];

describe("phrases by hand", () => {
  const SCHOOLS: [string, School, 3 | 4 | 5][] = [["thirds", THIRDS, 3], ["fourth under the tonic", FOURTH_UNDER_TONIC, 4], ["chord-fit", CHORD_FIT, 5]];
  for (const [school, rule, column] of SCHOOLS) {
    test.each(PHRASES.map((p) => [p[0], p] as const))(`${school}: %s`, (_, phrase) => {
      expect(line(phrase[1], phrase[2], rule)).toBe(phrase[column]);
    });
  }
});
