import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { tuneOf } from "../../testing/abc";
import { INSTRUMENTS, type Instrument, instrument, LEVELS, type Level, tuned } from "../instruments";
import { lineNotes, places, type SheetChord } from "../score";
import { midi } from "../theory";
import { type Arrangement, arrange, type ArrangeRequest, type Kind, rolled, withCapo } from ".";

const PLAIN_KINDS = ["melody", "double stops", "melody with chords"] as const;

const STRUNG = INSTRUMENTS.filter((i) => i.strings.length > 0);
const TUNINGS = STRUNG.flatMap((i) => i.tunings.map((t) => ({ ...i, strings: t.strings, name: i.name })));
type More = {
  key?: string;
  metre?: string;
  kind?: Kind;
  level?: Level;
  chords?: readonly SheetChord[];
  tuning?: string;
};

function made(name: string, abc: string, more: More = {}): Arrangement {
  const { key = "D", metre = "4/4", kind = "melody", level = "Leading", chords = [], tuning = null } = more;
  const own = instrument(name) as Instrument;
  const on = tuned(own, tuning) as Instrument;
  return arrange({ places: places(tuneOf(abc, { key, metre })), instrument: on, kind, level, chords, bpm: 100 })!;
}
/** Strings and frets of the strokes that carry the melody, the melody first; fills left out. */
const lies = ({ strokes }: Arrangement) =>
  strokes
    .filter((s) => s.notes[0]?.role === "melody")
    .map((s) => s.notes.map((n) => `${n.string}:${n.fret}`).join("+"))
    .join(" ");

describe("a tune by itself", () => {
  test.each([
    ["mandolin", "A2FA DAFA|B2GB d2cB|", "D", "Steady", "2:0 3:4 2:0 3:0 2:0 3:4 2:0 2:2 3:5 2:2 2:5 2:4 2:2"],
    ["tenor banjo", "A2FA DAFA|", "D", "Steady", "2:0 3:4 2:0 3:0 2:0 3:4 2:0"],
    ["guitar", "A2FA DAFA|", "D", "Leading", "3:2 4:4 3:2 4:0 3:2 4:4 3:2"],
    ["mandolin", "dcB2 A2G2|", "G", "Leading", "2:5 2:3 2:2 2:0 3:5"],
    ["fiddle", "DEFG ABcd|", "D", "Moving", "3:0 3:2 3:4 3:5 2:0 2:2 2:4 2:5"],
    ["fiddle", "ABcd efga|", "A", "Moving", "2:0 2:2 2:4 2:5 1:0 1:2 1:4 1:5"],
    ["fiddle", "CDEF GABc|", "C", "Moving", "4:5 3:0 3:2 3:3 3:5 2:0 2:2 2:3"],
    ["cello", "D,E,F,G, A,B,CD|", "D", "Fluent", "2:0 2:2 2:4 2:5 1:0 1:2 1:4 1:5"],
    ["viola", "DEFG ABcd|", "G", "Moving", "2:0 2:2 2:4 2:5 1:0 1:2 1:3 1:5"],
    ["guitar", "EGAc eged|", "C", "Moving", "4:2 3:0 3:2 2:1 1:0 1:3 1:0 2:3"],
    ["banjo", "GABd gedB|", "G", "Moving", "3:0 3:2 2:0 1:0 1:5 1:2 1:0 2:0"],
    ["ukulele", "cdef g4|", "C", "Steady", "3:0 3:2 3:4 2:1 2:3"],
    ["mountain dulcimer", "DEFG A4|", "D", "First sounds", "1:0 1:1 1:2 1:3 1:4"],
  ] as const)("on the %s: %s in %s (%s)", (name, abc, key, level, want) => {
    expect(lies(made(name, abc, { key, level }))).toBe(want);
  });
  it("keeps a shape's fingers for what the next note needs, and says where the hand goes", () => {
    const { strokes } = made("guitar", "A2FA DAFA|", { level: "Leading" });
    expect(strokes[0]!.reason).toBe("String 3, fret 2, second finger.");
    expect(strokes[3]!.reason).toBe("String 4 open.");
  });
  it("names what it does not have, with a way out, and plays the rest", () => {
    const { leftOut, strokes } = made("mountain dulcimer", "D2F2 G2A2|", { key: "Dm", level: "Moving" });
    expect(leftOut).toEqual(["F4 in bar 1 is not played: a fret 1+ or the tuning DAC has it; so may another key."]);
    expect(strokes).toHaveLength(3);
    expect(made("mandolin", "G,2B2 d2b2|", { level: "First sounds" }).leftOut.join(" ")).toContain("at the level");
    expect(made("banjo", "C,2G,2 D2E2|", { key: "C" }).leftOut).toEqual([]);
  });
  it("an octave instrument reads the fiddle's page an octave down", () => {
    expect(["guitar", "banjo", "octave mandola", "mandolin", "fiddle"].map((n) => made(n, "d2e2 f2a2|").shift)).toEqual(
      [-12, -12, -12, 0, 0],
    );
  });
});

