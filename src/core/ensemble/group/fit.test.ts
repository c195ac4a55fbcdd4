import { describe, expect, it, test } from "vitest";
import { tuneOf } from "../../../testing/abc";
import type { PartNote, RoleName } from "../../grading";
import { derive, newWork } from "..";
import { type Fitted, fitOf, settled, toChange } from "./fit";
import { materialOf } from "./material";
import { remediesOf } from "./remedies";

// Two parts beside each other, worked out by hand. Bars of four quarters under the chord D.

const TUNE = tuneOf('"D"d4 f4|"D"a4 f4|"G"g4 b4|"D"a4 d4|]', { key: "D" });
const { analysis, plan } = derive(newWork(TUNE));
const material = materialOf(analysis, plan, 60 / (100 * 3360), null);
const QUARTER = 3360;
const BAR = 4 * QUARTER;

/** Notes of a part: bar, quarters into it, quarters long, pitches. */
type Short = readonly [bar: number, at: number, long: number, ...pitches: number[]];
const notes = (all: readonly Short[]): PartNote[] =>
  all.map(([bar, at, long, ...pitches]) => ({ bar, at: at * QUARTER, ticks: long * QUARTER, pitches }));
const part = (id: string, role: RoleName, all: readonly Short[], level = 2): Fitted => ({
  id,
  role,
  level,
  notes: notes(all),
});
const kinds = (...parts: Fitted[]) => fitOf(material, parts).map((m) => `${m.bar + 1} ${m.kind}${m.severe ? "!" : ""}`);

const [D4, E4, F4, FIS4, G4, A4, B4, CIS5, D5] = [62, 64, 65, 66, 67, 69, 71, 73, 74];

