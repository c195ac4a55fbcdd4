import { describe, expect, it, test } from "vitest";
import { tuneOf } from "../../testing/abc";
import { instrument } from "../instruments";
import { places } from "../score";
import { coachingOf, type Limits, type PartNote, type RoleName } from ".";

const REEL = places(tuneOf("d8|d8|d8|d8|", { key: "D" }));
const JIG = places(tuneOf("d6|d6|d6|d6|", { key: "D", metre: "6/8" }));
const BAR = 4 * 3360;
const LIMITS = {} as Limits;
type Told = { on: string; role: RoleName; notes: PartNote[]; drum?: boolean; in?: typeof REEL; tick?: number };
const say = ({ on, role, notes, drum = false, in: from = REEL, tick = 60 / (100 * 3360) }: Told) =>
  coachingOf({ on: instrument(on)!, role, notes, drum, places: from, limits: LIMITS, tick });
const whole = (bar: number, pitch: number, more: Partial<PartNote> = {}): PartNote => ({
  bar,
  at: 0,
  ticks: BAR,
  pitches: [pitch],
  ...more,
});
const every = (pitch: number, more: Partial<PartNote> = {}) => [0, 1, 2, 3].map((bar) => whole(bar, pitch, more));

describe("what is said to a player", () => {
  test.each<[string, Told, string]>([
    ["a long bow", { on: "fiddle", role: "one-note harmony", notes: every(69) }, "A long bow on the note of bar 1."],
    [
      "a low second finger",
      { on: "fiddle", role: "low harmony", notes: every(72, { strings: [2], fingers: [2] }) },
      "Low second finger in bar 1.",
    ],
    [
      "a finger that stays",
      { on: "fiddle", role: "low harmony", notes: [whole(0, 69), whole(1, 71, { strings: [2], fingers: [1] })] },
      "Keep the first finger down from bar 2.",
    ],
    [
      "a crossing",
      {
        on: "fiddle",
        role: "low harmony",
        tick: 1e-6,
        notes: [
          { bar: 2, at: 0, ticks: 3360, pitches: [62], strings: [3] },
          { bar: 2, at: 3360, ticks: 3360, pitches: [69], strings: [2] },
        ],
      },
      "Cross with the arm in bar 3.",
    ],
    ["a breath", { on: "whistle", role: "one-note harmony", notes: [whole(0, 81)] }, "Breathe in bar 2."],
    [
      "a low note",
      { on: "whistle", role: "one-note harmony", notes: every(74) },
      "Blow gently for the low note of bar 1.",
    ],
    ["a high note", { on: "whistle", role: "melody", notes: every(93) }, "Faster air for the high note of bar 1."],
    ["the beats of a jig", { on: "mandolin", role: "melody", notes: every(74), in: JIG }, "Down on one and four."],
    ["the beats of a reel", { on: "mandolin", role: "melody", notes: every(74) }, "Down on the beats."],
    [
      "a brush",
      { on: "guitar", role: "strum", notes: every(50, { pitches: [50, 57, 62], stroke: "brush" }) },
      "Damp each brush.",
    ],
    [
      "a change in a rest",
      { on: "guitar", role: "strum", notes: [whole(0, 50, { pitches: [50, 57, 62], stroke: "down" })] },
      "Change in the rest of bar 2. Missed it? Keep the beat.",
    ],
    [
      "a bass with a drum",
      { on: "bass", role: "bass", notes: every(38), drum: true },
      "Land with the drum on one, from bar 1.",
    ],
    ["a bass without one", { on: "bass", role: "bass", notes: every(38) }, "Land on one, from bar 1."],
    [
      "answers",
      { on: "viola", role: "counter-figure", notes: every(62) },
      "Hold while the tune moves, move while it holds.",
    ],
    ["a song", { on: "voice", role: "melody", notes: every(62) }, "Say the words before you sing them."],
  ])("%s", (_, told, words) => expect(say(told)).toContain(words));
  it("is never of a bow to a whistle, of breath to a fiddle, of a drum where there is none", () => {
    expect(say({ on: "whistle", role: "melody", notes: every(81) }).join()).not.toMatch(/bow|string/);
    expect(say({ on: "fiddle", role: "melody", notes: every(69) }).join()).not.toMatch(/[Bb]reath|[Bb]low/);
    expect(say({ on: "bass", role: "bass", notes: every(38) }).join()).not.toMatch(/drum/);
  });
  it("is little at once", () => {
    for (const on of ["fiddle", "whistle", "guitar", "accordion", "piano", "voice", "hand drum"])
      expect(say({ on, role: "one-note harmony", notes: every(74) }).length).toBeLessThanOrEqual(3);
  });
});
