import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { tuneOf } from "../../testing/abc";
import { perform } from "../performance";
import { places, tuneSheet } from "../score";
import { AS_WRITTEN, feel, grooveNamed } from ".";

const tune = tuneOf('|:"D"a2 bc|"G"d4:|', { more: "Q:1/4=90\n" });
const performance = perform(tune, tuneSheet(tune, places(tune)));

describe("a groove", () => {
  it("as written changes nothing", () => {
    expect(feel(performance, AS_WRITTEN)).toEqual(performance);
  });
  it("is as written where none is chosen or the name is a stranger's", () => {
    for (const name of [null, "", "constructor", "no such dance"]) expect(grooveNamed(name)).toBe(AS_WRITTEN);
  });
  it("moves notes alone: bars, metres and tempos stay", () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 200 }), (late) => {
        const moved = feel(performance, { name: "late", play: (note) => ({ ...note, at: note.at + late }) });
        expect(moved.notes.map((n) => n.at - late)).toEqual(performance.notes.map((n) => n.at));
        expect({ ...moved, notes: [] }).toEqual({ ...performance, notes: [] });
      }),
    );
  });
});