describe("what two parts do to each other", () => {
  it("a semitone on the beat that stays is severe", () => {
    expect(kinds(part("a", "drone", [[0, 0, 4, D4]]), part("b", "bass", [[0, 0, 4, CIS5 - 12]]))).toContain("1 clash!");
  });
  it("so is a major seventh, and a minor ninth", () => {
    expect(kinds(part("a", "drone", [[0, 0, 4, D4]]), part("b", "low harmony", [[0, 0, 4, CIS5]]))).toContain(
      "1 clash!",
    );
    expect(kinds(part("a", "drone", [[0, 0, 4, D4]]), part("b", "low harmony", [[0, 0, 4, D4 + 13]]))).toContain(
      "1 clash!",
    );
  });
  it("one that goes on by step is told, and is not severe", () => {
    const moving = part("b", "low harmony", [
      [0, 0, 1, CIS5],
      [0, 1, 3, D5],
    ]);
    expect(kinds(part("a", "drone", [[0, 0, 4, D4]]), moving)).toEqual(["1 clash"]);
  });
  it("one off the beat that is gone before the next passes unheard", () => {
    const passing = part("b", "low harmony", [[0, 0.5, 0.5, CIS5]]);
    expect(kinds(part("a", "drone", [[0, 0, 4, D4]]), passing)).toEqual([]);
  });
  it("notes of one chord never rub: the seventh of a chord belongs to it", () => {
    const seventh = derive(newWork(tuneOf('"Dmaj7"d8|d8|]', { key: "D" })));
    const own = materialOf(seventh.analysis, seventh.plan, material.tick, null);
    const two = [part("a", "drone", [[0, 0, 4, D4]]), part("b", "bass", [[0, 0, 4, CIS5]])];
    expect(fitOf(own, two).filter((m) => m.kind === "clash")).toEqual([]);
  });
  it("a second that is held for a beat is mild", () => {
    expect(kinds(part("a", "drone", [[0, 0, 4, D4]]), part("b", "one-note harmony", [[0, 0, 4, E4]]))).toEqual([
      "1 held second",
    ]);
  });
  it("two notes below C3, nearer than a fifth, blur", () => {
    expect(kinds(part("a", "bass", [[0, 0, 4, 38]]), part("b", "drone", [[0, 0, 4, 42]]))).toEqual(["1 mud"]);
    expect(kinds(part("a", "bass", [[0, 0, 4, 38]]), part("b", "drone", [[0, 0, 4, 50]]))).toEqual([]);
  });
  const eighths = (bar: number, pitches: readonly number[]): Short[] =>
    pitches.map((p, i): Short => [bar, i / 2, 0.5, p]);
  const RUN = [D4, FIS4, A4, FIS4, D4, FIS4, A4, FIS4];
  const OVER = RUN.map((p) => p + 5);
  it("a line over the tune that moves as much buries it", () => {
    const two = [part("tune", "melody", eighths(0, RUN)), part("over", "high harmony", eighths(0, OVER))];
    expect(fitOf(material, two).filter((m) => m.kind === "buried")).toMatchObject([{ a: "tune", b: "over", bar: 0 }]);
  });
  it("not while someone else carries the tune above it", () => {
    const three = [
      part("tune", "simple melody", eighths(0, RUN)),
      part("over", "high harmony", eighths(0, OVER)),
      part(
        "high",
        "melody",
        eighths(
          0,
          RUN.map((p) => p + 12),
        ),
      ),
    ];
    expect(fitOf(material, three).filter((m) => m.kind === "buried")).toEqual([]);
  });
  it("not where it plays low", () => {
    const over = part("over", "high harmony", eighths(0, OVER));
    const quiet = { ...over, notes: over.notes.map((n) => ({ ...n, quiet: true as const })) };
    const two = [part("tune", "melody", eighths(0, RUN)), quiet];
    expect(fitOf(material, two).filter((m) => m.kind === "buried")).toEqual([]);
  });
  it("two busy lines in the same few notes crowd each other", () => {
    const two = [part("a", "low harmony", eighths(0, RUN)), part("b", "counter-figure", eighths(0, RUN))];
    expect(kinds(...two)).toContain("1 crowding");
  });
  it("the worst comes first", () => {
    const parts = [
      part("a", "drone", [
        [0, 0, 4, D4],
        [1, 0, 4, D4],
      ]),
      part("b", "one-note harmony", [
        [0, 0, 4, E4],
        [1, 0, 4, CIS5],
      ]),
    ];
    expect(kinds(...parts)).toEqual(["2 clash!", "1 held second"]);
  });
});

describe("who makes room", () => {
  const line = (id: string, role: RoleName, level: number) => part(id, role, [[0, 0, 4, D4]], level);
  test.each([
    ["never the tune", line("tune", "melody", 4), line("other", "drone", 0), "other"],
    ["the stronger player", line("strong", "drone", 3), line("weak", "low harmony", 1), "strong"],
    ["of two as strong long notes before a line", line("line", "low harmony", 2), line("long", "drone", 2), "long"],
    ["chords before a bass", line("chords", "strum", 2), line("bass", "bass", 2), "chords"],
  ])("%s", (_, a, b, who) => {
    expect(toChange(a, b).id).toBe(who);
    expect(toChange(b, a).id).toBe(who);
  });
});

