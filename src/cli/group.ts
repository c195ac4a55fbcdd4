import { readFileSync } from "node:fs";
import { basename } from "node:path";
import { COLUMNS, type Group, readRoster } from "../core/grading";

/** A group from a table of learners; every bad row is told. Throws where the file cannot be read, or holds nobody. */
export function readGroup(file: string, tell: (line: string) => void): Group {
  const text = readFileSync(file, "utf8");
  const { learners, faults } = readRoster(text);
  for (const { line, column, words } of faults)
    tell(`${file}:${line}:${column ? COLUMNS.indexOf(column) + 1 : 1}: ${column ? `${column}: ` : ""}${words}`);
  if (learners.length === 0) throw new RangeError(`${file} holds no learner that can be read.`);
  return { name: basename(file).replace(/\.csv$/i, ""), learners };
}