describe("melody with chords, the shapes that players know", () => {
  const chords = [
    { bar: 0, at: 0, symbol: "C" },
    { bar: 1, at: 0, symbol: "G" },
  ];
  test.each([
    ["guitar", "1:0+2:1+3:0+4:2+5:3 2:3 2:0+3:0+4:0+5:2+6:3"],
    ["mandolin", "1:0+2:3+3:2+4:0 2:5 2:2+3:0+4:0"],
    ["small lute", "1:2+2:1+3:0+4:2 1:0 2:0+3:0+4:0"],
    ["banjo", "1:2+2:1+3:0+4:2 1:0 2:0+3:0+4:0"],
    ["ukulele", "1:7+2:0+3:0+4:0 1:5 1:2+2:3+3:2+4:0"],
  ])("on the %s: %s", (name, want) => {
    const own = made(name, "e4d2|B6|", { key: "G", metre: "3/4", kind: "melody with chords", chords });
    expect(lies(own)).toBe(want);
  });
  it("fills under a held note, on lower strings, a beat after it and half a beat before the next", () => {
    const own = made("guitar", "e4d2|B6|", { key: "G", metre: "3/4", kind: "melody with chords", chords });
    const fills = own.strokes.filter((s) => s.notes[0]?.role === "fill");
    expect(fills.map((s) => s.at / 3360)).toEqual([1, 1.25, 4, 4.5, 5]);
    const quiet = made("guitar", "e4d2|B6|", {
      key: "G",
      metre: "3/4",
      kind: "melody with chords",
      chords,
      level: "Moving",
    });
    expect(quiet.strokes.some((s) => s.notes[0]?.role === "fill")).toBe(false);
  });
  it("is as dense as the level: one string on the bar, on strong beats, three notes on beats", () => {
    const dense = (level: Level) =>
      made("guitar", "G2B2 d2B2|", {
        key: "G",
        kind: "melody with chords",
        level,
        chords: [{ bar: 0, at: 0, symbol: "G" }],
      })
        .strokes.map((s) => s.notes.length)
        .join("");
    expect([dense("First sounds"), dense("Steady"), dense("Moving")]).toEqual(["2111", "2121", "3333"]);
  });
});

/** Any short tune over any chords. */
const NOTES = fc.constantFrom("D", "E", "F", "G", "A", "B", "c", "d", "e", "f", "g", "a");
const LENGTHS = fc.constantFrom("", "", "2", "3", "4");
const TUNE = fc.array(fc.tuple(NOTES, LENGTHS), { minLength: 2, maxLength: 14 }).map((notes) => {
  const abc = notes.map(([n, l], i) => `${n}${l}${i % 4 === 3 ? "|" : " "}`).join("");
  return places(tuneOf(`${abc}|`, { key: "D" }));
});
const CHORDS = fc
  .array(fc.constantFrom("D", "G", "A7", "Em", "Bm"), { minLength: 1, maxLength: 3 })
  .map((symbols) => symbols.map((symbol, bar) => ({ bar, at: 0, symbol })));
