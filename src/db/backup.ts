import {
  closeSync,
  existsSync,
  fsyncSync,
  mkdirSync,
  openSync,
  readdirSync,
  renameSync,
  rmSync,
  statSync,
} from "node:fs";
import { basename, dirname, join } from "node:path";
import Database from "better-sqlite3";
import { troubleOf } from "./trouble";

/** Why a backup was made. */
export const OCCASIONS = ["daily", "before an update", "before a return", "on request"] as const;
export type Occasion = (typeof OCCASIONS)[number];

/** A backup of the whole collection: one file beside it. */
export type Backup = { name: string; made: number; occasion: Occasion; bytes: number };

/** What a backup was found to hold when it was opened. */
export type Checked = { tunes: number } | { wrong: string };

const stem = (path: string) => basename(path).replace(/\.[^.]+$/, "");
const folderOf = (path: string) => join(dirname(path), "backups");
const spaced = (words: string) => words.replaceAll("-", " ");
const two = (n: number) => String(n).padStart(2, "0");

/** A moment as files are named by it, in local time: 2026-11-26-211402. */
function stamp(at: Date): string {
  const day = [at.getFullYear(), two(at.getMonth() + 1), two(at.getDate())].join("-");
  return `${day}-${two(at.getHours())}${two(at.getMinutes())}${two(at.getSeconds())}`;
}
const NAME = /^(?<stem>.+)-(?<day>\d{4}-\d\d-\d\d)-(?<h>\d\d)(?<m>\d\d)(?<s>\d\d)-(?<occasion>[a-z-]+)\.db$/;

/** The backups of a database file, newest first. */
export function backupsOf(path: string): Backup[] {
  const folder = folderOf(path);
  if (!existsSync(folder)) return [];
  return readdirSync(folder)
    .flatMap((name): (Backup & { written: number })[] => {
      const found = NAME.exec(name)?.groups;
      const occasion = OCCASIONS.find((o) => o === spaced(found?.occasion ?? ""));
      if (!found || !occasion || found.stem !== stem(path)) return [];
      const made = new Date(`${found.day}T${found.h}:${found.m}:${found.s}`).getTime();
      const { size, mtimeMs } = statSync(join(folder, name));
      return [{ name, made, occasion, bytes: size, written: mtimeMs }];
    })
    .sort((a, b) => b.made - a.made || b.written - a.written)
    .map(({ written: _, ...backup }) => backup);
}

/** Where a backup lies, by its name; undefined for a name that is not one of this file's backups. */
export const backupPath = (path: string, name: string): string | undefined =>
  backupsOf(path).some((b) => b.name === name) ? join(folderOf(path), name) : undefined;

/** Opens a backup, reads every page of it and counts its tunes. */
export function checkBackup(file: string): Checked {
  let client: Database.Database | undefined;
  try {
    client = new Database(file, { readonly: true, fileMustExist: true });
    const [found] = client.pragma("integrity_check(1)", { simple: false }) as { integrity_check: string }[];
    if (found?.integrity_check !== "ok") return { wrong: `it is damaged (${found?.integrity_check ?? "no answer"})` };
    return { tunes: client.prepare("SELECT count(*) FROM tunes").pluck().get() as number };
  } catch (error) {
    return { wrong: troubleOf(error, file)?.what ?? (error instanceof Error ? error.message : String(error)) };
  } finally {
    client?.close();
  }
}

/**
 * Makes a backup of a database file, with a connection of its own, while others go on with it. It counts only once it
 * has been opened and found whole; then backups nobody needs any more go. Throws a DatabaseTrouble.
 */
export function makeBackup(path: string, occasion: Occasion, now = new Date()): Backup & { tunes: number } {
  const folder = folderOf(path);
  const name = `${stem(path)}-${stamp(now)}-${occasion.replaceAll(" ", "-")}.db`;
  const [file, unfinished] = [join(folder, name), join(folder, `${name}.${process.pid}.part`)];
  let client: Database.Database | undefined;
  try {
    mkdirSync(folder, { recursive: true });
    rmSync(unfinished, { force: true });
    client = new Database(path, { readonly: true, fileMustExist: true, timeout: 5000 });
    client.prepare("VACUUM INTO ?").run(unfinished);
    const checked = checkBackup(unfinished);
    if ("wrong" in checked) throw new Error(`The backup could not be used: ${checked.wrong}.`);
    onDisk(unfinished);
    renameSync(unfinished, file);
    onDisk(folder);
    for (const old of superfluous(backupsOf(path), now)) rmSync(join(folder, old.name), { force: true });
    return { name, made: now.getTime(), occasion, bytes: statSync(file).size, tunes: checked.tunes };
  } catch (error) {
    rmSync(unfinished, { force: true });
    throw troubleOf(error, path) ?? error;
  } finally {
    client?.close();
  }
}

/** Waits until a file or folder is on the disk itself. */
function onDisk(path: string) {
  const handle = openSync(path, "r");
  fsyncSync(handle);
  closeSync(handle);
}

const DAY = 24 * 60 * 60 * 1000;
/** For how long every day and every week keep a backup. */
const KEPT = { days: 7, weeks: 4 };

const dayOf = (at: number) => stamp(new Date(at)).slice(0, 10);
/** Monday of a moment's week, as a day. */
function weekOf(at: number): string {
  const day = new Date(at);
  return dayOf(new Date(day.getFullYear(), day.getMonth(), day.getDate() - ((day.getDay() + 6) % 7), 12).getTime());
}

/**
 * Backups that may go: of seven days the newest of each occasion stays, of four weeks the newest of all and the newest
 * before an update. One from the future stays, for it is the clock that is wrong.
 */
export function superfluous(backups: readonly Backup[], now: Date): Backup[] {
  const newest = [...backups].sort((a, b) => b.made - a.made);
  const kept = new Set<Backup>();
  const seen = new Set<string>();
  const keep = (backup: Backup, as: string) => {
    if (!seen.has(as)) kept.add(backup);
    seen.add(as);
  };
  const days = new Set(Array.from({ length: KEPT.days }, (_, i) => dayOf(now.getTime() - i * DAY)));
  const weeks = new Set(Array.from({ length: KEPT.weeks }, (_, i) => weekOf(now.getTime() - i * 7 * DAY)));
  for (const backup of newest) {
    const [day, week] = [dayOf(backup.made), weekOf(backup.made)];
    if (backup.made > now.getTime()) kept.add(backup);
    if (days.has(day)) keep(backup, `${day} ${backup.occasion}`);
    if (weeks.has(week)) keep(backup, week);
    if (weeks.has(week) && backup.occasion === "before an update") keep(backup, `${week} update`);
  }
  return newest.filter((b) => !kept.has(b));
}

/** Whether today's backup is still to be made. */
export const backupDue = (path: string, now = new Date()): boolean =>
  !backupsOf(path).some((b) => b.occasion === "daily" && dayOf(b.made) === dayOf(now.getTime()));
