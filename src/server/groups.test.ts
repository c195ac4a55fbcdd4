import { mkdtempSync, readFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { beforeEach, describe, expect, it } from "vitest";
import { chooseGroup, derive, eveningFor, notePlayed } from "../core/ensemble";
import { readRoster, writeRoster } from "../core/grading";
import { type Db, keepGroup, openDatabase } from "../db";
import { takeIn } from "./collection";
import { bringGroupIn, easierTunes, groupsOf, removeGroup, rolesBefore, saveGroup } from "./groups";
import { load, save } from "./states";

const TABLE = readFileSync("demo/group.csv", "utf8");
const { learners } = readRoster(TABLE);
const abc = (title: string, bar: string) =>
  `X:1\nT:${title}\nM:4/4\nL:1/8\nK:D\n|:${bar}|e2ge Bege|d2fd Adfa|gfed B2A2:|\n`;
let db: Db;
beforeEach(() => {
  db = openDatabase(join(mkdtempSync(join(tmpdir(), "groups-")), "test.db"));
});

describe("groups of learners", () => {
  it("are kept by name, changed in their place, and taken away", () => {
    saveGroup(db, { name: "Tuesday", learners }, null);
    expect(groupsOf(db)).toEqual([{ name: "Tuesday", learners }]);
    saveGroup(db, { name: "Wednesday", learners: learners.slice(0, 3) }, "Tuesday");
    expect(groupsOf(db).map((g) => [g.name, g.learners.length])).toEqual([["Wednesday", 3]]);
    expect(() => saveGroup(db, { name: "wednesday", learners }, null)).toThrow(/There is a group called Wednesday/);
    expect(removeGroup(db, "Wednesday")).toEqual([]);
  });
  it("come in from a table under a name of their own, bad rows told; from one without learners nothing is kept", () => {
    expect(bringGroupIn(db, "Tuesday", TABLE)).toMatchObject({ faults: [], groups: [{ name: "Tuesday" }] });
    expect(bringGroupIn(db, "Tuesday", TABLE).groups.map((g) => g.name)).toEqual(["Tuesday", "Tuesday 2"]);
    const bad = bringGroupIn(db, "Bad", "name,instrument,level\nAnn,kazoo,Steady\n");
    expect(bad.groups).toHaveLength(2);
    expect(bad.faults).toMatchObject([{ line: 2, column: "instrument" }]);
    expect(readRoster(writeRoster(groupsOf(db)[0]!.learners)).learners).toEqual(learners);
  });
  it("whose stored learners do not hold together keep the others", () => {
    keepGroup(db, "Odd", JSON.stringify([learners[0], { name: "half" }]), null);
    expect(groupsOf(db)[0]!.learners).toEqual([learners[0]]);
    keepGroup(db, "None", "{}", null);
    expect(groupsOf(db).map((g) => g.name)).toEqual(["Odd"]);
  });
  it("are offered easier tunes of the shelf, with what makes the difference", () => {
    const reel = takeIn(db, abc("Quick", "d2fd Adfd")).added[0]!.id;
    takeIn(db, "X:1\nT:Slow\nM:4/4\nL:1/4\nQ:1/4=60\nK:D\nD4|D4|A4|D4|\n");
    takeIn(db, abc("Quick too", "f2af dfaf"));
    const found = easierTunes(db, reel);
    expect(found.map((t) => t.title)).toEqual(["Slow"]);
    expect(found[0]!.difficulty).toBeLessThan(found[0]!.instead);
    expect(found[0]!.because).toHaveLength(2);
    expect(easierTunes(db, 999)).toEqual([]);
  });
  it("remember what was noted as played, the latest tune first, so that nobody has one role three tunes running", () => {
    const ids = ["One", "Two", "Three"].map(
      (title, i) => takeIn(db, abc(title, ["d2fd Adfd", "f2af dfaf", "a2fa dafa"][i]!)).added[0]!.id,
    );
    const play = (id: number) => {
      const { head, work } = load(db, id)!;
      const chosen = chooseGroup(work, { name: "Tuesday", learners }, rolesBefore(db, "Tuesday", id));
      const evening = eveningFor(chosen, derive(chosen))!;
      save(db, { id, head, step: "Played", work: notePlayed(chosen, evening), token: crypto.randomUUID() });
      return new Map(evening.parts.map((p) => [p.learner.name, p.role]));
    };
    expect(rolesBefore(db, "Tuesday", 0)).toEqual([]);
    const [first, second] = [play(ids[0]!), play(ids[1]!)];
    const before = new Map(rolesBefore(db, "Tuesday", ids[2]!).map((b) => [b.name, b.roles]));
    expect(before.get("Anka Reed")).toEqual([second.get("Anka Reed"), first.get("Anka Reed")]);
    const third = play(ids[2]!);
    const stuck = learners.filter(
      (l) => first.get(l.name) === second.get(l.name) && second.get(l.name) === third.get(l.name),
    );
    // Who can do nothing else keeps it: a drum drums.
    expect(stuck.length).toBeLessThan(learners.length / 2);
    expect(rolesBefore(db, "Other", 0)).toEqual([]);
  });
});
