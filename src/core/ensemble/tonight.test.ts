import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { tuneOf } from "../../testing/abc";
import { readRoster } from "../grading";
import { sheetMusicXml } from "../formats";
import {
  arrangedTonight,
  chooseGroup,
  derive,
  eveningFor,
  GROUP,
  groupPartId,
  groupSheet,
  makeRoom,
  newWork,
  performedTonight,
  planRoadmap,
  readWork,
  setThere,
  setTonightsTempo,
  settleRole,
  settleWay,
  shapeWhole,
  sheetOf,
  withoutPart,
  writeBar,
} from ".";

const { learners } = readRoster(readFileSync("demo/group.csv", "utf8"));
const tune = tuneOf("|:d2fd Adfd|e2ge Bege|d2fd Adfa|gfed B2A2:|", { key: "D" });
const work = chooseGroup(newWork(tune), { name: "Tuesday", learners });
const derived = derive(work);
const partOf = (w: typeof work, name: string) => eveningFor(w, derived)?.parts.find((p) => p.learner.name === name);

describe("tonight, for the group of a work", () => {
  it("there are no parts until a group is chosen, and one for each of fourteen then", () => {
    expect(eveningFor(newWork(tune), derived)).toBeUndefined();
    const evening = eveningFor(work, derived)!;
    expect(evening.parts).toHaveLength(14);
    expect(evening.unmet).toEqual([]);
    expect(readWork(JSON.parse(JSON.stringify(work)))).toEqual(work);
    expect(chooseGroup(work, null).evening).toBeUndefined();
  });
  it("a role that is settled holds, and is said to be; left to the plan it goes by the plan again", () => {
    const drone = settleRole(work, "Ebba Shore", "drone");
    expect(partOf(drone, "Ebba Shore")).toMatchObject({ role: "drone", reason: "You set this: drone." });
    expect(settleRole(drone, "Ebba Shore", null).evening?.roles).toEqual([]);
  });
  it("who is not there has no part, and the others are planned without them", () => {
    const without = setThere(setThere(work, "Anka Reed", false), "Nia Fenn", false);
    expect(partOf(without, "Anka Reed")).toBeUndefined();
    expect(eveningFor(without, derived)!.parts).toHaveLength(12);
    expect(setThere(setThere(without, "Anka Reed", true), "Nia Fenn", true).evening?.absent).toEqual([]);
  });
  it("the same group comes back with what was settled in it, without who has left", () => {
    const settled = setThere(settleRole(work, "Finn Gale", "bass"), "Mo Brine", false);
    const fewer = chooseGroup(settled, { name: "Tuesday", learners: learners.filter((l) => l.name !== "Mo Brine") });
    expect(fewer.evening).toMatchObject({ roles: [{ name: "Finn Gale", role: "bass" }], absent: [] });
    expect(chooseGroup(settled, { name: "Other", learners }).evening?.roles).toEqual([]);
  });
  it("quicker thins parts and leaves nobody out", () => {
    const count = (bpm: number) => eveningFor(setTonightsTempo(work, bpm), derived)!.parts.map((p) => p.notes.length);
    const [slow, quick] = [count(60), count(240)];
    expect(quick).toHaveLength(slow.length);
    expect(quick.reduce((a, b) => a + b, 0)).toBeLessThan(slow.reduce((a, b) => a + b, 0));
  });
  it("somebody makes room in a bar: rests there, or plays it an octave away, and only there", () => {
    const before = partOf(work, "Finn Gale")!;
    const bar = before.notes[0]!.bar;
    const rests = partOf(makeRoom(work, "Finn Gale", bar, "rest"), "Finn Gale")!;
    expect(rests.notes.some((n) => n.bar === bar)).toBe(false);
    const others = ({ notes }: typeof before) =>
      notes.filter((n) => n.bar !== bar).map(({ at, ticks, pitches }) => ({ at, ticks, pitches }));
    expect(others(rests)).toEqual(others(before));
    const back = makeRoom(makeRoom(work, "Finn Gale", bar, "rest"), "Finn Gale", bar, null);
    expect(back.evening?.changes).toEqual([]);
    const lower = partOf(makeRoom(work, "Finn Gale", bar, "octave lower"), "Finn Gale")!;
    const pitches = (p: typeof before) => p.notes.filter((n) => n.bar === bar).map((n) => n.pitches[0]);
    const own = pitches(before);
    // What would be too far from its neighbours is left out.
    for (const p of pitches(lower)) expect(own.includes(p) || own.includes((p ?? 0) + 12)).toBe(true);
  });
  it("a bar that is written by hand stands, and what it breaks is named; the others keep their limits", () => {
    const { notes } = partOf(work, "Dov Pike")!;
    const bar = notes[0]!.bar;
    const { ticks } = derived.analysis.places[bar]!;
    const own = [
      { at: 0, ticks: ticks / 2, pitches: [79] },
      { at: ticks / 2, ticks: ticks / 2, pitches: [62] },
    ];
    const written = writeBar(work, "Dov Pike", bar, own);
    const part = partOf(written, "Dov Pike")!;
    expect(part.notes.filter((n) => n.bar === bar).map((n) => n.pitches)).toEqual([[79], [62]]);
    expect(part.broken.map((b) => b.bar)).toContain(bar);
    expect(part.broken.map((b) => b.words)).toContain("A note this level does not have.");
    expect(readWork(JSON.parse(JSON.stringify(written))).evening?.edits).toHaveLength(1);
    expect(partOf(writeBar(written, "Dov Pike", bar, null), "Dov Pike")!.notes).toEqual(notes);
    expect(partOf(work, "Dov Pike")!.broken).toEqual([]);
  });
  it("stands as a sheet of everyone or of one, is written and sounds", () => {
    const evening = eveningFor(work, derived);
    const bare = { ...sheetOf(work, derived), staves: [] };
    const all = groupSheet(evening, derived, bare, GROUP);
    expect(all.staves).toHaveLength(14);
    for (const { bars } of all.staves) expect(bars).toHaveLength(derived.analysis.places.length);
    const one = groupSheet(evening, derived, bare, groupPartId("dov-pike"));
    expect(one.staves.map((s) => s.name)).toEqual(["Dov Pike"]);
    expect(sheetMusicXml(one)).toContain("Dov Pike");
    const heard = performedTonight(work, derived, evening!, sheetOf(work, derived), GROUP);
    expect(new Set(heard.notes.map((n) => n.line)).size).toBe(14);
    expect(groupSheet(evening, derived, bare, "group-nobody").staves).toEqual([]);
    const others = withoutPart(evening!, groupPartId("dov-pike"));
    const along = performedTonight(work, derived, others, sheetOf(work, derived), GROUP);
    const missing = heard.notes.filter((n) => n.line === groupPartId("dov-pike"));
    expect(missing.length).toBeGreaterThan(0);
    expect(along.notes).toEqual(heard.notes.filter((n) => !missing.includes(n)));
  });
});

