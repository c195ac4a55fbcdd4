import { spawn } from "node:child_process";
import { chmodSync, copyFileSync, mkdtempSync, readFileSync, renameSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import Database from "better-sqlite3";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { backupsOf, countTunes, database, DatabaseTrouble, openDatabase, writing } from ".";
import { takeIn } from "../server/collection";

const ABC = "X:1\nT:Tar and Twine\nM:2/4\nL:1/8\nK:G\n|:D|GB d>B|AG E>D|GB AF|G3:|\n";
let file: string;
const shared = globalThis as { symphonosDb?: { db: { $client: Database.Database } } | undefined };
beforeEach(() => {
  file = join(mkdtempSync(join(tmpdir(), "open-")), "tunes.db");
  process.env.SYMPHONOS_DB = file;
  shared.symphonosDb = undefined;
});
afterEach(() => {
  shared.symphonosDb?.db.$client.close();
  shared.symphonosDb = undefined;
});

/** The trouble something throws. */
function troubleIn(run: () => unknown): DatabaseTrouble {
  try {
    run();
  } catch (error) {
    if (error instanceof DatabaseTrouble) return error;
    throw error;
  }
  throw new Error("There was no trouble.");
}

describe("opening the file of tunes", () => {
  it("keeps every acknowledged save on the disk itself", () => {
    const { $client } = openDatabase(file);
    expect([$client.pragma("synchronous", { simple: true }), $client.pragma("journal_mode", { simple: true })]).toEqual(
      [2, "wal"],
    );
    $client.close();
  });
  it("refuses a file of a newer version, with its path and what to do, and leaves it alone", () => {
    openDatabase(file).$client.close();
    const later = new Database(file);
    later.exec("INSERT INTO __drizzle_migrations (hash, created_at) VALUES ('later', 9999999999999)");
    later.close();
    const before = readFileSync(file);
    const found = troubleIn(() => openDatabase(file));
    expect([found.trouble, found.path]).toEqual(["newer", file]);
    expect(found.message).toMatch(/newer version.*Use that version/);
    expect(readFileSync(file).equals(before)).toBe(true);
    expect(backupsOf(file)).toEqual([]);
  });
  it("refuses a database of another program, and a file that is none", () => {
    const other = new Database(file);
    other.exec("CREATE TABLE recipes (name text)");
    other.close();
    expect(troubleIn(() => openDatabase(file)).trouble).toBe("foreign");
    const text = `${file}.txt`;
    writeFileSync(text, "T:Tar and Twine\n".repeat(500));
    expect(troubleIn(() => openDatabase(text)).trouble).toBe("damaged");
  });
  it("says which folder cannot be opened", () => {
    writeFileSync(`${file}.d`, "");
    expect(troubleIn(() => openDatabase(join(`${file}.d`, "tunes.db"))).message).toContain(`${file}.d/tunes.db: `);
  });
  it("is safe where several processes open a new file at once", async () => {
    const script = `import("./src/db/open.ts").then(({ openDatabase }) => {
      const { $client } = openDatabase(${JSON.stringify(file)});
      $client.exec("INSERT INTO tags (tune_id, name) SELECT 1, 'x' WHERE 0");
      $client.close();
    })`;
    const opened = Array.from(
      { length: 6 },
      () =>
        new Promise<string>((done) => {
          const child = spawn(process.execPath, ["--import", "tsx", "-e", script]);
          let said = "";
          child.stderr.on("data", (text) => (said += text));
          child.on("close", (code) => done(code === 0 ? "" : said));
        }),
    );
    expect(await Promise.all(opened)).toEqual(Array(6).fill(""));
    const migrated = new Database(file).prepare("SELECT count(*) FROM __drizzle_migrations").pluck().get();
    expect(migrated).toBe(JSON.parse(readFileSync("src/db/migrations/meta/_journal.json", "utf8")).entries.length);
  });
});

describe("the file while the application runs", () => {
  it("stops reading and writing where it is deleted or moved, and goes on where it is put back", () => {
    takeIn(database(), ABC);
    renameSync(file, `${file}.moved`);
    expect([troubleIn(database).trouble, troubleIn(writing).trouble]).toEqual(["gone", "gone"]);
    renameSync(`${file}.moved`, file);
    expect(countTunes(writing())).toBe(1);
    rmSync(file);
    expect(troubleIn(writing).message).toContain(`${file}: the file was moved or deleted`);
  });
  it("stops where another file takes its place, whose content is never touched", () => {
    takeIn(database(), ABC);
    const other = openDatabase(`${file}.other`);
    takeIn(other, ABC.replace("Tar and Twine", "The Wet Step").replace("GB d>B", "GA d>c"));
    other.$client.close();
    copyFileSync(`${file}.other`, `${file}.copy`);
    renameSync(`${file}.copy`, file);
    expect(troubleIn(writing).trouble).toBe("replaced");
    shared.symphonosDb?.db.$client.close();
    shared.symphonosDb = undefined;
    const titles = database().$client.prepare("SELECT title FROM tunes").pluck().all();
    expect(titles).toEqual(["The Wet Step"]);
  });
  it("still shows tunes where it was made read only, and takes no edits", () => {
    takeIn(database(), ABC);
    chmodSync(file, 0o444);
    expect(countTunes(database())).toBe(1);
    expect(troubleIn(writing).message).toMatch(/may not be written\. Allow writing/);
    chmodSync(file, 0o644);
    expect(countTunes(writing())).toBe(1);
  });
});
