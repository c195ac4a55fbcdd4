import { copyFileSync, existsSync, renameSync, rmSync } from "node:fs";
import type Database from "better-sqlite3";
import { backupPath, checkBackup, makeBackup } from "./backup";
import { type Db, openDatabase } from "./open";
import { troubleOf } from "./trouble";

/** Tables of a collection, parents first. */
const TABLES = ["tunes", "revisions", "tags", "answers", "instruments", "groups"];

export type Restored = { tunes: number } | { wrong: string };

/**
 * Puts a file of tunes back as it was in a backup, whether or not it can still be opened: a damaged one is kept beside
 * it under another name. Gives how many tunes there are, or why the backup cannot be used.
 */
export function restoreFile(path: string, name: string): Restored {
  let db: Db | undefined;
  try {
    db = openDatabase(path);
    return restoreBackup(db, name);
  } catch (error) {
    const trouble = troubleOf(error, path)?.trouble;
    if (trouble !== "damaged" && trouble !== "newer") throw error;
    return inItsPlace(path, name);
  } finally {
    db?.$client.close();
  }
}

/** Puts a backup in the place of a file that cannot be opened. */
function inItsPlace(path: string, name: string): Restored {
  const file = backupPath(path, name);
  if (!file) return { wrong: `There is no backup called ${name.slice(0, 100)}.` };
  const checked = checkBackup(file);
  if ("wrong" in checked) return { wrong: `This backup cannot be used: ${checked.wrong}. Choose another.` };
  for (const end of ["-wal", "-shm", ""])
    if (existsSync(path + end)) renameSync(path + end, `${path}.put-aside-${Date.now()}${end}`);
  copyFileSync(file, path);
  openDatabase(path).$client.close();
  return checked;
}

/**
 * Puts the collection back as it was in a backup, in one transaction: all of it or nothing, also while other processes
 * read. A backup of what is there now is made first. Numbers of tunes and states are never given out twice. Gives how
 * many tunes there are, or why the backup cannot be used.
 */
export function restoreBackup(db: Db, name: string): Restored {
  const path = db.$client.name;
  const file = backupPath(path, name);
  if (!file) return { wrong: `There is no backup called ${name.slice(0, 100)}.` };
  const checked = checkBackup(file);
  if ("wrong" in checked) return { wrong: `This backup cannot be used: ${checked.wrong}. Choose another.` };
  const copy = `${path}.${process.pid}.returning`;
  try {
    copyFileSync(file, copy);
    // A backup from before an update is brought up to date first.
    openDatabase(copy, false).$client.close();
    makeBackup(path, "before a return");
    takeOver(db.$client, copy);
    return checked;
  } catch (error) {
    throw troubleOf(error, path) ?? error;
  } finally {
    for (const end of ["", "-wal", "-shm"]) rmSync(`${copy}${end}`, { force: true });
  }
}

function takeOver(client: Database.Database, copy: string) {
  client.prepare("ATTACH ? AS old").run(copy);
  try {
    client
      .transaction(() => {
        client.pragma("defer_foreign_keys = ON");
        client.exec("DELETE FROM main.tunes_words");
        for (const table of [...TABLES].reverse()) client.exec(`DELETE FROM main.${table}`);
        for (const table of TABLES) {
          const columns = (client.pragma(`main.table_info(${table})`) as { name: string }[])
            .map((c) => `"${c.name}"`)
            .join(", ");
          client.exec(`INSERT INTO main.${table} (${columns}) SELECT ${columns} FROM old.${table}`);
        }
        const words = "rowid, title, words, tags";
        client.exec(`INSERT INTO main.tunes_words (${words}) SELECT ${words} FROM old.tunes_words`);
      })
      .immediate();
  } finally {
    client.exec("DETACH old");
  }
}
