import { describe, expect, it, test } from "vitest";
import { tuneOf } from "../../testing/abc";
import { melodyStaff, places, QUARTER } from "../score";
import { bowedStaff, type Bowing, BOWINGS, planBowing, type StrokePlan, writtenSlurs } from ".";

const JOINTS: Record<string, string> = { hook: "~" };
/** A plan as teachers write it: D1-U[23]-D4, ~ for a hook, ^ for a lift; notes count in their bar, p in a pickup. */
function written({ strokes }: StrokePlan, bar: number): string {
  let text = "";
  for (const stroke of strokes) {
    const [first] = stroke.notes;
    if (first!.place.index !== bar && !stroke.notes.some((n) => n.place.index === bar)) continue;
    const own = stroke.notes.map((n) => {
      const sounding = n.place.bar.events.filter((e) => e.pitches.length > 0);
      return n.place.pickup ? "p" : String(sounding.indexOf(n.place.bar.events[n.event]!) + 1);
    });
    const joint = stroke.retake ? (JOINTS[stroke.kind] ?? "^") : "-";
    text += `${text ? joint : ""}${stroke.direction === "down" ? "D" : "U"}${own.length > 1 ? `[${own.join("")}]` : own[0]}`;
  }
  return text;
}
/** The bar under test among others of the same kind, bowed at a middle tempo of practice. */
function bowed(abc: string, style: Bowing, options: { metre?: string; key?: string } = {}): string {
  const from = places(tuneOf(abc, options));
  const bar = from.findIndex((p) => !p.pickup);
  return written(planBowing({ places: from, style, bpm: 100, phraseStarts: new Set([0]) }), bar);
}
const STYLES = ["Separate", "Down on the beat", "Shuffle", "Slurred threes", "Driven up-bows"] as const;

/** One bar and what teachers do with it in each style; the next bar begins down. */
const ROWS: readonly (readonly [abc: string, metre: string, key: string, ...want: string[]])[] = [
  [
    "ABcd edcB|A8|",
    "4/4",
    "D",
    "D1-U2-D3-U4-D5-U6-D7-U8",
    "D1-U2-D3-U4-D5-U6-D7-U8",
    "D[12]-U3-D4-U[56]-D7-U8",
    "D1-U[234]-D5-U[678]",
    "D1-U2~U[34]-D5-U6~U[78]",
  ],
  [
    "ABc dcB|A6|",
    "6/8",
    "D",
    "D1-U2-D3-U4-D5-U6",
    "D1-U[23]-D4-U[56]",
    "D[12]-U3-D[45]-U6",
    "D[123]-U[456]",
    "D1-U2~U3-D4-U5~U6",
  ],
  ["A2B c2d|A6|", "6/8", "D", "D1-U2-D3-U4", "D1-U2-D3-U4", "D1-U2-D3-U4", "D[12]-U[34]", "D1-U2-D3-U4"],
  ["B2A GAB|A6|", "6/8", "G", "D1-U2-D3-U4-D5", "D1-U2-D3-U[45]", "D1-U2-D[34]-U5", "D[12]-U[345]", "D1-U2-D3-U4~U5"],
  [
    "d2Bc d2cB|A8|",
    "4/4",
    "D",
    "D1-U2-D3-U4-D5-U6",
    "D1-U[23]-D4-U[56]",
    "D1-U2-D3-U4-D5-U6",
    "D1-U[23]-D4-U[56]",
    "D1-U2~U3-D4-U5~U6",
  ],
  [
    "d2Bc dcAB|d8|",
    "4/4",
    "D",
    "D1-U2-D3-U4-D5-U6-D7",
    "D1-U[23]-D4-U5-D6-U7",
    "D1-U2-D3-U[45]-D6-U7",
    "D1-U[23]-D4-U[567]",
    "D1-U2~U3-D4-U5~U[67]",
  ],
  [
    "GABc dBGB|A8|",
    "4/4",
    "G",
    "D1-U2-D3-U4-D5-U6-D7-U8",
    "D1-U2-D3-U4-D5-U6-D7-U8",
    "D[12]-U3-D4-U[56]-D7-U8",
    "D1-U[234]-D5-U6-D7-U8",
    "D1-U2~U[34]-D5-U6~U[78]",
  ],
  [
    "d|BcB ABd|A6|",
    "6/8",
    "D",
    "D1-U2-D3-U4-D5-U6",
    "D1-U[23]-D4-U[56]",
    "D[12]-U3-D[45]-U6",
    "D[123]-U[456]",
    "D1-U2~U3-D4-U5~U6",
  ],
  [
    "A>B c<e d2 f>e|A8|",
    "4/4",
    "A",
    "D1-U2-D3-U4-D5-U6-D7",
    "D1-U2-D3-U4-D5-U6~U7",
    "D1-U2-D3-U4-D5-U6~U7",
    "D1-U2-D3-U4-D5-U6~U7",
    "D1-U2~U[34]-D5-U6~U7",
  ],
];

