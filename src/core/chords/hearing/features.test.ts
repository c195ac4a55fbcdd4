import { describe, expect, it } from "vitest";
import { beatsHeard } from "../../../testing/heard";
import { chord } from "../../theory";
import { candidate } from "../costs";
import { type Block, BLOCKS, OFFSETS, SIZE } from "./blocks";
import { gather, gatherMove, inTriad } from "./gather";
import { buildOf, LABELS, labelOf, ROLES, SPOTS, STARTS } from "./labels";
import tables from "./tables.json";

const total = (label: number, block: Block, list: ReturnType<typeof beatsHeard>, beat = 0) => {
  let sum = 0;
  gather(list[beat]!, label, (b, _, v) => {
    if (b === block) sum += v;
  });
  return sum;
};

describe("what the chord model hears", () => {
  it("shares of a half bar, by sound above the tonic and stress", () => {
    const [first, second] = beatsHeard("d2fa d4|d8|");
    expect([...first!.own].map((v, i) => [i, v]).filter(([, v]) => v)).toEqual([[0, 0.5]]);
    expect([first!.start, second!.start]).toEqual([STARTS.indexOf("bar"), STARTS.indexOf("beat")]);
    expect([...second!.own].map((v, i) => [Math.floor(i / 3), i % 3, v]).filter(([, , v]) => v)).toEqual([
      [4, 1, 0.25],
      [7, 2, 0.25],
    ]);
    expect([first!.lead, second!.lead]).toEqual([0, 4]);
  });
  it("an arpeggio spells its chord, a run does not", () => {
    const spelt = (music: string) => {
      let kind = -1;
      gather(beatsHeard(music)[0]!, labelOf(0, false), (block, index) => {
        if (block === "spelledBar") kind = Math.floor(index / 3) % 4;
      });
      return kind;
    };
    expect([spelt("d2f2 a2f2|"), spelt("e2g2 b2g2|"), spelt("d2e2 g2e2|")]).toEqual([3, 0, 1]);
  });
  it("foreign notes by what they do", () => {
    const list = beatsHeard("d2e2 f4|d8|", { metre: "2/2" });
    const outside = (label: number) => {
      const roles: string[] = [];
      gather(list[0]!, label, (block, index) => {
        if (block === "outside") roles.push(ROLES[Math.floor(index / 3)]!);
      });
      return roles;
    };
    expect(outside(labelOf(0, false))).toEqual(["passing"]);
    expect(total(labelOf(0, false), "note", list)).toBeCloseTo(1);
  });
  it("feels the phrase: opening, closes and the end", () => {
    const spots = beatsHeard(Array.from({ length: 16 }, () => "d8|").join(""), { metre: "2/2" }).map(
      (b) => SPOTS[b.spot],
    );
    expect([spots[0], spots[6], spots[7], spots[8], spots.at(-1)]).toEqual([
      "opening",
      "close",
      "last beat",
      "phrase start",
      "end",
    ]);
  });
  it("staying costs no move; going names progression, place and, at a close, cadence", () => {
    const list = beatsHeard("d8|e8|f8|d8|g8|a8|b8|d8|", { metre: "2/2" });
    const blocks = (i: number, a: number, b: number) => {
      const found: Block[] = [];
      gatherMove(list[i]!, a, b, (block) => found.push(block));
      return found;
    };
    expect(blocks(2, 0, 0)).toEqual([]);
    expect(blocks(2, 14, 0)).toEqual(["move", "change", "changeSpot"]);
    expect(blocks(7, 14, 0)).toContain("cadence");
    expect(blocks(8, 14, 0)).toContain("phraseChange");
  });
  it("builds, labels and triads are told apart", () => {
    expect(
      [
        { beats: 4, unit: 4 },
        { beats: 2, unit: 2 },
        { beats: 6, unit: 8 },
        { beats: 9, unit: 8 },
        { beats: 3, unit: 4 },
        { beats: 12, unit: 8 },
      ].map((m) => buildOf(m as never)),
    ).toEqual([1, 0, 0, 3, 2, 1]);
    expect([0, 3, 4, 7, 10].map((above) => [inTriad(0, above), inTriad(1, above)])).toEqual([
      [true, true],
      [false, true],
      [true, false],
      [true, true],
      [false, false],
    ]);
    const label = (symbol: string, mode: "major" | "dorian" = "major") =>
      candidate(chord(symbol), { tonic: "D", mode }, true).label;
    expect([label("D"), label("Em"), label("A7"), label("D5"), label("D5", "dorian"), label("C5", "dorian")]).toEqual([
      0, 5, 14, 0, 1, 20,
    ]);
  });
  it("has a weight for every place of every block, and says where they came from", () => {
    for (const block of Object.keys(BLOCKS) as Block[])
      expect((tables.tables as Record<Block, number[]>)[block]).toHaveLength(BLOCKS[block]);
    expect(OFFSETS.phraseChange + 1).toBe(SIZE);
    expect(LABELS).toBe(24);
    expect([tables.made, /\d percent of the time/.test(tables.agreement)]).toEqual(["npm run fit:chords -- DIR", true]);
  });
});
