// Lengths that exist: what `score/lay` makes of any length, and that every writer says it the same way.
import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { tuneOf } from "../../testing/abc";
import {
  barTicks,
  beatTicks,
  type Event,
  laidEvents,
  lengthOf,
  type Metre,
  NOTE_TYPES,
  places,
  QUARTER,
  type Tune,
  tuneSheet,
  writtenShape,
} from "../score";
import { parsePitch } from "../theory";
import { readAbc, readMusicXml, sheetMusicXml, tuneAbc } from ".";

const A4 = parsePitch("A4");
const EIGHTH = QUARTER / 2;
const SIXTY_FOURTH = QUARTER / 16;
const metre = (text: string): Metre => tuneOf("A|", { metre: text }).metre;
const METRES = ["4/4", "C|", "2/4", "3/4", "6/8", "9/8", "12/8", "3/8", "3/2", "5/4", "7/8"].map(metre);

/** What a note head, its dots and its tuplet say it lasts, from the types' own ticks. */
function saidBy(event: Event): number {
  const shape = writtenShape(event)!;
  const type = NOTE_TYPES.find(([name]) => name === shape.type)![1];
  const { actual, normal } = shape.ratio ?? { actual: 1, normal: 1 };
  return (type * (2 - 0.5 ** shape.dots) * normal) / actual;
}
const inWords = (event: Event) => {
  const { type, dots, ratio } = writtenShape(event)!;
  return `${"dotted ".repeat(dots)}${type}${ratio ? ` ${ratio.actual}:${ratio.normal}` : ""}${event.tie ? "~" : ""}`;
};

describe("a length becomes notes that exist", () => {
  test.each([
    ["6/8", 5, 0, ["dotted quarter~", "quarter"]],
    ["6/8", 5, 1, ["quarter~", "dotted quarter"]],
    ["6/8", 4, 0, ["half"]],
    ["6/8", 5, 2, ["eighth~", "dotted quarter~", "eighth"]],
    ["6/8", 6, 0, ["dotted half"]],
    ["9/8", 9, 0, ["dotted half~", "dotted quarter"]],
    ["9/8", 7, 2, ["eighth~", "dotted half"]],
    ["4/4", 5, 0, ["half~", "eighth"]],
    ["4/4", 5, 3, ["eighth~", "half"]],
    ["3/4", 5, 0, ["half~", "eighth"]],
    ["4/4", 7, 0, ["dotted dotted half"]],
    ["4/4", 3, 1, ["dotted quarter"]],
  ])("in %s %d eighths that begin %d eighths into the bar: %j", (name, eighths, into, written) => {
    const event: Event = { ticks: eighths * EIGHTH, pitches: [A4] };
    expect(laidEvents([event], metre(name), into * EIGHTH).map(inWords)).toEqual(written);
  });

  const sixtyFourths = fc.integer({ min: 1, max: 128 }).map((n) => n * SIXTY_FOURTH);
  const ratio = fc.constantFrom<[number, number]>([3, 2], [5, 4], [6, 4], [7, 4]);
  const place = fc.constantFrom("first" as const, "inner" as const, "last" as const);
  /** A length on 64ths, or on the 64ths of a tuplet. */
  const length = fc.oneof(
    sixtyFourths.map((ticks) => ({ ticks })),
    fc.tuple(sixtyFourths, ratio, place).map(([written, [actual, normal], where]) => ({
      ticks: (written * normal) / actual,
      tuplet: { actual, normal, place: where },
    })),
  );
  const begins = fc.integer({ min: 0, max: 64 }).map((n) => n * SIXTY_FOURTH);
  const anyMetre = fc.constantFrom(...METRES);

  it("types, dots and tuplets add up to it exactly, in every metre and from every place of the bar", () => {
    fc.assert(
      fc.property(length, begins, anyMetre, fc.boolean(), fc.boolean(), (lasts, into, m, sounds, tie) => {
        const event: Event = { ...lasts, pitches: sounds ? [A4] : [], ...(tie && sounds ? { tie: true } : {}) };
        const pieces = laidEvents([event], m, into);
        expect(lengthOf(pieces)).toBe(lasts.ticks);
        expect(pieces.every((p) => p.tuplet?.actual === event.tuplet?.actual)).toBe(true);
        for (const piece of pieces) expect(saidBy(piece)).toBeCloseTo(piece.ticks, 9);
        // Every piece of a note is tied to the next; the last as the note was; a rest never.
        expect(pieces.map((p) => p.tie ?? false)).toEqual(
          pieces.map((_, i) => sounds && (i < pieces.length - 1 || tie)),
        );
      }),
    );
  });
  it("what is cut keeps to the beat: a piece that begins off it ends there at the latest", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 96 }), begins, anyMetre, (n, into, m) => {
        const pieces = laidEvents([{ ticks: n * SIXTY_FOURTH, pitches: [A4] }], m, into);
        if (pieces.length === 1) return;
        const beat = beatTicks(m);
        let at = into;
        for (const { ticks } of pieces) {
          if (at % beat !== 0) expect((at % beat) + ticks).toBeLessThanOrEqual(beat);
          at += ticks;
        }
      }),
    );
  });
  it("laid once, it stays as it is", () => {
    fc.assert(
      fc.property(fc.array(length, { minLength: 1, maxLength: 8 }), anyMetre, (lengths, m) => {
        const once = laidEvents(
          lengths.map((lasts) => ({ ...lasts, pitches: [A4] })),
          m,
        );
        expect(laidEvents(once, m)).toEqual(once);
      }),
    );
  });
});