describe("the whole of tonight, as the roadmap has it", () => {
  const sheet = sheetOf(work, derived);
  const whole = (w: typeof work, options = {}) => arrangedTonight(w, derived, eveningFor(w, derived)!, sheet, options);
  const line = (name: string) => groupPartId(partOf(work, name)!.id);
  /** Anka has the tune, Mo the drum. */
  const BAR = 13440;

  it("the drum begins, the tune comes in after four bars, and everyone who plays at last has the chord", () => {
    const { notes, ticks, bars } = whole(work);
    const first = (id: string) => Math.min(...notes.filter((n) => n.line === id).map((n) => n.at));
    expect(first(line("Mo Brine"))).toBeLessThan(BAR);
    expect(first(line("Anka Reed"))).toBe(4 * BAR);
    // Four bars twice, three times through, the introduction and the chord.
    expect(bars).toHaveLength(4 + 3 * 8 + 1);
    expect(ticks).toBe(bars.length * BAR);
    const chord = notes.filter((n) => n.at === ticks - BAR);
    expect(new Set(chord.map((n) => n.line)).size).toBeGreaterThan(10);
    expect(new Set(chord.filter((n) => n.line !== line("Mo Brine")).map((n) => n.noteNumber % 12))).toEqual(
      new Set([2, 6, 9]),
    );
  });
  it("who plays along does not hear their own part, before the tune or in it", () => {
    const id = line("Mo Brine");
    const { notes } = whole(work, { without: id });
    expect(notes.some((n) => n.line === id)).toBe(false);
    expect(notes.length).toBeGreaterThan(100);
  });
  it("someone rests, comes out, or is left to the plan again; the shape is another", () => {
    const { columns } = eveningFor(work, derived)!.roadmap;
    const rests = settleWay(work, "melody", columns[0]!, "rests");
    expect(eveningFor(rests, derived)!.roadmap.columns[0]?.plays).not.toContain(partOf(work, "Anka Reed")!.id);
    const out = settleWay(rests, "melody", columns[0]!, "louder");
    expect(eveningFor(out, derived)!.roadmap.columns[0]?.louder).toContain(partOf(work, "Anka Reed")!.id);
    expect(out.evening?.roadmap?.set).toHaveLength(1);
    expect(settleWay(out, "melody", columns[0]!, null).evening?.roadmap?.set).toEqual([]);
    const once = shapeWhole(work, { times: 1, introduction: 0, ending: "last note", next: 7 });
    expect(whole(once).bars).toHaveLength(8);
    expect(readWork(JSON.parse(JSON.stringify(once)))).toEqual(once);
    expect(shapeWhole(once, { next: undefined }).evening?.roadmap).not.toHaveProperty("next");
    expect(planRoadmap(once).evening?.roadmap).toBeUndefined();
    expect(chooseGroup(once, { name: "Tuesday", learners }).evening?.roadmap).toEqual(once.evening?.roadmap);
  });
});
