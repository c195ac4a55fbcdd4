/** What can be wrong with the file of tunes: what it is, and what to do about it. */
const TROUBLES = {
  full: ["the disk is full", "Make room on the disk."],
  locked: ["another program holds the file", "Close the other program that has it open."],
  "read only": ["the file may not be written", "Allow writing to the file and to its folder."],
  damaged: ["the file is damaged", "Bring back a backup: npm run -s cli -- backup lists them."],
  gone: [
    "the file was moved or deleted while the application was running",
    "Put it back; or stop the application, bring back a backup, and start again.",
  ],
  replaced: [
    "another file was put in its place while the application was running",
    "Stop the application and start it again.",
  ],
  newer: [
    "the file was written by a newer version of Symphonos",
    "Use that version, or bring back a backup made before the update.",
  ],
  foreign: [
    "the file is not a collection of tunes",
    "Point SYMPHONOS_DB at your collection, or at a file that does not exist yet.",
  ],
  closed: [
    "the folder cannot be opened",
    "Check that the folder of this path exists and that you may open and write it.",
  ],
} as const;
export type Trouble = keyof typeof TROUBLES;

/** SQLite's codes by the trouble they mean. */
const CODES: readonly (readonly [RegExp, Trouble])[] = [
  [/^(SQLITE_FULL|SQLITE_IOERR_WRITE|ENOSPC|EDQUOT)/, "full"],
  [/^SQLITE_(BUSY|LOCKED)/, "locked"],
  [/^SQLITE_READONLY_DBMOVED/, "gone"],
  [/^(SQLITE_(READONLY|PERM)|EROFS)/, "read only"],
  [/^SQLITE_(CORRUPT|NOTADB|IOERR)/, "damaged"],
  [/^(SQLITE_CANTOPEN|EACCES|EPERM|ENOTDIR|ENOENT|EISDIR|EEXIST)/, "closed"],
];

/** Something is wrong with the file of tunes. Its message names the path, what is wrong and the remedy. */
export class DatabaseTrouble extends Error {
  readonly what: string;
  readonly remedy: string;
  constructor(
    readonly trouble: Trouble,
    readonly path: string,
  ) {
    const [what, remedy] = TROUBLES[trouble];
    super(`${path}: ${what}. ${remedy}`);
    this.name = "DatabaseTrouble";
    this.what = what;
    this.remedy = remedy;
  }
}

/** An error of SQLite or of the file system as trouble with the file of tunes; undefined where it is none. */
export function troubleOf(error: unknown, path: string): DatabaseTrouble | undefined {
  if (error instanceof DatabaseTrouble) return error;
  const code = error instanceof Error && "code" in error ? String(error.code) : "";
  const found = CODES.find(([pattern]) => pattern.test(code));
  return found && new DatabaseTrouble(found[1], path);
}
