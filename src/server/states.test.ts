import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { beforeEach, describe, expect, it } from "vitest";
import { lockChords, type Work } from "../core/ensemble";
import { type Db, openDatabase } from "../db";
import { takeIn } from "./collection";
import { keepAnew, load, save, settle, since, stateOf, travel, versions } from "./states";

const ABC = "X:1\nT:Tar and Twine\nM:2/4\nL:1/8\nK:G\n|:D|GB d>B|AG E>D|GB AF|G3:|\n";
const lock = { bar: 1, at: 0, ticks: 6720, symbol: "Em" };
const token = () => crypto.randomUUID();
let db: Db;
let id: number;
let start: { head: number; work: Work };
beforeEach(() => {
  db = openDatabase(join(mkdtempSync(join(tmpdir(), "states-")), "test.db"));
  id = takeIn(db, ABC).added[0]!.id;
  start = load(db, id)!;
});
const style = (name: string, head = start.head, own = token()) =>
  save(db, { id, head, step: `Style ${name}`, work: { ...start.work, style: name }, token: own });
const headOf = (kept: ReturnType<typeof save>) => (kept.kind === "kept" ? kept.head : 0);

describe("a change carries the head it was made from", () => {
  it("a save from an older head changes nothing and brings what is there", () => {
    style("Colour");
    const before = load(db, id)!;
    expect(style("Modal")).toEqual({ kind: "apart", theirs: before });
    expect(load(db, id)).toEqual(before);
    expect(versions(db, id)).toHaveLength(2);
  });
  it("so do undo, redo and what is brought back", () => {
    const first = headOf(style("Colour"));
    expect(travel(db, { id, head: start.head, way: "undo" })).toMatchObject({ kind: "apart", theirs: { head: first } });
    expect(travel(db, { id, head: first, way: "undo" })).toMatchObject({ kind: "there", loaded: { head: start.head } });
    expect(travel(db, { id, head: first, way: "redo" })).toMatchObject({ kind: "apart" });
    expect(travel(db, { id, head: start.head, way: "redo" })).toMatchObject({ kind: "there", loaded: { head: first } });
    expect(travel(db, { id, head: first, way: "redo" })).toMatchObject({ kind: "there", loaded: { head: first } });
  });
  it("a save that comes twice is kept once, also when the tune has gone on", () => {
    const own = token();
    const first = style("Colour", start.head, own);
    const second = style("Modal", headOf(first));
    expect([style("Colour", start.head, own), versions(db, id).length]).toEqual([first, 3]);
    expect(load(db, id)!.head).toBe(headOf(second));
  });
  it("a page asks whether the tune has gone on since", () => {
    expect(since(db, id, start.head)).toEqual({ kind: "same" });
    const head = headOf(style("Colour"));
    expect(since(db, id, start.head)).toMatchObject({ kind: "there", loaded: { head, work: { style: "Colour" } } });
    expect(since(db, 99, 1)).toEqual({ kind: "gone" });
  });
});

describe("a tune changed in two places", () => {
  const mine = () => lockChords(start.work, [lock]);
  const asked = (take: "mine" | "theirs" | "both", head: number) => ({
    id,
    head,
    token: token(),
    take,
    step: "Chord Em locked",
    mine: mine(),
    both: { ...mine(), style: "Colour" },
  });
  const names = () => versions(db, id).flatMap((v) => (v.name ? [v.name] : []));

  it("what is here is taken, and what was saved stays as a named version", () => {
    const head = headOf(style("Colour"));
    const found = settle(db, asked("mine", head));
    expect(found).toMatchObject({ kind: "there", loaded: { step: "Chord Em locked", work: { locks: [lock] } } });
    expect(names()).toEqual(["Not taken: Style Colour"]);
    expect(stateOf(db, id, head)!.style).toBe("Colour");
  });
  it("what was saved is taken, and what is here stays as a named version that undo and redo pass by", () => {
    const head = headOf(style("Colour"));
    expect(settle(db, asked("theirs", head))).toMatchObject({ kind: "there", loaded: { head } });
    expect(names()).toEqual(["Not taken: Chord Em locked"]);
    const aside = versions(db, id).find((v) => v.name)!;
    expect(stateOf(db, id, aside.id)).toEqual(mine());
    travel(db, { id, head, way: "undo" });
    expect(travel(db, { id, head: start.head, way: "redo" })).toMatchObject({ kind: "there", loaded: { head } });
  });
  it("both are taken", () => {
    const head = headOf(style("Colour"));
    const found = settle(db, asked("both", head));
    expect(found).toMatchObject({ kind: "there", loaded: { work: { style: "Colour", locks: [lock] } } });
  });
  it("and once more meanwhile: it is seen again", () => {
    const head = headOf(style("Colour"));
    const later = headOf(style("Modal", head));
    expect(settle(db, asked("mine", head))).toMatchObject({ kind: "apart", theirs: { head: later } });
  });
  it("and its tune gone: it can be kept as a new tune with all that was settled", () => {
    db.$client.prepare("DELETE FROM tunes").run();
    expect(style("Colour")).toEqual({ kind: "gone" });
    expect(load(db, keepAnew(db, "Chord Em locked", mine()))!.work).toEqual(mine());
  });
});

describe("a tune of many bars", () => {
  const giant = (bars: number): Work => {
    const strain = start.work.tune.strains[0]!;
    const many = Array.from({ length: bars }, () => strain.bars[1]!);
    return { ...start.work, tune: { ...start.work.tune, strains: [{ ...strain, bars: many }] } };
  };
  it("cannot be made, but one that is stored already can be worked on", () => {
    expect(() => save(db, { id, head: start.head, step: "Longer", work: giant(2001) })).toThrow(/2001 bars; 2000 are/);
    db.$client.prepare("UPDATE revisions SET work = ?").run(JSON.stringify(giant(2100)));
    const stored = load(db, id)!;
    const kept = save(db, { id, head: stored.head, step: "Shorter", work: giant(2050) });
    expect(kept.kind).toBe("kept");
  });
});
