import { describe, expect, it } from "vitest";
import { places, QUARTER, slice, tuneSheet } from "../../core/score";
import type { Measured } from "../../engraving";
import { tuneOf } from "../../testing/abc";
import { enlarged, positionOf, timed } from "./chordPlaces";

const tune = tuneOf("A2|d4 e4|f2g2 a4|");
const sheet = tuneSheet(tune, places(tune));
const [staff] = sheet.staves;
/** The last bar as a row of its own: its notes 20, 40 and 60 pixels from the left, the bar line at 100. */
const measured: Measured = {
  bars: [{ index: 2, left: 10, right: 100, top: 20, bottom: 50 }],
  notes: new Map(),
  staves: [
    {
      bar: 2,
      staff: staff!.id,
      top: 20,
      bottom: 50,
      lowest: 50,
      notes: [20, 40, 60].map((x, event) => ({ event, x })),
      heads: new Map([[0, 30]]),
    },
  ],
};
const row = slice(sheet, 2, 3);
const place = row.places[0]!;

describe("where chords stand", () => {
  const here = timed(measured, row);
  it.each([
    ["over the note they start with", 0, 14],
    ["over a later note", QUARTER, 34],
    ["between two notes, where one is held", QUARTER / 2, 24],
    ["past the last note, on the way to the bar line", 3 * QUARTER, 74],
  ])("%s", (_, at, x) => expect(positionOf(place, at, here)).toBe(x));
  it("at the bar's left where nothing is drawn yet", () => {
    expect(positionOf(place, 0, { ...here, times: new Map() })).toBe(10);
  });
  it("larger with the music", () => {
    const large = timed(enlarged(measured, 1.5), row);
    expect(positionOf(place, 0, large)).toBe(24);
    expect([large.bars[0]!.right, large.staves[0]!.heads.get(0)]).toEqual([150, 45]);
    expect(enlarged(measured, 1)).toBe(measured);
  });
});