describe("every writer says the same", () => {
  /** Bars of a tune cut at random 64ths, so that lengths of all kinds stand in them. */
  const arbitrary = fc
    .tuple(
      fc.constantFrom(...METRES),
      fc.array(fc.array(fc.integer({ min: 1, max: 40 }), { minLength: 1, maxLength: 6 }), {
        minLength: 1,
        maxLength: 3,
      }),
    )
    .map(([m, bars]): Tune => {
      const full = barTicks(m);
      const cut = (sizes: readonly number[]): Event[] => {
        const events: Event[] = [];
        let left = full;
        for (const n of sizes) {
          const ticks = Math.min(left, n * SIXTY_FOURTH);
          if (ticks > 0) events.push({ ticks, pitches: [A4] });
          left -= ticks;
        }
        return left > 0 ? [...events, { ticks: left, pitches: [] }] : events;
      };
      const base = tuneOf("A|");
      const plain = { chords: [], changes: [], barline: "single" as const };
      return { ...base, metre: m, strains: [{ label: "A", bars: bars.map((b) => ({ ...plain, events: cut(b) })) }] };
    });
  /** What sounds: starts and lengths, ties joined; and rests. */
  const heard = (tune: Tune) => {
    const out: [string, number][] = [];
    let tied = false;
    for (const e of places(tune).flatMap((p) => p.bar.events)) {
      const name = e.pitches.length ? "note" : "rest";
      if (tied || (name === "rest" && out.at(-1)?.[0] === "rest")) out.at(-1)![1] += e.ticks;
      else out.push([name, e.ticks]);
      tied = e.tie ?? false;
    }
    return out;
  };
  it("MusicXML and ABC come back with the same notes, each as long as it was", () => {
    fc.assert(
      fc.property(arbitrary, (tune) => {
        const xml = readMusicXml(sheetMusicXml(tuneSheet(tune, places(tune)))).tune;
        const abc = readAbc(tuneAbc(tune)).tunes[0]!.tune;
        expect(heard(xml)).toEqual(heard(tune));
        expect(heard(abc)).toEqual(heard(tune));
        const shapes = (t: Tune) => places(t).flatMap((p) => p.bar.events.map(inWords));
        expect(shapes(xml)).toEqual(shapes(abc));
      }),
      { numRuns: 60 },
    );
  });
  it("in MusicXML every note's type and dots make its duration", () => {
    fc.assert(
      fc.property(arbitrary, (tune) => {
        const text = sheetMusicXml(tuneSheet(tune, places(tune)));
        const divisions = Number(/<divisions>(\d+)/.exec(text)![1]);
        for (const [note] of text.matchAll(/<note[ >][\s\S]*?<\/note>/g)) {
          const type = /<type>([^<]+)/.exec(note)?.[1];
          if (!type) continue;
          const ticks = NOTE_TYPES.find(([name]) => name === type)![1];
          const dots = note.match(/<dot\/>/g)?.length ?? 0;
          const duration = Number(/<duration>(\d+)/.exec(note)![1]);
          expect((duration / divisions) * QUARTER).toBeCloseTo(ticks * (2 - 0.5 ** dots), 6);
        }
      }),
      { numRuns: 40 },
    );
  });
});
