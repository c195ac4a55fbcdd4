import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { readAbc, tuneAbc } from "..";
import { places, tuneSheet } from "../../score";
import type { Bar, Tune } from "../../score";
import { tuneOf } from "../../../testing/abc";
import { sheetAbc } from "./write";

const plain = tuneOf('"D"d2fd Adfd|"A"e2ge Bege|"D"d8|]');
/** Text that would start a field of its own if it stood at the start of a line. */
const FIELDS = [
  "K:Bb",
  "X:2\nT:Another\nK:C\nabc",
  "T:Changed",
  "M:3/4",
  "V:2",
  "%%begintext",
  "w:la la",
  "I:abc-include x",
];
const ENDS = ["\n", "\r\n", "\r", "\n\n", "\v", "\f", "\u0085", "\u2028", "\u2029"];
const hostile = fc
  .tuple(fc.constantFrom("", "slow", '"'), fc.constantFrom(...ENDS), fc.constantFrom(...FIELDS), fc.string())
  .map(([before, end, field, after]) => (before + end + field + after).slice(0, 60));

/** The tune with words, a chord and a syllable in its second bar. */
function withWords(words: string, chord: string, syllable: string): Tune {
  const strain = plain.strains[0]!;
  const bars = strain.bars.map((bar, i): Bar => {
    if (i !== 1) return bar;
    const [first, ...rest] = bar.events;
    const event = { ...first!, words: [{ text: words, place: "above" as const }], lyrics: [{ text: syllable }] };
    return { ...bar, events: [event, ...rest], chords: [{ at: 0, symbol: chord }] };
  });
  return { ...plain, strains: [{ ...strain, named: true, label: words, bars }] };
}
const fieldsOf = (abc: string) =>
  abc.split(/\r\n|\n|\r/).flatMap((l) => (/^([A-Za-z]:|%%)/.test(l) ? [l.slice(0, 2)] : []));

describe("ABC of a tune with hostile words", () => {
  it("has the fields of one with harmless words, however it is written", () => {
    const harmless = withWords("slow", "G", "la");
    const sheet = (tune: Tune) => sheetAbc(tuneSheet(tune, places(tune)));
    fc.assert(
      fc.property(hostile, hostile, hostile, (words, chord, syllable) => {
        const tune = withWords(words, chord, syllable);
        expect(fieldsOf(tuneAbc(tune))).toEqual(fieldsOf(tuneAbc(harmless)));
        expect(fieldsOf(sheet(tune))).toEqual(fieldsOf(sheet(harmless)));
        expect(tuneAbc(tune)).not.toMatch(/[\r\v\f\u0085\u2028\u2029]/);
      }),
      { numRuns: 300 },
    );
  });
  it("comes back as one tune in its own key and metre, with its own notes", () => {
    fc.assert(
      fc.property(hostile, hostile, (words, syllable) => {
        const { tunes } = readAbc(tuneAbc(withWords(words, "G", syllable)));
        expect(tunes.length).toBe(1);
        const { key, metre, title, strains } = tunes[0]!.tune;
        expect({ key, metre, title }).toEqual({ key: plain.key, metre: plain.metre, title: plain.title });
        const notes = (bars: readonly Bar[]) => bars.flatMap((b) => b.events.map((e) => [e.ticks, e.pitches]));
        expect(notes(strains.flatMap((s) => s.bars))).toEqual(notes(plain.strains[0]!.bars));
      }),
      { numRuns: 200 },
    );
  });
});
