import { pathToFileURL } from "node:url";
import { VerovioToolkit } from "verovio/esm";
import { beforeAll, describe, expect, it } from "vitest";
import { derive, newWork, sheetOf } from "../core/ensemble";
import { type Sheet, slice } from "../core/score";
import { tuneOf } from "../testing/abc";
import { type Drawing, drawRow } from "./draw";
import { drawingKey } from "./key";
import { noteAt } from "./measure";
import { Recent } from "./recent";

let verovio: VerovioToolkit;
beforeAll(async () => {
  const { default: create } = (await import(pathToFileURL("node_modules/verovio/dist/verovio-module.mjs").href)) as {
    default: () => Promise<unknown>;
  };
  verovio = new VerovioToolkit(await create());
});

const work = newWork(tuneOf("|:A2|d2fd A4|z2ge [Bd]2ge|d2fd (3AAA fa-|a8:|"));
const sheet = sheetOf(work, derive(work));
const WIDTH = 790;
const row = (of: Sheet = { ...slice(sheet, 0, 4), chords: [] }): Drawing => drawRow(verovio, of, WIDTH);

describe("a drawn row is measured", () => {
  it("has its bars from left to right, side by side, to the end of the row", () => {
    const { bars } = row().measured;
    expect(bars.map((b) => b.index)).toEqual([0, 1, 2, 3]);
    bars.forEach((b, i) => {
      expect(b.right).toBeGreaterThan(b.left);
      if (i > 0) expect(b.left).toBeCloseTo(bars[i - 1]!.right, 0);
    });
    expect(bars.at(-1)!.right).toBeGreaterThan(WIDTH - 6);
    expect(bars.at(-1)!.right).toBeLessThanOrEqual(WIDTH + 1);
  });
  it("has a head for every note, rest and chord of every staff, in their order", () => {
    const { measured } = row();
    for (const [s, staff] of sheet.staves.entries()) {
      for (const bar of [0, 1, 2, 3]) {
        const own = measured.staves.filter((m) => m.bar === bar)[s]!;
        expect(own.staff).toBe(staff.id);
        const written = [...new Set(own.notes.map((n) => n.event))].sort((a, b) => a - b);
        expect(written).toEqual(staff.bars[bar]!.map((_, e) => e));
        const xs = own.notes.toSorted((a, b) => a.event - b.event).map((n) => n.x);
        expect(xs).toEqual(xs.toSorted((a, b) => a - b));
      }
    }
  });
  it("has high notes above low ones, and staves one under the other", () => {
    const { staves } = row().measured;
    const melody = staves.find((s) => s.bar === 1)!;
    // d2 f d A4: the third note is as high as the first, the second higher, the last lower.
    const [d, f, again, a] = [0, 1, 2, 3].map((e) => melody.heads.get(e)!);
    expect(f).toBeLessThan(d!);
    expect(again).toBeCloseTo(d!, 3);
    expect(a).toBeGreaterThan(d!);
    const second = staves.filter((s) => s.bar === 1)[1]!;
    expect(second.top).toBeGreaterThan(melody.bottom);
  });
  it("says which note a point means", () => {
    const { measured } = row();
    for (const { bar, staff, notes, heads } of measured.staves)
      for (const { event, x } of notes) expect(noteAt(measured, x, heads.get(event)!)).toEqual({ bar, staff, event });
    expect(noteAt(measured, -50, 10)).toBeUndefined();
  });
  it("keeps in the drawing what pages ask for and nothing that styles them", () => {
    const { svg } = row();
    expect(svg).toContain('data-id="melody.1.0"');
    expect(svg).not.toContain("<style");
    expect(svg).not.toContain("<use");
    expect(svg.match(/<g[ >]/g)?.length).toBe(svg.match(/<\/g>/g)?.length);
  });
});

describe("a drawing's key", () => {
  it("is the same for the same music, and another for any change that shows", () => {
    const own = slice(sheet, 0, 4);
    expect(drawingKey(structuredClone(own))).toBe(drawingKey(own));
    const [melody, ...others] = own.staves;
    const changed: Sheet[] = [
      { ...own, staves: [melody!] },
      { ...own, staves: [{ ...melody!, clef: "bass" }, ...others] },
      { ...own, staves: [{ ...melody!, bars: melody!.bars.toReversed() }, ...others] },
      { ...own, places: own.places.map((p) => ({ ...p, key: { tonic: "C", mode: "major" } })) },
      slice(sheet, 0, 3),
    ];
    expect(new Set([own, ...changed].map(drawingKey)).size).toBe(changed.length + 1);
  });
});

describe("the latest used", () => {
  it("are kept, the one not asked for longest goes first", () => {
    const recent = new Recent<number>(2);
    recent.put("a", 1);
    recent.put("b", 2);
    expect(recent.get("a")).toBe(1);
    recent.put("c", 3);
    expect([recent.get("a"), recent.get("b"), recent.get("c")]).toEqual([1, undefined, 3]);
  });
});
