import { readFileSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { tuneOf } from "../../testing/abc";
import { perform } from "../performance";
import { type Metre, places, QUARTER, type Tune, tuneSheet } from "../score";
import {
  CELLS,
  CLASS_STRING,
  danced,
  plainly,
  dancedTune,
  drillLadder,
  fitsMetre,
  flippedPair,
  foundCells,
  GROOVES,
  grooveOf,
  laidOver,
  safeGhosts,
  setToCell,
  shaped,
  usualTempo,
  withSnaps,
} from ".";

const REEL = "dcBA GABc|dBGB A2GA|BAGB ABde|gedB A4|";
const JIG = "BcB ABd|e2d B2A|GAB AGE|D3 D2A|";
const METRES: Record<string, Metre> = {
  "4/4": { beats: 4, unit: 4 },
  "2/4": { beats: 2, unit: 4 },
  "3/4": { beats: 3, unit: 4 },
  "6/8": { beats: 6, unit: 8 },
  "9/8": { beats: 9, unit: 8 },
  "12/8": { beats: 12, unit: 8 },
};

/** A tune in the bar a groove is named for, all in running notes. */
const running = (bar: string) => {
  const { beats, unit } = METRES[bar]!;
  const notes = "ABcdefga".repeat(2).slice(0, (beats * 8) / unit);
  return places(tuneOf(`${notes}|${notes}|`, { metre: bar, key: "D" }));
};
const played = (dance: string, from: ReturnType<typeof places>, { bpm = 100, strength = 100 } = {}) =>
  dancedTune(from, laidOver(grooveOf(dance), bpm, strength), bpm);

describe("the grooves", () => {
  test.each(GROOVES)("$name is whole: a weight for every part of its bar, shares that fill a beat", (groove) => {
    expect(groove.accents).toHaveLength(groove.beats * groove.parts);
    for (const shares of Object.values(groove.shares)) {
      expect(shares).toHaveLength(groove.parts);
      expect(shares.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 9);
    }
    expect(fitsMetre(groove, METRES[groove.bar]!)).toBe(true);
  });
  test.each(GROOVES)("$name: swing never grows with tempo, and slow is milder", (groove) => {
    const all = [30, 60, 90, 120, 150, 180, 210, 260].map((bpm) => shaped(groove, bpm));
    all.slice(1).forEach((faster, i) => {
      const slower = all[i]!;
      expect(faster.shares[0]!).toBeLessThanOrEqual(slower.shares[0]! + 1e-12);
      for (const [k, w] of faster.weights.entries()) expect(w).toBeLessThanOrEqual(slower.weights[k]! + 1e-12);
    });
  });
  test.each(GROOVES)("$name: strength 0 is exactly straight and even", (groove) => {
    const { shares, weights } = shaped(groove, 120, 0);
    expect(shares.every((s) => s === 1 / groove.parts)).toBe(true);
    expect(new Set(weights)).toEqual(new Set([1]));
  });
  test.each([
    ["reel", 205, 1.2],
    ["reel", 215, 1.1],
    ["reel", 130, 1.35],
    ["hornpipe", 158, 1.75],
    ["hornpipe", 170, 1.55],
    ["strathspey", 60, 1.2],
    ["waltz", 135, 1.05],
  ])("a %s at %d swings %d to 1", (dance, bpm, ratio) => {
    const { shares } = shaped(grooveOf(dance)!, bpm);
    expect(shares[0]! / shares[1]!).toBeCloseTo(ratio, 1);
  });
  it("knows dances by the names the analysis gives, and a march in six", () => {
    expect(grooveOf("air or song")?.name).toBe("air");
    expect(grooveOf("March", true)?.bar).toBe("6/8");
    expect(grooveOf("no such dance")).toBeUndefined();
  });
  it("a reel written in halves keeps the seconds of its bar", () => {
    const reel = grooveOf("reel")!;
    expect(usualTempo(reel, { beats: 2, unit: 2 }, "dancing")).toBe(usualTempo(reel, METRES["4/4"]!, "dancing") / 2);
  });
});

describe("a tune as it is danced", () => {
  test.each(GROOVES.map((g) => g.name))("%s: every felt beat stands where it is written", (dance) => {
    const groove = GROOVES.find((g) => g.name === dance)!;
    const from = running(groove.bar);
    const beat = (from[0]!.ticks * 1) / groove.beats;
    const seconds = 60 / 100 / ((groove.parts === 3 ? 1.5 : 1) * QUARTER);
    for (const n of played(dance, from).filter((n) => n.at % beat === 0))
      expect(n.onset).toBeCloseTo(n.at * seconds, 9);
  });
  it("a jig leans on 1 and 4: at least a quarter louder than the others at dancing tempo", () => {
    const notes = played("jig", places(tuneOf(JIG, { metre: "6/8" })), { bpm: 119 });
    const strong = notes.filter((n) => n.at % (1.5 * QUARTER) === 0).map((n) => n.velocity);
    const weak = notes.filter((n) => n.at % (1.5 * QUARTER) !== 0).map((n) => n.velocity);
    expect(Math.min(...strong) / Math.max(...weak)).toBeGreaterThanOrEqual(1.25);
  });
  it("a reel's eighths go long and short by its ratio; strength 0 makes them even", () => {
    const from = places(tuneOf(REEL));
    const ratio = (strength: number) => {
      const [a, b, c] = played("reel", from, { bpm: 130, strength }).map((n) => n.onset);
      return (b! - a!) / (c! - b!);
    };
    expect(ratio(100)).toBeCloseTo(1.35, 6);
    expect(ratio(0)).toBeCloseTo(1, 9);
    expect(ratio(50)).toBeGreaterThan(1);
  });
  it("a hornpipe's dotted pairs are its swing, a strathspey's stay as written", () => {
    const pairs = places(tuneOf("A>B c>d e>f g>a|", { key: "D" }));
    const first = (dance: string, bpm: number) => {
      const [a, b, c] = played(dance, pairs, { bpm }).map((n) => n.onset);
      return (b! - a!) / (c! - b!);
    };
    expect(first("hornpipe", 158)).toBeCloseTo(1.75, 6);
    expect(first("strathspey", 100)).toBeCloseTo(3, 6);
  });
  it("tied notes are one, and pickups stand before the beat they lead to", () => {
    const notes = played("reel", places(tuneOf("A2|d4-d2 ef|g8|")));
    expect(notes.map((n) => n.ticks / QUARTER)).toEqual([1, 3, 0.5, 0.5, 4]);
    expect(notes[1]!.onset).toBeCloseTo(0.6, 9);
  });
  it("every note keeps its order, its pitch and a length above nothing, whatever the dance, tempo and strength", () => {
    const tunes = [REEL, JIG].map((abc, i) => places(tuneOf(abc, { metre: i ? "6/8" : "4/4" })));
    fc.assert(
      fc.property(
        fc.constantFrom(...GROOVES.map((g) => g.name), "no such dance"),
        fc.integer({ min: 30, max: 300 }),
        fc.integer({ min: 0, max: 150 }),
        fc.constantFrom(...tunes),
        (dance, bpm, strength, from) => {
          const notes = played(dance, from, { bpm, strength });
          notes.forEach((n, i) => {
            expect(n.duration).toBeGreaterThan(0);
            expect(n.velocity >= 1 && n.velocity <= 127).toBe(true);
            if (i > 0) expect(n.onset).toBeGreaterThan(notes[i - 1]!.onset);
          });
        },
      ),
    );
  });
  it("a whole performance moves together: beats stay, bars, metres and tempos too", () => {
    const tune = tuneOf(`|:${REEL.slice(0, -1)}:|`, { more: "Q:1/4=200\n" });
    const sheet = tuneSheet(tune, places(tune));
    const straight = perform(tune, sheet, { straight: true });
    const moved = danced(straight, sheet.staves, plainly(sheet, laidOver(grooveOf("reel"), 200, 100), straight));
    expect({ ...moved, notes: [] }).toEqual({ ...straight, notes: [] });
    expect(moved.notes).toHaveLength(straight.notes.length);
    const beats = (p: typeof straight) => p.notes.filter((n) => n.at % QUARTER === 0).length;
    expect(beats(moved)).toBeGreaterThanOrEqual(beats(straight));
  });
});

describe("rhythm cells", () => {
  it("every cell fills whole beats, with a word for every note", () => {
    for (const { lengths, syllables, metres } of CELLS) {
      expect(syllables).toHaveLength(lengths.length);
      const beat = metres.every((m) => m.endsWith("/8")) ? 3 : 2;
      expect((lengths.reduce((a, b) => a + b, 0) / beat) % 1).toBeCloseTo(0, 6);
    }
  });
  it.each([
    ["4/4", "d2Bc dcAB|d2Bc dcAB|", "Long-short-short", 2],
    ["4/4", "ABc2 ABc2|", "Short-short-long", 2],
    ["4/4", "A3B3c2|", "Three-three-two", 1],
    ["4/4", "A>B c>d e>f g>a|", "Dotted pairs", 2],
    ["4/4", "A<B c4 z2|", "Snap", 1],
    ["6/8", "B2A GAB|", "Jig step", 1],
    ["6/8", "B2A GAB|", "Step and run", 1],
    ["9/8", "B2A GAB d2e|", "Slip step", 1],
    ["3/4", "A2Bc d2|", "Waltz turn", 1],
    ["3/4", "A>B c2 d2|", "Mazurka hop", 1],
    ["2/4", "(3ABc d2|", "Triplet and land", 1],
  ])("in %s, %s has %s", (metre, abc, name, count) => {
    const found = foundCells(places(tuneOf(abc, { metre }))).find((c) => c.name === name);
    expect(found?.count).toBe(count);
  });
  it("ranks from 1, the most telling first, and finds none that begin off the beat", () => {
    const found = foundCells(places(tuneOf("d2Bc d2Bc|d2Bc dcAB|z2 A2Bc c2|")));
    expect(found.map((c) => c.rank)).toEqual(found.map((_, i) => i + 1));
    expect(found[0]?.name).toBe("Long-short-short");
    expect(foundCells(places(tuneOf("zA2B c4|"))).some((c) => c.name === "Long-short-short")).toBe(false);
  });
});

/** Lengths of a bar's notes in eighths. */
const lengths = (tune: Tune, bar: number) => places(tune)[bar]!.bar.events.map((e) => (e.ticks * 2) / QUARTER);

describe("pairs and snaps", () => {
  const even = tuneOf("ABcd efga|agfe dcBA|ABcA efge|A8|");
  it("March makes every pair long-short, and leaves the last bar", () => {
    const made = withSnaps(even, "March");
    expect(lengths(made, 0)).toEqual([1.5, 0.5, 1.5, 0.5, 1.5, 0.5, 1.5, 0.5]);
    expect(lengths(made, 3)).toEqual([8]);
  });
  it("Pointed snaps what falls by step or repeats, never a strain's first pair", () => {
    const made = withSnaps(tuneOf("BABA BABA|BABA BABA|d2 BB cA Bd|A8|"), "Pointed");
    expect(lengths(made, 0).slice(0, 4)).toEqual([1.5, 0.5, 0.5, 1.5]);
    expect(lengths(made, 2)).toEqual([2, 0.5, 1.5, 1.5, 0.5, 1.5, 0.5]);
  });
  it("Strathspey goes long-short and snaps where the second note carries", () => {
    const made = withSnaps(even, "Strathspey", (bar, event) => bar === 0 && event === 3);
    expect(lengths(made, 0)).toEqual([1.5, 0.5, 0.5, 1.5, 1.5, 0.5, 1.5, 0.5]);
  });
  it("never makes two whole bars of snaps, and leaves triplets, quarters and jigs", () => {
    const made = withSnaps(tuneOf("d2 d2 AAAA|AAAA AAAA|AAAA AAAA|AAAA AAAA|A8|"), "Pointed");
    const whole = [1, 2, 3].map((bar) => lengths(made, bar).every((l, i) => l === (i % 2 ? 1.5 : 0.5)));
    expect(whole).toEqual([true, false, true]);
    const jig = tuneOf("ABc dcB|A6|", { metre: "6/8" });
    expect(withSnaps(jig, "March")).toEqual(jig);
    const triplet = tuneOf("(3ABc d2 e2 f2|A8|");
    expect(withSnaps(triplet, "March")).toEqual(triplet);
  });
  it("any pair turns round, and back", () => {
    const once = flippedPair(withSnaps(even, "March"), 0, 0)!;
    expect(lengths(once, 0).slice(0, 2)).toEqual([0.5, 1.5]);
    expect(flippedPair(once, 0, 0)).toEqual(withSnaps(even, "March"));
    expect(flippedPair(even, 99, 0)).toBeUndefined();
  });
});

describe("a tune set to a cell", () => {
  const reel = tuneOf(REEL);
  it.each(CELLS.filter((c) => c.metres.includes("4/4")).map((c) => c.name))("%s keeps the bars' lengths", (name) => {
    const cell = CELLS.find((c) => c.name === name)!;
    const { tune, kept } = setToCell(reel, cell);
    expect(places(tune).map((p) => p.ticks)).toEqual(places(reel).map((p) => p.ticks));
    expect(kept).toBeGreaterThan(0);
  });
  it("long-short-short keeps every note on a beat where a note begins, and all of the last bar", () => {
    const { tune, kept } = setToCell(reel, CELLS[0]!);
    expect(lengths(tune, 0)).toEqual([2, 1, 1, 2, 1, 1]);
    expect(lengths(tune, 3)).toEqual(lengths(reel, 3));
    expect(kept).toBe(1);
  });
  it("a cell of another metre changes nothing", () => {
    expect(setToCell(reel, CELLS.find((c) => c.name === "Jig run")!).tune).toEqual(reel);
  });
});

describe("notes that are safe to ghost", () => {
  const ghosts = (abc: string, metre = "4/4") => safeGhosts(places(tuneOf(abc, { metre, key: "D" })));
  it.each([
    ["a repeated note", "AAdd A4|", [1, 3].slice(0, 2), "it only repeats the note before"],
    ["a passing note", "ABc2 A4|", [1], "it passes by step"],
    ["a neighbour", "ABA2 d4|", [1], "it goes a step away and back"],
  ])("%s", (_, abc, events, why) => {
    const found = ghosts(abc);
    expect(found.map((g) => g.event)).toEqual(events);
    expect(found[0]?.why).toBe(why);
  });
  it("never on a beat, after a leap, tied or accented, nor two in a row", () => {
    expect(ghosts("AfAf AfAf|")).toEqual([]);
    expect(ghosts("A!accent!B c2 A4|")).toEqual([]);
    const jig = ghosts("ABc cBA|", "6/8").map((g) => g.event);
    expect(jig.every((e, i) => i === 0 || e - jig[i - 1]! > 1)).toBe(true);
  });
});

describe("the drill ladder", () => {
  const tune = tuneOf(REEL, { key: "D" });
  it.each(CELLS.filter((c) => c.metres.includes("4/4")).map((c) => c.name))(
    "of %s has five rungs of whole bars",
    (name) => {
      const rungs = drillLadder(tune, CELLS.find((c) => c.name === name)!, CLASS_STRING);
      expect(rungs.map((r) => r.name)).toEqual([
        "Accents on the open string",
        "An accent, then light",
        "Up the scale",
        "The first bar",
        "The tune",
      ]);
      for (const rung of rungs.slice(0, 4)) {
        for (const place of places(rung.tune)) expect(place.ticks).toBe(4 * QUARTER);
      }
    },
  );
  it("climbs the tune's own scale from the string, and leans on the first of each cell", () => {
    const rungs = drillLadder(tune, CELLS[0]!, CLASS_STRING);
    const notes = places(rungs[2]!.tune).map((p) => p.bar.events[0]!.pitches[0]!);
    expect(notes.map((p) => p.step).join("")).toBe("DEFGAGFEDD".slice(0, notes.length));
    expect(notes[2]!.alter).toBe(1);
    expect(places(rungs[1]!.tune)[0]!.bar.events.map((e) => e.marks?.[0] ?? "")).toEqual([
      "accent",
      "",
      "",
      "accent",
      "",
      "",
    ]);
  });
  it("of a cell of another metre there is none", () => {
    expect(drillLadder(tune, CELLS.find((c) => c.name === "Jig run")!, CLASS_STRING)).toEqual([]);
  });
});

describe("what the documentation says of a bar", () => {
  const text = readFileSync("docs/feel.md", "utf8");
  const table = text.slice(text.search(/\| Dance +\| Tempo +\| Bar/));
  const rows = [...table.matchAll(/^\| ([^|]+?) +\| (\d+) +\| `([^`]+)` +\| ([\d ]+?) +\| ([\d ]+?) +\|$/gm)];
  test.each(GROOVES)("$name: when its notes begin and how loud they are", ({ name, bar }) => {
    const [, , tempo, abc, begins, velocities] = rows.find((r) => r[1] === name)!;
    const from = places(tuneOf(`${abc}|`, { metre: bar, key: "D" }));
    const bpm = usualTempo(grooveOf(name, name === "march in six-eight")!, from[0]!.metre, "dancing");
    const notes = played(name, from, { bpm });
    expect(Math.round(bpm)).toBe(Number(tempo));
    expect(notes.map((n) => Math.round(n.onset * 1000)).join(" ")).toBe(begins);
    expect(notes.map((n) => n.velocity).join(" ")).toBe(velocities);
  });
});
