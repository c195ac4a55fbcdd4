import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { beforeEach, describe, expect, it } from "vitest";
import { lockChord } from "../core/ensemble";
import { collection, load, save, takeIn, travel } from "../server/collection";
import { seedDemo } from "../server/demo";
import { download } from "../server/files";
import { countTunes, type Db, findRevision, openDatabase } from ".";

let file: string;
let db: Db;
beforeEach(() => {
  file = join(mkdtempSync(join(tmpdir(), "symphonos-")), "deep", "test.db");
  db = openDatabase(file);
});

const ABC = "X:1\nT:Tar and Twine\nM:2/4\nL:1/8\nK:G\n|:D|GB d>B|AG E>D|GB AF|G3:|\n";
const lock = { bar: 1, at: 0, ticks: 6720, symbol: "Em" };

describe("the collection on a real file", () => {
  it("survives a restart", () => {
    takeIn(db, ABC);
    db.$client.close();
    const again = openDatabase(file);
    expect(collection(again).map((t) => [t.title, t.sentence, t.weave.length])).toEqual([["Tar and Twine", expect.stringContaining("polka in G major"), 5]]);
    expect(again.$client.pragma("foreign_keys", { simple: true })).toBe(1);
    expect(again.$client.pragma("journal_mode", { simple: true })).toBe("wal");
  });
  it("saves each step as a revision that undo and redo bring back", () => {
    const id = takeIn(db, ABC).added[0]!.id;
    const start = load(db, id)!;
    expect([start.canUndo, start.canRedo]).toEqual([false, false]);
    save(db, id, "Chord Em locked", lockChord(start.work, lock));
    const locked = load(db, id)!;
    expect([locked.work.locks.length, locked.canUndo, locked.step]).toEqual([1, true, "Chord Em locked"]);
    const back = travel(db, id, "undo")!;
    expect([back.work.locks.length, back.canUndo, back.canRedo]).toEqual([0, false, true]);
    expect(travel(db, id, "redo")!.work).toEqual(locked.work);
    expect(travel(db, id, "redo")!.head).toBe(locked.head);
    travel(db, id, "undo");
    save(db, id, "Harmony above", { ...start.work, side: "above" });
    expect(load(db, id)!.canRedo).toBe(false);
    expect(findRevision(db, id, locked.head)?.step).toBe("Chord Em locked");
  });
  it("keeps the facts of the list true to the tune", () => {
    const id = takeIn(db, ABC).added[0]!.id;
    const { work } = load(db, id)!;
    const [before] = collection(db);
    save(db, id, "Chord", lockChord(work, lock));
    expect(collection(db)[0]).toEqual({ ...before, changed: expect.any(Number) });
    save(db, id, "Renamed", { ...work, tune: { ...work.tune, title: "Tar Again", key: { tonic: "E", mode: "minor" } } });
    expect(collection(db)[0]).toMatchObject({ title: "Tar Again", sentence: expect.stringContaining("E minor") });
  });
  it("takes a tune's revisions with it, and answers for what is not there", () => {
    const id = takeIn(db, ABC).added[0]!.id;
    db.$client.prepare("delete from tunes where id = ?").run(id);
    expect(db.$client.prepare("select count(*) as n from revisions").get()).toEqual({ n: 0 });
    expect([load(db, id), save(db, id, "x", {} as never), travel(db, id, "undo")]).toEqual([undefined, undefined, undefined]);
  });
  it("refuses work that does not hold together and keeps the old", () => {
    const id = takeIn(db, ABC).added[0]!.id;
    const { work } = load(db, id)!;
    expect(() => save(db, id, "broken", { ...work, tune: { ...work.tune, strains: [] } })).toThrow();
    expect(load(db, id)!.work).toEqual(work);
  });
  it("takes the good tunes of a book and tells the place of the others", () => {
    const { added, refused } = takeIn(db, `${ABC}\nX:2\nT:Broken\nK:Q\nabc|\n`);
    expect(added).toHaveLength(1);
    expect(refused).toEqual([{ index: 2, line: 10, column: 3, message: expect.stringContaining("is not a key") }]);
    expect(takeIn(db, "a".repeat(8_000_001)).refused[0]?.message).toContain("8 million");
  });
  it("lists a page at a time and finds titles", () => {
    takeIn(db, Array.from({ length: 60 }, (_, i) => ABC.replace("X:1", `X:${i + 1}`).replace("Tar and Twine", `Tune ${i + 1}`)).join("\n"));
    expect([collection(db).length, collection(db, {}, 100).length, countTunes(db)]).toEqual([50, 60, 60]);
    expect(collection(db, { find: "tune 6" }).map((t) => t.title)).toEqual(["Tune 6", "Tune 60"]);
    expect([countTunes(db, { find: "tune 6" }), countTunes(db, { find: "%" })]).toEqual([2, 60]);
  });
  it("puts the demo in once", () => {
    expect([seedDemo(db), seedDemo(db)]).toEqual([3, 0]);
    expect(collection(db).map((t) => t.title)).toEqual(["Four Gulls", "Herring at the Quay", "The Lamp on the Slip"]);
  });
  it("writes every part in every format", () => {
    seedDemo(db);
    const { work } = load(db, 1)!;
    for (const part of ["melody", "moving", "first", "all"]) {
      expect(download(work, part, "musicxml")?.content).toContain("<score-partwise");
      expect(download(work, part, "abc")?.content).toMatch(/^X:1\n/);
      expect([...(download(work, part, "mid")!.content as Uint8Array)].slice(0, 4)).toEqual([0x4d, 0x54, 0x68, 0x64]);
    }
    expect(download(work, "first", "musicxml")?.name).toBe("the-lamp-on-the-slip-first-sounds.musicxml");
    expect([download(work, "nobody", "abc"), download(work, "all", "exe")]).toEqual([undefined, undefined]);
  });
});