describe("parts that are settled", () => {
  const none = () => 0;
  it("of a double stop only the note that rubs goes", () => {
    const drone = part("drone", "drone", [[0, 0, 4, D4, A4]], 3);
    const { parts, changed } = settled(material, [drone, part("line", "low harmony", [[0, 0, 4, CIS5]], 1)], none);
    expect(parts[0]?.notes).toMatchObject([{ pitches: [A4], ticks: BAR }]);
    expect([...changed]).toEqual([["drone", [0]]]);
  });
  it("strings and fingers go with their note", () => {
    const [own] = notes([[0, 0, 4, D4, A4]]);
    const drone: Fitted = { ...part("drone", "drone", [], 3), notes: [{ ...own!, strings: [3, 2], fingers: [0, 0] }] };
    const { parts } = settled(material, [drone, part("line", "low harmony", [[0, 0, 4, CIS5]], 1)], none);
    expect(parts[0]?.notes).toMatchObject([{ pitches: [A4], strings: [2], fingers: [0] }]);
  });
  it("a note ends before the rub, where it is long enough by then; else it rests", () => {
    const drone = part("drone", "drone", [[0, 0, 4, D4]], 3);
    const late = part("line", "low harmony", [[0, 2, 2, CIS5]], 1);
    expect(settled(material, [drone, late], none).parts[0]?.notes).toMatchObject([{ ticks: 2 * QUARTER }]);
    expect(settled(material, [drone, late], () => 3 * QUARTER).parts[0]?.notes).toEqual([]);
  });
  it("a chord under a hand rests as a whole", () => {
    const chords = part("chords", "strum", [[0, 0, 4, D4, FIS4, A4]], 3);
    const { parts } = settled(material, [chords, part("line", "low harmony", [[0, 0, 4, F4]], 1)], none);
    expect(parts[0]?.notes).toEqual([]);
  });
  it("the tune never gives way, and what rubs with nothing stays as it was", () => {
    const tune = part("tune", "melody", [[0, 0, 4, D5]]);
    const rub = part("rub", "one-note harmony", [[0, 0, 4, CIS5]]);
    const still = part("still", "bass", [[0, 0, 4, 50]]);
    const { parts } = settled(material, [tune, rub, still], none);
    expect(parts.map((p) => p.notes.length)).toEqual([1, 0, 1]);
    expect(parts[0]).toBe(tune);
    expect(parts[2]).toBe(still);
  });
  it("what was resolved by a note that goes is looked at again", () => {
    // The C sharp resolves into D; that D rubs with E flat of another part and goes: then the C sharp is left hanging.
    const drone = part("drone", "drone", [[0, 0, 2, D4]], 1);
    const line = part("line", "low harmony", [
      [0, 0, 2, CIS5],
      [0, 2, 2, D5],
    ]);
    const other = part("other", "one-note harmony", [[0, 2, 2, 63]], 1);
    const { parts } = settled(material, [drone, line, other], none);
    expect(fitOf(material, parts).filter((m) => m.severe)).toEqual([]);
  });
});

describe("remedies", () => {
  const member = (id: string, role: RoleName, level: "Steady" | "Fluent") =>
    ({ id, role, learner: { name: id, level }, notes: notes([[0, 0, 4, G4]]) }) as never;
  const misfit = (kind: "clash" | "buried" | "mud") => ({ bar: 0, a: "a", b: "b", kind, severe: false, score: 3 });
  it("are those that help against what it is, for the one who makes room", () => {
    const parts = [member("a", "melody", "Fluent"), member("b", "low harmony", "Steady")];
    expect(remediesOf(parts, misfit("buried"))).toMatchObject({
      part: { id: "b" },
      changes: ["quieter", "octave lower", "rest"],
    });
    expect(remediesOf(parts, misfit("clash"))?.changes).toEqual(["another note", "rest", "octave lower"]);
  });
  it("a hand on a shape has no other note and no other octave", () => {
    const parts = [member("a", "melody", "Fluent"), member("b", "strum", "Steady")];
    expect(remediesOf(parts, misfit("clash"))?.changes).toEqual(["rest"]);
  });
  it("there are none between two who both have the tune, nor for who is no longer there", () => {
    const parts = [member("a", "melody", "Fluent"), member("b", "simple melody", "Steady")];
    expect(remediesOf(parts, misfit("clash"))).toBeUndefined();
    expect(remediesOf(parts.slice(0, 1), misfit("clash"))).toBeUndefined();
  });
  it("B over G is no rub at all", () => {
    expect(kinds(part("a", "drone", [[2, 0, 4, G4]]), part("b", "one-note harmony", [[2, 0, 4, B4]]))).toEqual([]);
  });
});
