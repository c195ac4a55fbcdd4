import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { tuneOf } from "../../../testing/abc";
import { arbitraryTune } from "../../../testing/arbitraryTune";
import { analyse } from "../../analysis";
import { PLAYED_ROLES, ROLE_RULES, type RoleName } from "../../grading";
import { LEVELS } from "../../instruments";
import { perform } from "../../performance";
import { barTicks, melodyStaff, type Performance, type Tune } from "../../score";
import { laidOut } from "./columns";
import { arranged, type RoadmapChoice, roadmapOf, secondsOf, type Voice } from ".";

const EIGHTH = 1680;
const voice = (role: RoleName, more: Partial<Voice> = {}): Voice => ({
  id: role.replace(" ", "-"),
  name: `who plays ${role}`,
  role,
  level: "Moving",
  plucked: role === "strum",
  alone: true,
  ...more,
});
const BAND = (
  ["melody", "bass", "strum", "hand drum", "drone", "shuffle drone", "low harmony", "high harmony"] as const
).map((role) => voice(role));
const ids = (...roles: RoleName[]) => roles.map((r) => r.replace(" ", "-"));

const JIG = tuneOf("A|:dcB ABc|dAF D2A:|:fed efg|faf d2A:|", { key: "D", metre: "6/8" });
const labelled = (tune: Tune) => {
  const { places, form } = analyse(tune);
  return { places, label: (bar: number) => form.phrases.find((p) => p.to >= bar)?.label ?? "" };
};
function planned(tune: Tune, choice: RoadmapChoice = {}, voices: readonly Voice[] = BAND) {
  const { places, label } = labelled(tune);
  return { places, ...roadmapOf(places, label, voices, choice) };
}
const column = (tune: Tune, choice: RoadmapChoice, order: number, voices = BAND) =>
  planned(tune, choice, voices).columns[order]!;

