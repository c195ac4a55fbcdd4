import { type Instrument, instrument, isPitched, LEVELS, tuned } from "../instruments";
import { type Learner, MOST_LEARNERS } from "./learner";
import { readWord } from "./words";

// A group as a table: comma-separated values by RFC 4180, a line a learner, lists with semicolons.

export const COLUMNS = ["name", "instrument", "tuning", "level", "can", "cannot", "seat", "notes"] as const;
type Column = (typeof COLUMNS)[number];

/** What is wrong with a table, where, and what to do. Lines count from 1. */
export type RosterFault = { line: number; column: Column | null; words: string };
export type Roster = { learners: Learner[]; faults: RosterFault[] };

/** Largest table that is read, in characters. */
const LARGEST = 200_000;

type Row = { line: number; cells: string[] };

/** The cells of each line; quotes hold commas and line ends. */
function rowsOf(text: string): Row[] {
  const rows: Row[] = [];
  let [cell, quoted, line, start] = ["", false, 1, 1];
  let cells: string[] = [];
  const endRow = () => {
    cells.push(cell);
    if (cells.some((c) => c.trim() !== "")) rows.push({ line: start, cells });
    [cell, cells] = ["", []];
  };
  for (let i = 0; i < text.length; i++) {
    const sign = text[i];
    if (quoted && sign === '"' && text[i + 1] === '"') {
      cell += '"';
      i++;
    } else if (sign === '"' && (quoted || cell.trim() === "")) {
      if (!quoted) cell = "";
      quoted = !quoted;
    } else if (sign === "," && !quoted) {
      cells.push(cell);
      cell = "";
    } else if (sign === "\n" && !quoted) {
      endRow();
      start = line + 1;
    } else if (sign !== "\r" || quoted) cell += sign;
    if (sign === "\n") line++;
  }
  endRow();
  return rows;
}

/** Reads a table of learners: those that hold together, and every fault of the others. */
export function readRoster(text: string, own: readonly Instrument[] = []): Roster {
  const faults: RosterFault[] = [];
  const fault = (line: number, column: Column | null, words: string) => void faults.push({ line, column, words });
  if (text.length > LARGEST)
    return { learners: [], faults: [{ line: 1, column: null, words: "This table is too long for a group." }] };
  const [head, ...rows] = rowsOf(text.replace(/^\ufeff/, ""));
  if (!head)
    return {
      learners: [],
      faults: [{ line: 1, column: null, words: `The table is empty. Begin with: ${COLUMNS.join(",")}.` }],
    };
  const named = head.cells.map((c) => COLUMNS.find((n) => n === c.trim().toLowerCase()));
  for (const needed of ["name", "instrument", "level"] as const)
    if (!named.includes(needed))
      fault(head.line, needed, `The first line has no column ${needed}. Begin with: ${COLUMNS.join(",")}.`);
  head.cells.forEach((c, i) => {
    if (!named[i] && c.trim())
      fault(head.line, null, `There is no column "${c.trim().slice(0, 40)}". Columns: ${COLUMNS.join(", ")}.`);
  });
  if (faults.some((f) => f.column !== null)) return { learners: [], faults };
  const learners: Learner[] = [];
  for (const { line, cells } of rows) {
    const before = faults.length;
    const of = (column: Column) => (cells[named.indexOf(column)] ?? "").trim();
    const name = of("name").replace(/\s+/g, " ").slice(0, 80);
    if (name === "") fault(line, "name", "Give the learner a name.");
    if (learners.some((l) => l.name.toLowerCase() === name.toLowerCase()))
      fault(line, "name", `There are two called ${name}. Tell them apart.`);
    const on = instrument(of("instrument"), own);
    if (!on) fault(line, "instrument", `There is no instrument "${of("instrument").slice(0, 40)}".`);
    const tuning = of("tuning") || null;
    if (on && tuning && !tuned(on, tuning))
      fault(line, "tuning", `The ${on.name} has no tuning "${tuning.slice(0, 40)}". Tunings: ${tuningNames(on)}.`);
    const level = levelOf(of("level"));
    if (!level)
      fault(line, "level", `"${of("level").slice(0, 40)}" is not a level. Levels: ${LEVELS.join(", ")}, or 1 to 5.`);
    const words = (column: "can" | "cannot") =>
      of(column)
        .split(";")
        .map((w) => w.trim())
        .filter(Boolean)
        .filter((word) => {
          try {
            readWord(word);
            return true;
          } catch (wrong) {
            fault(line, column, (wrong as Error).message);
            return false;
          }
        });
    const [can, cannot] = [words("can"), words("cannot")];
    if (faults.length > before || !on || !level) continue;
    if (learners.length >= MOST_LEARNERS) {
      fault(line, null, `A group has ${MOST_LEARNERS} learners at most; the rest of the table is left out.`);
      break;
    }
    learners.push({
      name,
      instrument: on.name,
      tuning:
        isPitched(on) && tuning
          ? (on.tunings.find((t) => t.name.toLowerCase() === tuning.toLowerCase())?.name ?? tuning)
          : null,
      level,
      can,
      cannot,
      seat: of("seat").slice(0, 40),
      notes: of("notes").slice(0, 2000),
    });
  }
  return { learners, faults };
}

const tuningNames = ({ tunings }: Instrument): string => tunings.map((t) => t.name).join(", ") || "none";
const levelOf = (text: string) =>
  LEVELS.find((l, i) => l.toLowerCase() === text.toLowerCase() || String(i + 1) === text);

const quoted = (cell: string): string => (/[",\n\r;]/.test(cell) ? `"${cell.replaceAll('"', '""')}"` : cell);
/** A cell that a spreadsheet would take for a formula is written as text. */
const safe = (cell: string): string => (/^[=+@\t-]/.test(cell) ? `'${cell}` : cell);

/** A group as a table that `readRoster` reads. */
export const writeRoster = (learners: readonly Learner[]): string =>
  [
    COLUMNS.join(","),
    ...learners.map((l) =>
      [l.name, l.instrument, l.tuning ?? "", l.level, l.can.join(";"), l.cannot.join(";"), l.seat, l.notes]
        .map((cell) => quoted(safe(cell)))
        .join(","),
    ),
    "",
  ].join("\r\n");
