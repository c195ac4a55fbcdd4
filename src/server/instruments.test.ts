import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { beforeEach, describe, expect, it } from "vitest";
import { changeHand, derive, handFor, arrangedFor, playedOn } from "../core/ensemble";
import { draftOf, instrument } from "../core/instruments";
import { backupsOf, type Db, keepInstrument, makeBackup, openDatabase, restoreBackup } from "../db";
import { takeIn } from "./collection";
import { dropOwn, instrumentsOf, keepOwn } from "./instruments";
import { load, save, travel } from "./states";

const ABC = "X:1\nT:Tar and Twine\nM:2/4\nL:1/8\nK:D\n|:D|FA d>B|AF E>D|FA dF|D3:|\n";
const fiddle = draftOf(instrument("fiddle")!);
const long = { ...draftOf(instrument("ukulele")!), name: "Long ukulele", tunings: "D3 A3 D4 F#4" };
let db: Db;
let file: string;
beforeEach(() => {
  file = join(mkdtempSync(join(tmpdir(), "instruments-")), "test.db");
  db = openDatabase(file);
});
const names = () => instrumentsOf(db).map((i) => i.name);

describe("a teacher's own instruments", () => {
  it("are kept by name, changed in their place, and taken away", () => {
    expect(names()).toEqual([]);
    keepOwn(db, long, null);
    keepOwn(db, fiddle, null);
    expect(names()).toEqual(["fiddle", "Long ukulele"]);
    keepOwn(db, { ...long, name: "Great ukulele" }, "Long ukulele");
    expect(names()).toEqual(["fiddle", "Great ukulele"]);
    expect(dropOwn(db, "fiddle").map((i) => i.name)).toEqual(["Great ukulele"]);
  });
  it("are told field by field where they do not hold together, and nothing is kept", () => {
    expect(keepOwn(db, { ...long, tunings: "Q3" }, null)).toMatchObject({ faults: [{ field: "tunings" }] });
    keepOwn(db, long, null);
    expect(keepOwn(db, { ...long, name: "LONG UKULELE" }, null)).toMatchObject({ faults: [{ field: "name" }] });
    expect(names()).toEqual(["Long ukulele"]);
  });
  it("stop at forty, and what was stored wrong is passed over", () => {
    for (let i = 0; i < 40; i++) keepOwn(db, { ...long, name: `Ukulele ${i}` }, null);
    expect(() => keepOwn(db, long, null)).toThrow(/40 instruments of your own/);
    keepInstrument(db, "Ukulele 3", '{"name":"Ukulele 3"}', null);
    expect(names()).toHaveLength(39);
  });
  it("are in every tune that is opened, and each step back keeps them", () => {
    const id = takeIn(db, ABC).added[0]!.id;
    const first = load(db, id)!;
    expect(first.work.instruments).toBeUndefined();
    keepOwn(db, long, null);
    const { work, head } = load(db, id)!;
    expect(work.instruments?.map((i) => i.name)).toEqual(["Long ukulele"]);
    const handed = changeHand(work, "Long ukulele", { level: "Leading" });
    const derived = derive(handed);
    const own = arrangedFor(handed, derived, handFor(handed, "Long ukulele"))!;
    expect(own.board.strings.map((s) => s.open)).toEqual([50, 57, 62, 66]);
    save(db, { id, head, step: "Long ukulele", work: handed, token: crypto.randomUUID() });
    const now = load(db, id)!;
    expect(now.work.hands?.[0]?.instrument).toBe("Long ukulele");
    const back = travel(db, { id, head: now.head, way: "undo" });
    expect(back).toMatchObject({ kind: "there", loaded: { work: { instruments: [{ name: "Long ukulele" }] } } });
    dropOwn(db, "Long ukulele");
    const gone = load(db, id)!.work;
    expect(gone.instruments).toBeUndefined();
    expect(playedOn(gone, "Long ukulele").name).toBe("fiddle");
  });
  it("that changed are there at the next opening as they are now, in the place of the catalogue's", () => {
    const id = takeIn(db, ABC).added[0]!.id;
    keepOwn(db, { ...fiddle, reach: ["5", "5", "7", "7", "7"] }, null);
    expect(playedOn(load(db, id)!.work, "violin").reach?.[0].highest).toBe(5);
    keepOwn(db, { ...fiddle, reach: ["4", "5", "7", "7", "7"] }, "fiddle");
    expect(playedOn(load(db, id)!.work, "fiddle").reach?.[0].highest).toBe(4);
  });
  it("come back with a backup", () => {
    takeIn(db, ABC);
    keepOwn(db, long, null);
    makeBackup(file, "daily", new Date(2026, 10, 27, 9));
    dropOwn(db, "Long ukulele");
    const name = backupsOf(file).find((b) => b.occasion === "daily")!.name;
    expect(restoreBackup(db, name)).toEqual({ tunes: 1 });
    expect(names()).toEqual(["Long ukulele"]);
  });
});