describe("who plays when", () => {
  it("a dance keeps its pulse and grows: long notes in B, low harmony the second time, the high line the third", () => {
    const { columns } = planned(JIG);
    expect(columns.map((c) => `${c.strain}${c.turn}.${c.pass}`).slice(0, 5)).toEqual([
      "A1.1",
      "A2.1",
      "B1.1",
      "B2.1",
      "A1.2",
    ]);
    const pulse = ids("melody", "bass", "strum", "hand drum");
    expect(columns[0]?.plays).toEqual(pulse);
    expect(columns[1]?.plays).toEqual(pulse);
    expect(columns[2]?.plays).toEqual([...pulse, ...ids("drone")]);
    expect(columns[4]?.plays).toEqual([...pulse, ...ids("drone", "shuffle drone", "low harmony")]);
    expect(columns[8]?.plays).toHaveLength(BAND.length);
  });
  it("for listeners the tune begins alone, then a drone, the bass under B; B once plucked; all at last", () => {
    const at = (order: number) => column(JIG, { manner: "concert" }, order).plays;
    expect(at(0)).toEqual(ids("melody"));
    expect(at(1)).toEqual(ids("melody", "drone", "shuffle drone"));
    expect(at(2)).toEqual(ids("melody", "bass", "drone", "shuffle drone"));
    expect(at(4)).toContain("low-harmony");
    expect(at(6)).toEqual(ids("melody", "strum"));
    expect(at(8)).not.toContain("bass");
    expect(at(8)).not.toContain("hand-drum");
    expect(at(9)).toHaveLength(BAND.length);
  });
  it("once through everybody plays", () => {
    expect(column(JIG, { times: 1 }, 0).plays).toHaveLength(BAND.length);
  });
  it("who may not play alone is not left alone", () => {
    const shy = [voice("melody", { alone: false }), voice("bass"), voice("strum")];
    expect(column(JIG, { manner: "concert" }, 0, shy).plays).toEqual(ids("melody", "bass", "strum"));
  });
  it("what is settled for a part holds, and for a name before that", () => {
    const where = { strain: "B", pass: 1, turn: 2 };
    const set: RoadmapChoice["set"] = [
      { who: "strum", ...where, way: "rests" },
      { who: "drone", ...where, way: "louder" },
      { who: "who plays strum", ...where, way: "plays" },
    ];
    expect(column(JIG, { set }, 3)).toMatchObject({ louder: ["drone"] });
    expect(column(JIG, { set }, 3).plays).toContain("strum");
    expect(column(JIG, { set: set.slice(0, 2) }, 3).plays).not.toContain("strum");
    expect(column(JIG, { set }, 2).louder).toEqual([]);
  });
  it("carries the tune in every column, and lets no beginner sit out more than sixteen bars", () => {
    const voices = fc.array(
      fc.record({
        role: fc.constantFrom(...PLAYED_ROLES),
        level: fc.constantFrom(...LEVELS),
        plucked: fc.boolean(),
        alone: fc.boolean(),
      }),
      { minLength: 1, maxLength: 12 },
    );
    const choice = fc.record({
      manner: fc.constantFrom("dance" as const, "concert" as const),
      times: fc.integer({ min: 1, max: 6 }),
    });
    fc.assert(
      fc.property(arbitraryTune({ maxBars: 12 }), voices, choice, (tune, all, said) => {
        const own = all.map((v, i): Voice => ({ ...v, id: `p${i}`, name: `P ${i}` }));
        const { columns, places, stretches } = planned(tune, said, own);
        const carriers = own.filter((v) => ROLE_RULES[v.role].group === "tune").map((v) => v.id);
        for (const c of columns) {
          if (carriers.length > 0) expect(carriers.some((id) => c.plays.includes(id))).toBe(true);
          const [only] = own.filter((v) => c.plays.includes(v.id));
          if (c.plays.length === 1 && own.length > 1) expect(only?.alone).toBe(true);
        }
        const body = stretches.filter((s) => s.kind === "strain");
        for (const beginner of own.filter((v) => v.level === "First sounds")) {
          let rested = 0;
          body.forEach((s, i) => {
            const ticks = laidOut(places, [s]).ticks;
            const bars = Math.round(ticks / (barTicks(tune.metre) || ticks));
            rested = columns[i]?.plays.includes(beginner.id) ? 0 : rested + bars;
            expect(rested).toBeLessThanOrEqual(17);
          });
        }
      }),
      { numRuns: 150 },
    );
  });
});

/** The tune once through, a line for each of the band, all with its notes. */
function once(tune: Tune): { performance: Performance; places: ReturnType<typeof analyse>["places"] } {
  const { places } = analyse(tune);
  const staves = BAND.map((v) => ({ ...melodyStaff(places), id: v.id, name: v.name }));
  const sheet = { title: "", subtitle: "", composer: "", places, staves, chords: [], tempo: { beat: 5040, bpm: 100 } };
  return { places, performance: perform(tune, sheet, { straight: true, chords: false }) };
}
const CLOSE = BAND.map((v) => ({ line: v.id, pitches: [62], velocity: 90 }));
const heard = { accompany: new Set(ids("bass", "strum", "hand drum")), close: CLOSE };