describe("bars as teachers bow them", () => {
  for (const [abc, metre, key, ...want] of ROWS) {
    STYLES.forEach((style, s) => {
      it(`${style}: ${abc}`, () => expect(bowed(abc, style, { metre, key })).toBe(want[s]));
    });
  }
  test.each([
    ["Separate", "Up-Dp-Up"],
    ["Down on the beat", "U[ppp]"],
    ["Slurred threes", "D[ppp1]"],
    ["Driven up-bows", "U[ppp]"],
  ] as const)("a lead-in triplet, %s", (style, pickup) => {
    const from = places(tuneOf("(3ABc|d4 fedc|d8|", { key: "D" }));
    expect(written(planBowing({ places: from, style, bpm: 100, phraseStarts: new Set([0]) }), 0)).toBe(pickup);
  });
  test.each([
    ["Down on the beat", "D1-U[23]-D4-U5"],
    ["Shuffle", "D1-U[23]-D4-U5"],
    ["Driven up-bows", "D1-U2-D3-U4~U5"],
  ] as const)("a half note and four eighths, %s", (style, want) => {
    expect(bowed("d4 fedc|d8|", style, { key: "D" })).toBe(want);
  });
  test.each([
    ["Down on the beat", "(3ABc de (3fed cB|A8|", "D[123]-U[45]-D[678]-U[910]"],
    ["Down on the beat", "(3AAA Bc (3ddd cB|A8|", "D1-U2-D3-U[45]-D6-U7-D8-U[910]"],
    ["Shuffle", "(3ABc de (3fed cB|A8|", "D[123]-U4-D5-U[678]-D9-U10"],
    ["Slurred threes", "(3ABc de (3fed cB|A8|", "D[123]-U[45]-D[678]-U[910]"],
    ["Jig pulse", "(3ABc de (3fed cB|A8|", "D[123]-U[45]-D[678]-U[910]"],
    ["Driven up-bows", "(3ABc de (3fed cB|A8|", "D[123]-U4~U5-D[678]-U9~U10"],
    ["Driven up-bows", "A>B c<d A>B c<d|A8|", "D1-U2~U[34]-D5-U6~U[78]"],
    ["Jig pulse", "d2cB A2Bc|d8|", "D1-U[23]-D4-U[56]"],
  ] as const)("triplets, snaps and quarters, %s: %s", (style, abc, want) => {
    expect(bowed(abc, style, { key: "D" })).toBe(want);
  });
  test.each([
    ["Separate", "U", "D-U", "U-D-U"],
    ["Down on the beat", "U", "D-U", "U-D-U"],
    ["Shuffle", "U", "D-U", "D[12]-U"],
    ["Slurred threes", "U", "U[12]", "U[123]"],
    ["Driven up-bows", "U", "U~U", "U[123]"],
    ["Jig pulse", "U", "D-U", "U-D-U"],
  ] as const)("pickups of one, two and three, %s", (style, ...want) => {
    const found = ["A|", "AB|", "ABc|"].map((pickup) => {
      const from = places(tuneOf(`${pickup}defd edcB|A8|`, { key: "D" }));
      const plan = planBowing({ places: from, style, bpm: 100, phraseStarts: new Set([0]) });
      let order = 0;
      return plan.strokes
        .filter((s) => s.notes[0]!.place.pickup)
        .map(({ notes, retake, direction }, k) => {
          const numbers = notes.map(() => ++order).join("");
          const joint = retake ? "~" : "-";
          return `${k ? joint : ""}${direction === "down" ? "D" : "U"}${notes.length > 1 ? `[${numbers}]` : ""}`;
        })
        .join("");
    });
    expect(found).toEqual(want);
  });
  it("Jig pulse stays separate where it can", () => {
    expect(bowed("ABc dcB|A6|", "Jig pulse", { metre: "6/8", key: "D" })).toBe("D1-U2-D3-U4-D5-U6");
    expect(bowed("B2A GAB|A6|", "Jig pulse", { metre: "6/8", key: "G" })).toBe("D1-U2-D3-U[45]");
  });
});

