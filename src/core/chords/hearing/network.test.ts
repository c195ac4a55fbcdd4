import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { beatsHeard } from "../../../testing/heard";
import { NETWORK_SIZES, type Network, firstLayer, grained, SECOND, FIRST, ROW, verdict } from "./network";
import fitted from "./network.json";
import { CHANNELS, type Impression } from "./impression";
import { labelOf } from "./labels";

const heard = (...tune: Parameters<typeof beatsHeard>) => beatsHeard(...tune).map((b) => b.heard);
/** Points of all 24 labels. */
const verdicts = (impression: Impression, network?: Network) =>
  Array.from({ length: 12 }, (_, root) => verdict(impression, root, network)).flat();

describe("what the network says", () => {
  const silent = (): Network =>
    Object.fromEntries(Object.entries(NETWORK_SIZES).map(([name, size]) => [name, new Float64Array(size)])) as Network;
  const row = (input: number, above: number) => (input * 12 + above) * ROW;
  // A beat that holds the fourth above the tonic for half its time; nothing else is known of it.
  const beat: Impression = { index: Int32Array.from([5]), value: Float64Array.from([0.5]), standings: [0], table: 0 };
  it("a straight point goes to the chord that has the note at that interval", () => {
    const network = silent();
    network.inputs[row(0, 7) + FIRST] = 2;
    const points = verdicts(beat, network);
    expect(points.flatMap((p, label) => (p ? [[label, p]] : []))).toEqual([[labelOf(10, false), 1]]);
  });
  it("units pass on what is above zero, and nothing below", () => {
    const network = silent();
    network.inputs[row(0, 0)] = 4;
    network.root[(0 * 12 + 5) * FIRST] = 1;
    network.standing[0] = -0.5;
    network.second[0] = 3;
    network.second[FIRST * SECOND] = -1;
    network.output[1] = 10;
    // The root a fourth up: 4 x 0.5 + 1 - 0.5 = 2.5; then 3 x 2.5 - 1 = 6.5; minor gets 65. Elsewhere the unit
    // stays below zero and the next too.
    expect(verdicts(beat, network).flatMap((p, label) => (p ? [[label, p]] : []))).toEqual([[labelOf(5, true), 65]]);
    network.second[0] = -3;
    expect(verdicts(beat, network).every((p) => p === 0)).toBe(true);
  });
  it("sums are the same whichever root one counts from, if sounds and root move together", () => {
    const network = silent();
    network.inputs.forEach((_, i) => {
      network.inputs[i] = Math.sin(i);
    });
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(CHANNELS.length - 1), fc.nat(11), fc.double({ min: 0.1, max: 1, noNaN: true })), {
          minLength: 1,
          maxLength: 9,
        }),
        fc.nat(11),
        fc.nat(11),
        (notes, root, up) => {
          const made = (by: number): Impression => ({
            index: Int32Array.from(notes, ([c, s]) => c * 12 + ((s + by) % 12)),
            value: Float64Array.from(notes, ([, , v]) => v),
            standings: [],
            table: 0,
          });
          const [a, b] = [new Float64Array(ROW), new Float64Array(ROW)];
          firstLayer(network, made(0), root, a);
          firstLayer(network, made(up), (root + up) % 12, b);
          a.forEach((sum, h) => {
            expect(b[h]).toBeCloseTo(sum, 9);
          });
        },
      ),
    );
  });
  it("its file has every weight, in whole thousandths, and says where they came from", () => {
    for (const [name, size] of Object.entries(NETWORK_SIZES))
      expect((fitted.parts as Record<string, number[]>)[name], name).toHaveLength(size);
    expect(Object.values(fitted.parts).flat().every(Number.isInteger)).toBe(true);
    expect([fitted.made, /\d percent of the time/.test(fitted.agreement)]).toEqual(["npm run fit:chords -- DIR", true]);
    const network = silent();
    network.second[3] = -1.2346;
    expect(grained(network).second[3]).toBe(-1235);
  });
  it("spells a plain arpeggio, from a root the annotated tunes never use as well", () => {
    const points = verdicts(heard("d2f2 a2f2|d8|d2f2 a2d2|d8|", { metre: "2/2" })[0] as Impression);
    expect(points.indexOf(Math.max(...points))).toBe(labelOf(0, false));
    // F A C in E phrygian: the chord a semitone above the tonic, against the chords that hold two of its notes.
    const lowered = verdicts(heard("F2A2 c2A2|E8|F2A2 c2F2|E8|", { key: "Ephr", metre: "2/2" })[0] as Impression);
    for (const other of [labelOf(10, true), labelOf(5, true), labelOf(0, true)])
      expect(lowered[labelOf(1, false)]).toBeGreaterThan(lowered[other] as number);
  });
});
