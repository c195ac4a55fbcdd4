import { existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import Database from "better-sqlite3";
import fc from "fast-check";
import { beforeEach, describe, expect, it } from "vitest";
import {
  type Backup,
  backupDue,
  backupPath,
  backupsOf,
  checkBackup,
  countTunes,
  type Db,
  makeBackup,
  OCCASIONS,
  openDatabase,
  restoreBackup,
  superfluous,
} from ".";
import { collection, takeIn } from "../server/collection";
import { load, save } from "../server/states";

const tune = (title: string, bar: string) => `X:1\nT:${title}\nM:2/4\nL:1/8\nK:G\n|:D|${bar}|AG E>D|GB AF|G3:|\n`;
let file: string;
let db: Db;
beforeEach(() => {
  file = join(mkdtempSync(join(tmpdir(), "backup-")), "tunes.db");
  db = openDatabase(file);
});
const at = (day: number, hour = 9) => new Date(2026, 10, day, hour);

describe("backups", () => {
  it("hold the whole collection, are opened before they count, and leave nothing unfinished", () => {
    takeIn(db, tune("Tar and Twine", "GB d>B"));
    const made = makeBackup(file, "daily", at(26));
    expect(made).toMatchObject({ name: "tunes-2026-11-26-090000-daily.db", occasion: "daily", tunes: 1 });
    expect(backupsOf(file)).toEqual([
      { name: made.name, made: at(26).getTime(), occasion: "daily", bytes: made.bytes },
    ]);
    expect(checkBackup(backupPath(file, made.name)!)).toEqual({ tunes: 1 });
    expect(readdirSync(join(dirname(file), "backups"))).toEqual([made.name]);
    expect([backupDue(file, at(26, 23)), backupDue(file, at(27))]).toEqual([false, true]);
  });
  it("are made before a migration, and of a new file there is none", () => {
    expect(backupsOf(file)).toEqual([]);
    db.$client.exec("DROP TABLE groups");
    db.$client.exec(
      "DELETE FROM __drizzle_migrations WHERE created_at = (SELECT max(created_at) FROM __drizzle_migrations)",
    );
    db.$client.close();
    openDatabase(file).$client.close();
    expect(backupsOf(file).map((b) => b.occasion)).toEqual(["before an update"]);
  });
  it("say what is wrong with a damaged one, and it is not brought back", () => {
    takeIn(db, tune("Tar and Twine", "GB d>B"));
    const { name } = makeBackup(file, "on request");
    const path = backupPath(file, name)!;
    const bytes = readFileSync(path);
    bytes.fill(7, 4096, 9000);
    writeFileSync(path, bytes);
    expect(checkBackup(path)).toHaveProperty("wrong");
    expect(restoreBackup(db, name)).toEqual({ wrong: expect.stringContaining("cannot be used") });
    expect(restoreBackup(db, "../tunes.db")).toEqual({ wrong: expect.stringContaining("no backup called") });
    expect(countTunes(db)).toBe(1);
  });
  it("bring everything back in one go, after a backup of what was there; no number is given out twice", () => {
    const id = takeIn(db, tune("Tar and Twine", "GB d>B")).added[0]!.id;
    const { name } = makeBackup(file, "daily", at(20));
    const { head, work } = load(db, id)!;
    save(db, { id, head, step: "Style Colour", work: { ...work, style: "Colour" } });
    const gone = takeIn(db, tune("The Wet Step", "GA d>c")).added[0]!.id;
    const reader = openDatabase(file);
    expect(restoreBackup(db, name)).toEqual({ tunes: 1 });
    expect(collection(reader, { find: "twine" }).map((t) => t.title)).toEqual(["Tar and Twine"]);
    expect([collection(db, { find: "wet" }), load(db, id)!.work, load(db, id)!.head]).toEqual([[], work, head]);
    expect(takeIn(db, tune("Kelp at Noon", "Gc d>e")).added[0]!.id).toBeGreaterThan(gone);
    const before = backupsOf(file).find((b) => b.occasion === "before a return")!;
    expect(restoreBackup(db, before.name)).toEqual({ tunes: 2 });
    expect(load(db, id)!.work.style).toBe("Colour");
    expect(readdirSync(dirname(file)).filter((f) => f.includes("returning"))).toEqual([]);
  });
  it("of an older version are brought up to date on the way", () => {
    takeIn(db, tune("Tar and Twine", "GB d>B"));
    const { name } = makeBackup(file, "daily", at(20));
    const old = new Database(backupPath(file, name)!);
    old.exec("DROP TABLE groups");
    old.exec("DELETE FROM __drizzle_migrations WHERE created_at = (SELECT max(created_at) FROM __drizzle_migrations)");
    old.close();
    expect(restoreBackup(db, name)).toEqual({ tunes: 1 });
    expect(backupsOf(file)).toHaveLength(2);
  });
  it("pass over files of other names", () => {
    mkdirSync(join(dirname(file), "backups"));
    for (const name of ["tunes-yesterday-daily.db", "other-2026-11-26-090000-daily.db", "notes.txt"])
      writeFileSync(join(dirname(file), "backups", name), "");
    expect(backupsOf(file)).toEqual([]);
    expect(existsSync(file)).toBe(true);
  });
});

describe("which backups go", () => {
  const hour = 60 * 60 * 1000;
  const arbitrary = fc.array(
    fc.record({
      ago: fc.integer({ min: 0, max: 60 * 24 }),
      occasion: fc.constantFrom(...OCCASIONS),
    }),
    { maxLength: 60 },
  );
  const backups = (list: { ago: number; occasion: Backup["occasion"] }[]): Backup[] =>
    list.map(({ ago, occasion }, i) => ({ name: `${i}`, made: at(26, 12).getTime() - ago * hour, occasion, bytes: 1 }));

  it("never today's newest; of seven days and four weeks one always stays; older ones all go", () => {
    fc.assert(
      fc.property(arbitrary, (list) => {
        const all = backups(list);
        const going = new Set(superfluous(all, at(26, 12)));
        const staying = all.filter((b) => !going.has(b));
        const day = (b: Backup) => new Date(b.made).toDateString();
        for (const b of all.filter((one) => at(26, 12).getTime() - one.made < 6 * 24 * hour))
          expect(staying.some((s) => day(s) === day(b) && s.occasion === b.occasion)).toBe(true);
        expect(staying.every((s) => at(26, 12).getTime() - s.made < 29 * 24 * hour)).toBe(true);
        expect(superfluous(staying, at(26, 12))).toEqual([]);
      }),
    );
  });
  it("of a year of daily ones leaves seven days and four weeks", () => {
    const year = Array.from({ length: 365 }, (_, i) => ({ ago: i * 24, occasion: "daily" as const }));
    const all = backups(year);
    const going = new Set(superfluous(all, at(26, 12)));
    const days = all.filter((b) => !going.has(b)).map((b) => Math.round((at(26, 12).getTime() - b.made) / hour / 24));
    // A Thursday: this week and the seven days, then the Sundays of the weeks before.
    expect(days).toEqual([0, 1, 2, 3, 4, 5, 6, 11, 18]);
  });
});