describe("the whole as it is heard", () => {
  const { performance, places } = once(JIG);
  const sounded = (choice: RoadmapChoice) => arranged(performance, places, planned(JIG, choice), heard);
  const BAR = 6 * EIGHTH;

  it("begins with the accompaniment's last bars, leaves room for the pickup, and ends on a chord", () => {
    const whole = sounded({ times: 1, introduction: 2 });
    // Two bars of introduction but for the pickup; pickup and eight bars but for the pickup; the chord.
    expect(whole.ticks).toBe(2 * BAR - EIGHTH + EIGHTH + 8 * BAR - EIGHTH + EIGHTH + BAR);
    const before = whole.notes.filter((n) => n.at < 2 * BAR - EIGHTH);
    expect(new Set(before.map((n) => n.line))).toEqual(heard.accompany);
    const tune = whole.notes.filter((n) => n.line === "melody");
    expect(tune[0]).toMatchObject({ at: 2 * BAR - EIGHTH, noteNumber: 69 });
    const chord = whole.notes.filter((n) => n.at >= whole.ticks - BAR);
    expect(chord.map((n) => [n.at, n.ticks, n.noteNumber])).toEqual(BAND.map(() => [whole.ticks - BAR, 5040, 62]));
  });
  it("a part sounds in its columns alone, and louder where it is to come out", () => {
    const set = [{ who: "bass", strain: "A", pass: 1, turn: 1, way: "louder" as const }];
    const whole = sounded({ times: 2, introduction: 0, ending: "last note", set });
    const [bass] = whole.notes.filter((n) => n.line === "bass");
    const [tune] = whole.notes.filter((n) => n.line === "melody");
    expect(bass?.velocity).toBe(Math.round((tune?.velocity ?? 0) * 1.3));
    // With two times through the second is the last: everybody.
    const first = whole.notes.find((n) => n.line === "high-harmony");
    expect(first?.at).toBe(8 * BAR);
  });
  it("a vamp goes round in two bars, a tag plays the last bars again", () => {
    const plain = sounded({ times: 1, introduction: 2, ending: "last note" });
    const more = sounded({ times: 1, introduction: 2, vamp: 3, tag: 2, ending: "last note" });
    expect(more.ticks - plain.ticks).toBe(3 * 2 * BAR + 2 * BAR);
    const pitches = (of: Performance) => of.notes.filter((n) => n.line === "melody").map((n) => n.noteNumber);
    // F A F D A, as at the end of the tune: the tag is both last bars, eleven notes.
    const last = pitches(plain).slice(-11);
    expect(last.slice(-4)).toEqual([81, 78, 74, 69]);
    expect(pitches(more).slice(-11)).toEqual(last);
    expect(pitches(more)).toHaveLength(pitches(plain).length + 11);
  });
  it("a slow ending slows its last two bars and closes open", () => {
    const whole = sounded({ times: 1, introduction: 0, tag: 0, ending: "slow, open chord" });
    const bpm = whole.tempos[0]?.bpm ?? 0;
    expect(whole.tempos.map((t) => Math.round((100 * t.bpm) / bpm))).toEqual([100, 85, 70]);
    const tick = 60 / (bpm * 5040);
    const seconds = secondsOf(
      places,
      planned(JIG, { times: 1, introduction: 0, tag: 0, ending: "slow, open chord" }),
      tick,
    );
    const own = whole.tempos.reduce((sum, t, i) => {
      const until = whole.tempos[i + 1]?.at ?? whole.ticks;
      return sum + ((until - t.at) / 5040) * (60 / t.bpm);
    }, 0);
    expect(seconds).toBeCloseTo(own, 0);
  });
  it("bars follow each other without a gap, and no note sounds past the end, over any tune and roadmap", () => {
    const choice = fc.record({
      manner: fc.constantFrom("dance" as const, "concert" as const),
      times: fc.integer({ min: 1, max: 3 }),
      introduction: fc.integer({ min: 0, max: 8 }),
      vamp: fc.integer({ min: 0, max: 3 }),
      tag: fc.integer({ min: 0, max: 4 }),
      ending: fc.constantFrom("last note" as const, "last note and a chord" as const, "slow, open chord" as const),
    });
    fc.assert(
      fc.property(arbitraryTune({ maxBars: 8 }), choice, (tune, said) => {
        const own = once(tune);
        const roadmap = planned(tune, said);
        const whole = arranged(own.performance, own.places, roadmap, heard);
        whole.bars.forEach((bar, i) => {
          const next = whole.bars[i + 1]?.at ?? whole.ticks;
          expect(bar.at + bar.ticks).toBe(next);
        });
        for (const note of whole.notes) expect(note.at + note.ticks).toBeLessThanOrEqual(whole.ticks);
        for (const facts of [whole.metres, whole.keys, whole.tempos]) {
          expect(facts[0]?.at).toBe(0);
          const ats = facts.map((f) => f.at);
          expect(ats).toEqual([...ats].sort((a, b) => a - b));
        }
      }),
      { numRuns: 100 },
    );
  });
});