const REQUEST: fc.Arbitrary<ArrangeRequest> = fc.record({
  places: TUNE,
  instrument: fc.constantFrom(...TUNINGS),
  kind: fc.constantFrom(...PLAIN_KINDS),
  level: fc.constantFrom(...LEVELS),
  chords: CHORDS,
  bpm: fc.integer({ min: 40, max: 160 }),
});

/** The semitones of a fret above its open string, as the instrument has it; bowed strings have every one. */
const semitones = ({ frets }: Instrument, label: string): number =>
  frets ? (frets.find((f) => f.label === label)?.semitones ?? Number.NaN) : Number(label);
const numberOf = (label: string): number => Number.parseInt(label, 10) + (label.endsWith("+") ? 0.5 : 0);

describe("any arrangement, on every strung instrument in every tuning", () => {
  it("sounds open string plus fret, one note to a string, the melody complete, on time and on top", () => {
    fc.assert(
      fc.property(REQUEST, (request) => {
        const { instrument: on } = request;
        const { strokes, shift, leftOut } = arrange(request)!;
        for (const { notes } of strokes) {
          expect(new Set(notes.map((n) => n.string)).size).toBe(notes.length);
          for (const n of notes) {
            const open = midi(on.strings.find((s) => s.number === n.string)!.open);
            expect(open + semitones(on, n.fret)).toBe(n.noteNumber);
            expect(n.finger === 0).toBe(semitones(on, n.fret) === 0);
          }
        }
        const melody = strokes.filter((s) => s.notes.some((n) => n.role === "melody"));
        const wanted = lineNotes(request.places).map((n) => [n.at, n.ticks, midi(n.pitches.at(-1)!) + shift]);
        const played = melody.map((s) => [s.at, s.ticks, s.notes.find((n) => n.role === "melody")!.noteNumber]);
        const missing = wanted.filter((w) => !played.some((p) => p.join() === w.join()));
        expect(played.every((p) => wanted.some((w) => w.join() === p.join()))).toBe(true);
        expect(missing.length > 0).toBe(leftOut.length > 0);
        if (request.kind === "melody with chords")
          for (const { notes } of melody) {
            const top = notes.find((n) => n.role === "melody")!.noteNumber;
            expect(Math.max(...notes.map((n) => n.noteNumber))).toBe(top);
          }
      }),
      { numRuns: 150 },
    );
  });
  it("lies under one hand: within its span, fingers in the order of their frets, strings side by side", () => {
    fc.assert(
      fc.property(REQUEST, (request) => {
        const { instrument: on } = request;
        const { strokes, board } = arrange(request)!;
        for (const { notes } of strokes) {
          const stopped = notes.filter((n) => n.finger > 0).map((n) => ({ ...n, at: numberOf(n.fret) }));
          const [low, high] = [Math.min(...stopped.map((n) => n.at)), Math.max(...stopped.map((n) => n.at))];
          if (stopped.length > 0)
            expect(high - low).toBeLessThanOrEqual(board.spans.findLast((s) => s.from <= low)!.span);
          for (const a of stopped)
            for (const b of stopped) {
              const order = board.fromAbove ? b.finger - a.finger : a.finger - b.finger;
              if (a.at < b.at) expect(order).toBeLessThan(0);
              if (a.finger === b.finger) expect(a.at).toBe(b.at);
            }
          const orders = notes.map((n) => on.strings.findIndex((s) => s.number === n.string)).sort((x, y) => x - y);
          if (notes.length > 1) expect(orders.at(-1)! - orders[0]!).toBe(notes.length - 1);
        }
      }),
      { numRuns: 150 },
    );
  });
  it("keeps its locks, at exactly the price that was stated", () => {
    fc.assert(
      fc.property(REQUEST, fc.nat(), (request, pick) => {
        const free = arrange(request)!;
        const priced = free.strokes.flatMap((s) => s.alternatives.map((a) => ({ s, a })));
        if (priced.length === 0) return;
        const { s, a } = priced[pick % priced.length]!;
        const lock = { bar: s.place.index, at: s.at - s.place.at, string: a.string, fret: a.fret };
        const locked = arrange({ ...request, locks: [lock] })!;
        const own = locked.strokes.find((x) => x.at === s.at && x.notes[0]?.role === "melody")!;
        expect([own.notes[0]!.string, own.notes[0]!.fret, own.locked]).toEqual([a.string, a.fret, true]);
        expect(locked.total - free.total).toBeCloseTo(a.cost, 6);
        const back = own.alternatives.find((x) => x.string === s.notes[0]!.string && x.fret === s.notes[0]!.fret)!;
        expect(back.cost).toBeCloseTo(-a.cost, 6);
      }),
      { numRuns: 120 },
    );
  });
  it("is the same every time", () => {
    fc.assert(
      fc.property(REQUEST, (request) => {
        expect(arrange(request)).toEqual(arrange(request));
      }),
      { numRuns: 20 },
    );
  });
});

