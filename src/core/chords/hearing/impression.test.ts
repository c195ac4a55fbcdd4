import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { beatsHeard } from "../../../testing/heard";
import { CHANNELS, type Impression, INPUTS, STANDINGS } from "./impression";

const heard = (...tune: Parameters<typeof beatsHeard>) => beatsHeard(...tune).map((b) => b.heard);
/** What a channel holds at a beat: sounds above the tonic with their strengths. */
const channel = ({ index, value }: Impression, name: (typeof CHANNELS)[number]): Record<number, number> => {
  const row = CHANNELS.indexOf(name) * 12;
  return Object.fromEntries(
    [...index].flatMap((at, k) =>
      at >= row && at < row + 12 ? [[at - row, Math.round((value[k] as number) * 1000) / 1000]] : [],
    ),
  );
};
/** Which sound each of six moments of the beat before (0), this one (1) or the next (2) carries. */
const moments = ({ index }: Impression, around: number): (number | undefined)[] =>
  Array.from({ length: 6 }, (_, m) => {
    const row = (CHANNELS.length + around * 6 + m) * 12;
    const found = index.find((at) => at >= row && at < row + 12);
    return found === undefined ? undefined : found - row;
  });

describe("what the network takes in", () => {
  // D major, two beats to a bar of four eighths each: D F# | A F#, then a bar of held D.
  const [first, second, third] = heard("d2f2 a2f2|d4 c2B2|d8|d8|", { metre: "2/2" }) as [
    Impression,
    Impression,
    Impression,
  ];
  it.each([
    ["downbeat", first, { 0: 0.5 }],
    ["off the beat", first, { 4: 0.5 }],
    ["beat", second, { 7: 0.5 }],
    ["first moment", first, { 0: 1 }],
    ["last note", first, { 4: 1 }],
    ["lowest", second, { 4: 1 }],
    ["highest", second, { 7: 1 }],
    ["beat after", first, { 7: 0.5, 4: 0.5 }],
    ["beat before", second, { 0: 0.5, 4: 0.5 }],
    ["beat before", first, {}],
    ["two beats after", first, { 0: 1 }],
    ["next first moment", first, { 7: 1 }],
    ["last note before", second, { 4: 1 }],
    ["bar", first, { 0: 0.25, 4: 0.5, 7: 0.25 }],
    ["bar", second, { 0: 0.25, 4: 0.5, 7: 0.25 }],
    ["half bar", second, { 4: 0.5, 7: 0.5 }],
    ["bar after", second, { 0: 0.5, 9: 0.25, 11: 0.25 }],
    ["bar before", third, { 0: 0.25, 4: 0.5, 7: 0.25 }],
    ["next downbeat", second, { 0: 1 }],
    ["long", third, { 0: 1 }],
    ["leapt both ways", second, { 4: 0.5, 7: 0.5 }],
    ["strain's last note", first, { 0: 1 }],
  ] as const)("%s", (name, impression, holds) => {
    expect(channel(impression, name)).toEqual(holds);
  });
  it("six moments of a beat and of both its neighbours", () => {
    expect(moments(second, 0)).toEqual([0, 0, 0, 4, 4, 4]);
    expect(moments(second, 1)).toEqual([7, 7, 7, 4, 4, 4]);
    expect(moments(second, 2)).toEqual([0, 0, 0, 0, 0, 0]);
    expect(moments(first, 0)).toEqual(Array(6).fill(undefined));
    // A jig's three eighths take two moments each; a dotted pair gives its short note the last.
    expect(moments(heard("dfa dfa|d6|", { metre: "6/8" })[0] as Impression, 1)).toEqual([0, 0, 4, 4, 7, 7]);
  });
  it("a rest carries no sound, and a note held in is known as such", () => {
    expect(moments(heard("z4 d4|d8|", { metre: "2/2" })[0] as Impression, 1)).toEqual(Array(6).fill(undefined));
    const [, held] = heard("d6 e2|d8|", { metre: "2/2" });
    expect(channel(held as Impression, "held in")).toEqual({ 0: 0.5 });
    expect(channel(held as Impression, "first moment")).toEqual({ 0: 1 });
  });
  it("hears no key, only a tonic: a tune moved to another key is the same to it", () => {
    const plain = ({ index, value, standings }: Impression) => [
      [...index],
      [...value].map((v) => v.toFixed(6)),
      standings,
    ];
    const inD = heard("d2fa e2gb|f2ed d4|", { key: "D", metre: "4/4" }).map(plain);
    expect(heard("g2bd' a2c'e'|b2ag g4|", { key: "G", metre: "4/4" }).map(plain)).toEqual(inD);
  });
  it("tells the gait of a tune: a dotted one stands elsewhere than an even one", () => {
    const gait = (music: string) => heard(music, { metre: "4/4" })[0]?.standings.slice(-3);
    expect(gait("d>fa>f d>fa>f|d>fa>f d4|")?.[2]).not.toEqual(gait("dfaf dfaf|dfaf d4|")?.[2]);
  });
  it("every input and standing has a place, whatever the tune", () => {
    const note = fc.constantFrom("d2", "e", "f", "^g2", "a4", "z2", "b", "c'3");
    fc.assert(
      fc.property(
        fc.array(note, { minLength: 1, maxLength: 24 }),
        fc.constantFrom("6/8", "9/8", "3/4", "4/4", "5/4", "2/2"),
        (notes, metre) => {
          for (const { index, value, standings } of heard(`d2 ${notes.join(" ")}|`, { metre })) {
            expect(index.every((at) => at >= 0 && at < INPUTS)).toBe(true);
            expect(value.every((v) => v > 0 && Number.isFinite(v))).toBe(true);
            expect([standings.length, new Set(standings).size, Math.max(...standings) < STANDINGS]).toEqual([
              9,
              9,
              true,
            ]);
          }
        },
      ),
      { numRuns: 60 },
    );
  });
});
