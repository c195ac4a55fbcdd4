// The command line as a process of its own, with files to hand it.
import { execFile } from "node:child_process";
import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

/** A folder for this test's files. */
export const folder = mkdtempSync(join(tmpdir(), "cli-"));
/** Writes a file there; gives its path. */
export const file = (name: string, text: string | Uint8Array) => {
  const path = join(folder, name);
  writeFileSync(path, text);
  return path;
};

export const GOOD = 'X:1\nT:Tar and Twine\nM:2/4\nL:1/8\nK:G\nD|"G"GB d>B|AG E>D|GB AF|G3|]\n';
export const BAD = "\nX:2\nT:Broken\nK:Q\nabc|\n";
/** A book of three tunes, the second of them broken. */
export const bookFile = (): string =>
  file("book.abc", `${GOOD}${BAD}\nX:3\nT:Third\nM:6/8\nK:Edor\nE2E BAB|dBA FED|\n`);

/** What a run ended with, and what it printed. */
export type Run = { code: number; lines: Record<string, unknown>[]; out: string; err: string };
/** Runs the command line with something at its input. */
export const run = (args: string[], input = ""): Promise<Run> =>
  new Promise((resolve) => {
    const child = execFile(
      "node",
      ["bin/symphonos", ...args],
      { maxBuffer: 1e8, encoding: "utf8" },
      (error, out, err) => {
        const lines = out
          .split("\n")
          .filter((l) => l.startsWith("{"))
          .map((l) => JSON.parse(l) as Record<string, unknown>);
        resolve({ code: error ? Number(error.code) : 0, lines, out, err });
      },
    );
    child.stdin?.end(input);
  });