describe("a roll on the banjo", () => {
  const banjo = instrument("banjo")!;
  const roll = (abc: string, more: Partial<ArrangeRequest> = {}, metre = "4/4") =>
    rolled({
      places: places(tuneOf(abc, { key: "G", metre })),
      instrument: banjo,
      kind: "roll",
      level: "Leading",
      bpm: 90,
      chords: [{ bar: 0, at: 0, symbol: "G" }],
      ...more,
    })!;
  const said = ({ strokes }: Arrangement) => strokes.map((s) => `${s.notes[0]!.string}${s.pluck}`).join(" ");
  it("has the melody where its notes begin and goes by its pattern between", () => {
    expect(said(roll("G4 B4|"))).toBe("3T 2I 5T 1M 2I 1M 5T 1M");
    const { strokes } = roll("G4 B4|");
    expect(strokes.filter((s) => s.notes[0]!.role === "melody").map((s) => s.at / 3360)).toEqual([0, 2]);
    expect(strokes[2]!.notes[0]).toMatchObject({ string: 5, fret: "0", role: "drone" });
  });
  it("names what falls between its eighths, and is for the banjo alone", () => {
    expect(roll("G/A/B2c d4|").leftOut).toEqual([
      "One note falls between the eighths of the roll, in bar 1: play them plainly, or take another kind.",
    ]);
    expect(rolled({ ...REQUEST_ROLL, instrument: instrument("guitar")! })).toBeUndefined();
  });
  const REQUEST_ROLL: ArrangeRequest = {
    places: places(tuneOf("G4 B4|", { key: "G" })),
    instrument: banjo,
    kind: "roll",
    level: "Leading",
    bpm: 90,
  };
  it("on any tune: every eighth a string, no finger twice running, fret plus string, locks at exact prices", () => {
    const tunings = banjo.tunings.map((t) => tuned(banjo, t.name)!);
    fc.assert(
      fc.property(TUNE, fc.constantFrom(...tunings), CHORDS, fc.nat(), (from, on, chords, pick) => {
        const request: ArrangeRequest = { ...REQUEST_ROLL, places: from, instrument: on, chords };
        const plucked = rolled(request)!;
        for (const place of from) {
          const own = plucked.strokes.filter((s) => s.place.index === place.index);
          expect(own.reduce((sum, s) => sum + s.ticks, 0)).toBe(place.ticks);
        }
        plucked.strokes.slice(1).forEach((s, i) => {
          expect(s.pluck).not.toBe(plucked.strokes[i]!.pluck);
        });
        for (const { notes } of plucked.strokes)
          for (const n of notes) {
            const open = midi(on.strings.find((s) => s.number === n.string)!.open);
            expect(open + Number(n.fret)).toBe(n.noteNumber);
          }
        const priced = plucked.strokes.flatMap((s) => s.alternatives.map((a) => ({ s, a })));
        if (priced.length === 0) return;
        const { s, a } = priced[pick % priced.length]!;
        const lock = { bar: s.place.index, at: s.at - s.place.at, string: a.string, fret: a.fret };
        expect(rolled({ ...request, locks: [lock] })!.total - plucked.total).toBeCloseTo(a.cost, 6);
      }),
      { numRuns: 50 },
    );
  });
});

