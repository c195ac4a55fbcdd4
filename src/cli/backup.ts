import { backupPath, backupsOf, checkBackup, databasePath, DatabaseTrouble, makeBackup, restoreFile } from "../db";

const USAGE = `Usage: symphonos backup [list]           every backup, opened and counted: one JSON line each
       symphonos backup make             makes one now
       symphonos backup restore NAME     puts all tunes back as they were in it; what is there now is kept as a backup
The collection is data/symphonos.db, or where SYMPHONOS_DB points.`;

const print = (line: object) => void process.stdout.write(`${JSON.stringify(line)}\n`);

function list(path: string): number {
  for (const backup of backupsOf(path)) {
    const made = new Date(backup.made).toISOString();
    print({ ...backup, made, ...checkBackup(backupPath(path, backup.name) ?? backup.name) });
  }
  return 0;
}

function make(path: string): number {
  const backup = makeBackup(path, "on request");
  print({ ...backup, made: new Date(backup.made).toISOString() });
  return 0;
}

function restore(path: string, name = ""): number {
  const done = restoreFile(path, name);
  if ("wrong" in done) {
    process.stderr.write(`symphonos: ${done.wrong} Nothing was changed.\n`);
    return 1;
  }
  print({ restored: name, ...done });
  return 0;
}

const DEEDS = new Map([
  ["list", list],
  ["make", make],
  ["restore", restore],
]);

/** Lists, makes or brings back backups of the collection. Gives the exit status. */
export function backup([deed = "list", ...rest]: readonly string[]): number {
  const run = DEEDS.get(deed);
  if (!run || rest.length !== (deed === "restore" ? 1 : 0)) {
    process.stderr.write(`${USAGE}\n`);
    return deed === "--help" ? 0 : 2;
  }
  try {
    return run(databasePath(), rest[0]);
  } catch (error) {
    if (!(error instanceof DatabaseTrouble)) throw error;
    process.stderr.write(`symphonos: ${error.message}\n`);
    return 1;
  }
}