describe("runs of a strathspey", () => {
  const bowed = (abc: string, runs: boolean) => {
    const from = places(tuneOf(abc, { key: "D" }));
    const plan = planBowing({ places: from, style: "Down on the beat", bpm: 60, phraseStarts: new Set([0]), runs });
    return { from, plan };
  };
  const letters = ({ plan }: ReturnType<typeof bowed>) =>
    plan.strokes.map((s) => `${s.direction === "down" ? "D" : "U"}${s.notes.length}${s.swell ? "<" : ""}`).join(" ");
  test.each([
    ["d2 e2 f2 G/A/B/c/|d4 A4|", "D1 U1 D1 U4< D1 U1"],
    ["d2 e2 f2 d/c/B/A/|G4 A4|", "D1 U1 D1 U4< D1 U1"],
    // Leaps are no run, and neither is what turns round.
    ["d2 e2 f2 G/B/d/f/|d4 A4|", undefined],
    ["d2 e2 f2 G/A/G/A/|d4 A4|", undefined],
  ])("%s", (abc, want) => {
    if (want) expect(letters(bowed(abc, true))).toBe(want);
    else expect(letters(bowed(abc, true))).toBe(letters(bowed(abc, false)));
  });
  it("swell is written: a crescendo under one slur, from the up-bow to its last note", () => {
    const { from, plan } = bowed("d2 e2 f2 G/A/B/c/|d4 A4|", true);
    const staff = bowedStaff(melodyStaff(from), plan, from);
    const marks = staff.bars[0]!.map((e) => e.marks ?? []);
    expect(marks[3]).toEqual(["up-bow", "crescendo start"]);
    expect(marks[6]).toEqual(["crescendo end"]);
    expect(plan.strokes[3]!.reason).toContain("swells");
  });
  it("their prices are exact", () => {
    const { from, plan } = bowed("d2 e2 f2 G/A/B/c/|d4 A4|", true);
    for (const stroke of plan.strokes) {
      const [other] = stroke.alternatives;
      if (!other) continue;
      const locks = [
        { bar: stroke.place.index, at: stroke.at - stroke.place.at, ticks: stroke.ticks, direction: other.direction },
      ];
      const again = planBowing({
        places: from,
        style: "Down on the beat",
        bpm: 60,
        phraseStarts: new Set([0]),
        runs: true,
        locks,
      });
      expect(again.total - plan.total).toBeCloseTo(other.cost, 6);
    }
  });
});

describe("slurs of the file", () => {
  const kept = (abc: string) => writtenSlurs(places(tuneOf(abc, {})), []);
  it("are strokes of their length, free in their direction; over rests and over many notes they are phrasing", () => {
    const at = (l: { bar: number; at: number; ticks?: number | undefined }) => [
      l.bar,
      l.at / QUARTER,
      (l.ticks ?? 0) / QUARTER,
    ];
    expect(kept("(AB)c(de)f g2|").map(at)).toEqual([
      [0, 0, 1],
      [0, 1.5, 1],
    ]);
    expect(kept("A2B2 c2(de|fg)a2 b4|").map(at)).toEqual([[0, 3, 2]]);
    expect(kept("(ABcdef)g2|")).toEqual([]);
    expect(kept("(Az)c2 d4|")).toEqual([]);
  });
  test.each(BOWINGS.map((b) => b.name))("%s bows them as written and plans the rest around them", (style) => {
    const from = places(tuneOf("(AB)cd (ef)ga|b2(ag) f2e2|", {}));
    const locks = writtenSlurs(from, []);
    const plan = planBowing({ places: from, style, bpm: 110, phraseStarts: new Set([0]), locks });
    for (const lock of locks) {
      const stroke = plan.strokes.find((s) => s.place.index === lock.bar && s.at - s.place.at === lock.at);
      expect(stroke?.ticks).toBe(lock.ticks);
    }
    expect(plan.strokes.flatMap((s) => s.notes)).toHaveLength(from.reduce((n, p) => n + p.bar.events.length, 0));
  });
});