describe("a capo", () => {
  it("raises every string alike, and frets count from it", () => {
    const guitar = instrument("guitar")!;
    const raised = withCapo(guitar, 2);
    expect(raised.strings.map((s, i) => midi(s.open) - midi(guitar.strings[i]!.open))).toEqual([2, 2, 2, 2, 2, 2]);
    const own = arrange({
      places: places(tuneOf("A2B2 c2e2|", { key: "A" })),
      instrument: raised,
      kind: "melody",
      level: "Steady",
      bpm: 90,
    })!;
    expect(own.strokes.map((s) => `${s.notes[0]!.string}:${s.notes[0]!.fret}`).join(" ")).toBe("3:0 3:2 2:0 2:3");
  });
});

describe("how many double stops", () => {
  const doubled = (abc: string, doubling: ArrangeRequest["doubling"], metre = "4/4", name = "fiddle") => {
    const from = places(tuneOf(abc, { key: "D", metre }));
    const request = { places: from, instrument: instrument(name)!, kind: "double stops", level: "Leading" } as const;
    return arrange({ ...request, bpm: 90, doubling, chords: [{ bar: 0, at: 0, symbol: "D" }] })!;
  };
  const counts = (...request: Parameters<typeof doubled>) =>
    doubled(...request)
      .strokes.map((s) => s.notes.length)
      .join("");
  test.each([
    ["DFAd fdAF|", "single", "4/4", "21111111"],
    ["DFAd fdAF|", "alternating", "4/4", "21212121"],
    ["DFAd fdAF|", "full", "4/4", "22222222"],
    ["d2A2 d2f2|", "alternating", "4/4", "2121"],
    ["AFD AFD|", "alternating", "6/8", "211211"],
    ["AFD AFD|", "single", "6/8", "211111"],
  ] as const)("%s, %s in %s: %s", (abc, doubling, metre, want) => {
    expect(counts(abc, doubling, metre)).toBe(want);
  });
  it("more of them never leave a note single that had one, and what stays single is told", () => {
    const [single, alternating, full] = (["single", "alternating", "full"] as const).map((d) =>
      doubled("DEFG ABcd|", d).strokes.filter((s) => s.notes.length > 1),
    );
    expect(single!.length).toBeLessThanOrEqual(alternating!.length);
    expect(alternating!.length).toBeLessThanOrEqual(full!.length);
    const { strokes, remarks } = doubled("^D^D ^D2 D4|", "full");
    const bare = strokes.filter((s) => s.notes.length === 1).length;
    expect(remarks.length > 0).toBe(bare > 0);
  });
});

describe("fingers that stay down", () => {
  const holds = (name: string, abc: string) =>
    made(name, abc, { level: "Moving" }).strokes.map((s) => s.hold.join("+") || "-");
  test.each([
    ["fiddle", "BcdB|", "- 1 1 -"],
    ["fiddle", "BABc|", "- - - -"],
    ["fiddle", "BdeB|", "- - - -"],
    ["mandolin", "EGE2|", "- 1 -"],
  ] as const)("on the %s %s: %s", (name, abc, want) => {
    expect(holds(name, abc).join(" ")).toBe(want);
  });
  it("are told where they come down", () => {
    expect(made("fiddle", "Bcd B|", { level: "Moving" }).strokes[0]!.reason).toBe(
      "A string, first finger. Keep it down.",
    );
  });
});
