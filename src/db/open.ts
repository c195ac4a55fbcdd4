import { type BigIntStats, mkdirSync, statSync } from "node:fs";
import { dirname, resolve } from "node:path";
import Database from "better-sqlite3";
import { type BetterSQLite3Database, drizzle } from "drizzle-orm/better-sqlite3";
import { makeBackup } from "./backup";
import { migrateFile, stage } from "./migrate";
import * as schema from "./schema";
import { DatabaseTrouble, troubleOf } from "./trouble";

export type Db = BetterSQLite3Database<typeof schema> & { $client: Database.Database };

/** Where the data lives: SYMPHONOS_DB, or data/symphonos.db beside the application. */
export const databasePath = (): string =>
  resolve(/* turbopackIgnore: true */ process.env.SYMPHONOS_DB ?? "data/symphonos.db");

/** Longest that opening, and later a save, waits for another process. The page tries again. Milliseconds. */
const PATIENCE = 5000;
const WAIT = 1000;

/**
 * Opens a database file, making it and its folder when missing, and brings it up to date; before that a backup of it is
 * made, unless it is one.
 * Safe where several processes open it at once. Throws a DatabaseTrouble that names the path and the remedy.
 */
export function openDatabase(path: string, backup = true): Db {
  let client: Database.Database | undefined;
  try {
    mkdirSync(dirname(path), { recursive: true });
    client = new Database(path, { timeout: PATIENCE });
    if (stage(client) === "older" && backup) makeBackup(path, "before an update");
    inWal(client);
    // Every acknowledged save is on the disk itself, also when the power fails.
    client.pragma("synchronous = FULL");
    migrateFile(client);
    client.pragma("foreign_keys = ON");
    client.pragma(`busy_timeout = ${WAIT}`);
    return drizzle(client, { schema });
  } catch (error) {
    client?.close();
    throw troubleOf(error, path) ?? error;
  }
}

/** Pause between tries to change the journal, which SQLite itself does not wait for. Milliseconds. */
const PAUSE = 25;

function inWal(client: Database.Database) {
  const last = Date.now() + PATIENCE;
  for (;;) {
    try {
      return void client.pragma("journal_mode = WAL");
    } catch (error) {
      if (troubleOf(error, client.name)?.trouble !== "locked" || Date.now() > last) throw error;
      Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, PAUSE);
    }
  }
}

type Opened = { db: Db; path: string; file: BigIntStats };
const shared = globalThis as typeof globalThis & { symphonosDb?: Opened | undefined };

function opened(): Opened {
  const path = databasePath();
  return { db: openDatabase(path), path, file: statSync(path, { bigint: true }) };
}

/** The file as it is now. Throws where it is no longer the one that was opened. */
function standing({ db, path, file }: Opened): BigIntStats {
  const now = statSync(path, { bigint: true, throwIfNoEntry: false });
  if (now && now.ino === file.ino && now.dev === file.dev) return now;
  try {
    // What the journal still holds belongs to the file that is gone; a file put in its place must never read it.
    db.$client.pragma("wal_checkpoint(TRUNCATE)");
  } catch {
    // The journal is gone as well.
  }
  throw new DatabaseTrouble(now ? "replaced" : "gone", path);
}

/** The application's one connection, opened when first asked for. Throws where its file is gone. */
export function database(): Db {
  shared.symphonosDb ??= opened();
  standing(shared.symphonosDb);
  return shared.symphonosDb.db;
}

/** Write permission of anyone, in a file's mode. */
const WRITABLE = 0o222n;

/** The same connection, for changes. Throws also where its file was made read only. */
export function writing(): Db {
  const db = database();
  const now = shared.symphonosDb;
  if (now && !(standing(now).mode & WRITABLE)) throw new DatabaseTrouble("read only", now.path);
  return db;
}
