import { mkdtempSync, readFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { beforeEach, describe, expect, it } from "vitest";
import { changeLine, lockChords, settleDoubt, type Work } from "../core/ensemble";
import Database from "better-sqlite3";
import { collection, fillMelodies, holding, takeIn } from "../server/collection";
import { bringBack, load, nameVersion, recordRights, save, type Travelled, travel, versions } from "../server/states";
import { seedDemo } from "../server/demo";
import { download } from "../server/files";
import {
  countTunes,
  type Db,
  findRevision,
  keepAnswer,
  openDatabase,
  setAside,
  shelves,
  type Sort,
  SORTS,
  tagTunes,
  tallyOf,
} from ".";

let file: string;
let db: Db;
beforeEach(() => {
  file = join(mkdtempSync(join(tmpdir(), "symphonos-")), "deep", "test.db");
  db = openDatabase(file);
});

/** A step on top of whatever the tune stands at. */
const saveOn = (id: number, step: string, work: Work) => save(db, { id, head: load(db, id)?.head ?? 1, step, work });
const there = (found: Travelled) => {
  if (found.kind !== "there") throw new Error(found.kind);
  return found.loaded;
};
const go = (id: number, way: "undo" | "redo") => there(travel(db, { id, head: load(db, id)!.head, way }));

const ABC = "X:1\nT:Tar and Twine\nM:2/4\nL:1/8\nK:G\n|:D|GB d>B|AG E>D|GB AF|G3:|\n";
const lock = { bar: 1, at: 0, ticks: 6720, symbol: "Em" };

describe("finding by notes", () => {
  const titles = (notes: string) => collection(db, { holding: holding(db, notes) }).map((t) => t.title);
  const SHANTY = ABC.replace("Tar and Twine", "Ballast").replace("GB d>B|AG E>D", "GB d>B|AG E>C").replace("AF", "AB");
  it("finds tunes by a few notes in any key, those that have them exactly first", () => {
    takeIn(db, `${SHANTY}\n${ABC}`);
    expect(titles("D G B d B A G E D")).toEqual(["Tar and Twine", "Ballast"]);
    expect(titles("C F A c A G F D C")).toEqual(["Tar and Twine", "Ballast"]);
    expect(titles("G B A F G")).toEqual(["Tar and Twine", "Ballast"]);
    expect(titles("1 1 1 1 1")).toEqual([]);
    expect(holding(db, "not notes")).toBeUndefined();
  });
  it("writes down melodies of tunes that came in before they were kept", () => {
    takeIn(db, ABC);
    db.$client.exec("UPDATE tunes SET melody = ''");
    expect(titles("D G B d B")).toEqual([]);
    expect(fillMelodies(db)).toBe(false);
    expect(titles("D G B d B")).toEqual(["Tar and Twine"]);
  });
  it("a tune that cannot be read stops none of the others, and is not tried for ever", () => {
    takeIn(db, `${SHANTY}\n${ABC}`);
    db.$client.exec("UPDATE tunes SET melody = ''");
    db.$client.exec("UPDATE revisions SET work = '{' WHERE tune_id = (SELECT min(id) FROM tunes)");
    fillMelodies(db);
    expect(titles("D G B d B")).toEqual(["Tar and Twine"]);
    expect(db.$client.prepare("SELECT count(*) FROM tunes WHERE melody = ''").pluck().get()).toBe(0);
  });
});

describe("what was read in doubt", () => {
  it("stays with the tune until it is settled", () => {
    const [added] = takeIn(db, ABC.replace("G3:|", "G3:|\nzzq this was never music")).added;
    const work = load(db, added!.id)!.work;
    expect(work.doubts?.length).toBeGreaterThan(0);
    const first = work.doubts![0]!;
    expect(settleDoubt(work, first).doubts ?? []).not.toContain(first);
    expect(settleDoubt(work).doubts).toBeUndefined();
  });
});

describe("the collection on a real file", () => {
  it("survives a restart", () => {
    takeIn(db, ABC);
    db.$client.close();
    const again = openDatabase(file);
    expect(collection(again).map((t) => [t.title, t.sentence, t.weave.length])).toEqual([
      ["Tar and Twine", expect.stringContaining("polka in G major"), 5],
    ]);
    expect(again.$client.pragma("foreign_keys", { simple: true })).toBe(1);
    expect(again.$client.pragma("journal_mode", { simple: true })).toBe("wal");
  });
  it("keeps answers of the ear trainer with their tune, over a restart", () => {
    const id = takeIn(db, ABC).added[0]!.id;
    expect(tallyOf(db, id)).toEqual({ asked: 0, right: 0 });
    for (const right of [true, false, true]) expect(keepAnswer(db, id, { bar: 1, at: 0, right })).toBe(true);
    expect(keepAnswer(db, 99, { bar: 1, at: 0, right: true })).toBe(false);
    db.$client.close();
    expect(tallyOf(openDatabase(file), id)).toEqual({ asked: 3, right: 2 });
  });
  it("reads, undoes and saves on top of work that version 1 stored, its locks and history whole", () => {
    const id = takeIn(db, ABC).added[0]!.id;
    const { tune } = load(db, id)!.work;
    const old = { version: 1, tune, style: "Dance band", school: "Thirds", side: "above", fileChords: false };
    const pitch = { step: "B", alter: 0, octave: 4 };
    const first = { ...old, locks: [lock], harmonyLocks: [{ bar: 1, at: 0, pitch }] };
    const write = db.$client.prepare("UPDATE revisions SET work = ? WHERE id = ?");
    write.run(JSON.stringify(first), load(db, id)!.head);
    saveOn(id, "Harmony by Octave", changeLine(load(db, id)!.work, "line-1", { school: "Octave" }));
    write.run(JSON.stringify({ ...first, school: "Octave" }), load(db, id)!.head);
    const now = load(db, id)!;
    expect(now.work).toMatchObject({ version: 2, style: "Dance band", locks: [lock] });
    expect(now.work.lines).toMatchObject([{ school: "Octave", side: "above", locks: [{ bar: 1, at: 0, pitch }] }]);
    expect(go(id, "undo").work.lines[0]).toMatchObject({
      school: "Thirds",
      locks: [{ bar: 1, at: 0, pitch }],
    });
    expect(go(id, "redo").work).toEqual(now.work);
    expect(versions(db, id).map((v) => v.step)).toEqual(["Harmony by Octave", "Brought in"]);
    expect(download(now.work, "moving", "abc")?.content).toContain("T:Harmony, fiddle");
  });
  it("saves each step as a revision that undo and redo bring back", () => {
    const id = takeIn(db, ABC).added[0]!.id;
    const start = load(db, id)!;
    expect([start.canUndo, start.canRedo]).toEqual([false, false]);
    saveOn(id, "Chord Em locked", lockChords(start.work, [lock]));
    const locked = load(db, id)!;
    expect([locked.work.locks.length, locked.canUndo, locked.step]).toEqual([1, true, "Chord Em locked"]);
    const back = go(id, "undo");
    expect([back.work.locks.length, back.canUndo, back.canRedo]).toEqual([0, false, true]);
    expect(go(id, "redo").work).toEqual(locked.work);
    expect(go(id, "redo").head).toBe(locked.head);
    go(id, "undo");
    saveOn(id, "Harmony above", changeLine(start.work, "line-1", { side: "above" }));
    expect(load(db, id)!.canRedo).toBe(false);
    expect(findRevision(db, id, locked.head)?.step).toBe("Chord Em locked");
  });
  it("keeps the facts of the list true to the tune", () => {
    const id = takeIn(db, ABC).added[0]!.id;
    const { work } = load(db, id)!;
    const [before] = collection(db);
    saveOn(id, "Chord", lockChords(work, [lock]));
    expect(collection(db)[0]).toEqual({ ...before, changed: expect.any(Number) });
    saveOn(id, "Renamed", {
      ...work,
      tune: { ...work.tune, title: "Tar Again", key: { tonic: "E", mode: "minor" } },
    });
    expect(collection(db)[0]).toMatchObject({ title: "Tar Again", sentence: expect.stringContaining("E minor") });
  });
  it("takes a tune's revisions with it, and answers for what is not there", () => {
    const id = takeIn(db, ABC).added[0]!.id;
    const { work } = load(db, id)!;
    db.$client.prepare("delete from tunes where id = ?").run(id);
    expect(db.$client.prepare("select count(*) as n from revisions").get()).toEqual({ n: 0 });
    expect([
      load(db, id),
      save(db, { id, head: 1, step: "x", work }),
      travel(db, { id, head: 1, way: "undo" }),
    ]).toEqual([undefined, { kind: "gone" }, { kind: "gone" }]);
  });
  it("refuses work that does not hold together and keeps the old", () => {
    const id = takeIn(db, ABC).added[0]!.id;
    const { work } = load(db, id)!;
    expect(() => saveOn(id, "broken", { ...work, tune: { ...work.tune, strains: [] } })).toThrow();
    expect(load(db, id)!.work).toEqual(work);
  });
  it("takes the good tunes of a book and tells the place of the others", () => {
    const { added, refused } = takeIn(db, `${ABC}\nX:2\nT:Broken\nK:Q\nabc|\n`);
    expect(added).toHaveLength(1);
    expect(refused).toEqual([{ line: 10, column: 3, message: expect.stringContaining("is not a key") }]);
    expect(takeIn(db, "a".repeat(8_000_001)).refused[0]?.message).toContain("8 million");
  });
  it("lists a page at a time and finds titles", () => {
    takeIn(
      db,
      Array.from({ length: 60 }, (_, i) =>
        ABC.replace("X:1", `X:${i + 1}`).replace("Tar and Twine", `Tune ${i + 1}`),
      ).join("\n"),
      true,
    );
    expect([collection(db).length, collection(db, {}, 100).length, countTunes(db)]).toEqual([50, 60, 60]);
    expect(collection(db, { find: "tune 6" }).map((t) => t.title)).toEqual(["Tune 6", "Tune 60"]);
    expect([countTunes(db, { find: "tune 6" }), countTunes(db, { find: "%" })]).toEqual([2, 0]);
  });
  it("puts the demo in once", () => {
    expect([seedDemo(db), seedDemo(db)]).toEqual([13, 0]);
    expect(collection(db, { dance: "jig" }).map((t) => t.title)).toEqual(["Herring at the Quay", "The Open Door"]);
  });
  it("writes every part in every format", () => {
    seedDemo(db);
    const { work } = load(db, 1)!;
    for (const part of ["melody", "moving", "first", "all"]) {
      expect(download(work, part, "musicxml")?.content).toContain("<score-partwise");
      expect(download(work, part, "abc")?.content).toMatch(/^X:1\n/);
      expect([...(download(work, part, "mid")!.content as Uint8Array)].slice(0, 4)).toEqual([0x4d, 0x54, 0x68, 0x64]);
    }
    expect(download(work, "first", "musicxml")?.name).toBe("the-lamp-on-the-slip-one-note-per-chord.musicxml");
    const two = download(work, "melody+moving", "abc")!;
    expect([two.name, (two.content as string).match(/^V:/gm)!.length >= 2]).toEqual([
      "the-lamp-on-the-slip-tune-and-harmony.abc",
      true,
    ]);
    expect([download(work, "melody+nobody", "abc"), download(work, "all", "cho")!.content as string]).toEqual([
      undefined,
      expect.stringContaining("{start_of_grid}"),
    ]);
    expect([download(work, "nobody", "abc"), download(work, "all", "exe")]).toEqual([undefined, undefined]);
  });

  const BOOK = ["Tar and Twine", "The Wet Step", "Kelp at Noon"]
    .map(
      (title, i) =>
        `X:${i + 1}\nT:${title}\nS:net loft\nR:polka\nM:2/4\nL:1/8\nK:${["G", "D", "Am"][i]}\n|:${["GB d>B|AG E>D", "df af|ge c2", "Ac ec|dB GB"][i]}|GB AF|G${i + 1}z${3 - i}:|\n`,
    )
    .join("\n");

  it("finds tunes by any word of their title, source, words and tags, and by what they are", () => {
    const { added } = takeIn(db, BOOK.replace("K:G\n", "C:Odda Pénhale\nK:G\n"));
    const titles = (asked: Parameters<typeof collection>[1]) => collection(db, asked).map((t) => t.title);
    expect(titles({ find: "twi tar" })).toEqual(["Tar and Twine"]);
    expect(titles({ find: "penhale" })).toEqual(["Tar and Twine"]);
    expect(titles({ find: "loft" })).toHaveLength(3);
    expect(titles({ find: '"; DROP TABLE tunes --' })).toEqual([]);
    expect(titles({ find: "***" })).toEqual([]);
    expect(titles({ key: "A minor" })).toEqual(["Kelp at Noon"]);
    expect(titles({ metre: "2/4", dance: "jig" })).toEqual([]);
    tagTunes(
      db,
      added.slice(0, 2).map((t) => t.id),
      "Tuesday",
      true,
    );
    expect([titles({ tag: "Tuesday" }), titles({ find: "tues" }), shelves(db).tags]).toEqual([
      ["Tar and Twine", "The Wet Step"],
      ["Tar and Twine", "The Wet Step"],
      ["Tuesday"],
    ]);
    tagTunes(db, [added[0]!.id], "Tuesday", false);
    expect([titles({ find: "tues" }), collection(db, { tag: "Tuesday" })[0]!.tags]).toEqual([
      ["The Wet Step"],
      ["Tuesday"],
    ]);
    saveOn(added[0]!.id, "Renamed", {
      ...load(db, added[0]!.id)!.work,
      tune: { ...load(db, added[0]!.id)!.work.tune, title: "Pitch and Hemp" },
    });
    expect([titles({ find: "hemp" }), titles({ find: "twine" })]).toEqual([["Pitch and Hemp"], []]);
  });
  it("sorts by any column, both ways", () => {
    takeIn(db, BOOK);
    const by = (sort: Sort, down = false) =>
      collection(db, { sort, down })
        .map((t) => t.title[0])
        .join("");
    expect([by("title"), by("title", true), by("key")]).toEqual(["KTT", "TTK", "KTT"]);
    for (const sort of SORTS) expect(by(sort)).toHaveLength(3);
    const pitches = collection(db, { sort: "pitches" }).map((t) => t.pitches);
    expect(pitches).toEqual([...pitches].sort((a, b) => a - b));
  });
  it("sorts titles as a teacher looks for them: The, An, A and apostrophes aside", () => {
    const titles = ["The Zither", "An Oar", "'Tween Tides", "A Barrel", "Theodora’s Net", "Cask"];
    takeIn(db, titles.map((t, i) => `X:${i + 1}\nT:${t}\nM:4/4\nL:1/8\nK:D\nd${i + 1}e|f8|\n`).join("\n"), true);
    expect(collection(db, { sort: "title" }).map((t) => t.title)).toEqual([
      "A Barrel",
      "Cask",
      "An Oar",
      "Theodora’s Net",
      "'Tween Tides",
      "The Zither",
    ]);
  });
  it("finds the same music again in any key, says which, and takes it all the same when asked", () => {
    takeIn(db, BOOK);
    const moved = "X:1\nT:Another Name\nM:2/4\nL:1/8\nK:A\n|:Ac e>c|BA F>E|Ac BG|A1z3:|\n";
    const again = takeIn(db, moved);
    expect([again.added, again.duplicates.map((d) => [d.title, d.of.title])]).toEqual([
      [],
      [["Another Name", "Tar and Twine"]],
    ]);
    expect(takeIn(db, moved, true).added).toHaveLength(1);
    expect(takeIn(db, `${BOOK}\n${moved}`).duplicates).toHaveLength(4);
  });
  it("puts tunes aside and brings them back", () => {
    const { added } = takeIn(db, BOOK);
    setAside(db, [added[0]!.id], true);
    expect([
      countTunes(db),
      collection(db, { find: "twine" }).length,
      takeIn(db, BOOK.split("\n\n")[0]!).added.length,
    ]).toEqual([2, 0, 1]);
    setAside(db, [added[0]!.id], false);
    expect(countTunes(db)).toBe(4);
  });
  it("records rights of several tunes, a step in each", () => {
    const { added } = takeIn(db, BOOK);
    recordRights(
      db,
      added.map((t) => t.id),
      "traditional",
      "the old book",
    );
    expect(collection(db, { ready: "ready" }).map((t) => t.source)).toEqual([
      "the old book",
      "the old book",
      "the old book",
    ]);
    expect(go(added[0]!.id, "undo").work.tune.rights).toBe("unknown");
    expect(countTunes(db, { ready: "open" })).toBe(1);
  });
  it("names versions and brings an earlier one back without losing the later", () => {
    const id = takeIn(db, ABC).added[0]!.id;
    nameVersion(db, id, load(db, id)!.head, "  As   it came ");
    const first = versions(db, id)[0]!;
    saveOn(id, "Chord Em locked", lockChords(load(db, id)!.work, [lock]));
    saveOn(id, "Chord Em freed", { ...load(db, id)!.work, locks: [] });
    saveOn(id, "Chord Em locked again", lockChords(load(db, id)!.work, [lock]));
    expect(versions(db, id).map((v) => [v.step, v.name, v.current])).toEqual([
      ["Chord Em locked again", null, true],
      ["Chord Em freed", null, false],
      ["Chord Em locked", null, false],
      ["Brought in", "As it came", false],
    ]);
    const back = there(bringBack(db, { id, head: load(db, id)!.head, revision: first.id }));
    expect([back.work.locks.length, back.step, versions(db, id).length]).toEqual([0, "Back to “As it came”", 5]);
    expect(go(id, "undo").work.locks).toHaveLength(1);
    nameVersion(db, id, first.id, " ");
    expect(versions(db, id).every((v) => v.name === null)).toBe(true);
    expect(bringBack(db, { id, head: back.head, revision: 9999 })).toEqual({ kind: "gone" });
  });
  it("brings a database of the first version up to date, its tunes findable", () => {
    const old = new Database(join(mkdtempSync(join(tmpdir(), "symphonos-")), "old.db"));
    for (const statement of readFileSync("src/db/migrations/0000_first.sql", "utf8").split("--> statement-breakpoint"))
      old.exec(statement);
    old.exec("CREATE TABLE __drizzle_migrations (id SERIAL PRIMARY KEY, hash text NOT NULL, created_at numeric)");
    const first = JSON.parse(readFileSync("src/db/migrations/meta/_journal.json", "utf8")).entries[0].when as number;
    old.prepare("INSERT INTO __drizzle_migrations (hash, created_at) VALUES ('first', ?)").run(first);
    old.exec(
      "INSERT INTO tunes (title, key, metre, dance, bars, sentence, weave, head, created, changed) VALUES ('Salt Stair', 'D major', '2/4', 'polka', 8, 'polka in D major', '[]', 1, 1, 1)",
    );
    old.close();
    const db2 = openDatabase(old.name);
    expect(collection(db2, { find: "salt" }).map((t) => t.title)).toEqual(["Salt Stair"]);
    db2.$client.close();
  });
});
