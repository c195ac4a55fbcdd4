import { parseArgs } from "node:util";
import { STYLES, type Style } from "../core/chords";
import { SCHOOLS, type School } from "../core/harmony";
import { FIDDLE, INSTRUMENTS, type Instrument, instrument } from "../core/instruments";
import { type LockWish, readLock } from "./locks";

const names = (list: readonly { name: string }[]) => list.map((item) => item.name).join(", ");

export const USAGE = `Usage: symphonos VERB [OPTION...] FILE...
Works through ABC, MusicXML (.musicxml, .xml, .mxl) and MIDI files, folders of them, or standard input (-), one JSON
line per tune.

  analyse [--infer-key] [--infer-type]      key, dance type, metre, form, phrases, inventory
  chords [--style NAME] [--infer] [--lock PLACE=CHORD]...
                                            a chord for every beat, with reasons and runners-up
  harmony [--school NAME] [--side below|above] [--instrument NAME] [--style NAME] [--infer] [--lock PLACE=NOTE]...
                                            a second line, note by note
  convert --to abc|musicxml|midi [--out DIR]
  backup [list|make|restore NAME]           the backups of the collection (backup --help)

  --lock BAR[/ENDING]:BEAT[+QUARTERS]=VALUE settles a chord, a note such as F#4, or a rest; as often as you like
  --part N  the part of a score or track of a MIDI file to take, counted from 1
  --notes   also print what was mended while reading; what was left out is always told
  --help    this page
Styles: ${names(STYLES)}. Schools: ${names(SCHOOLS)}.
Instruments: ${names(INSTRUMENTS)}.
Exit status: 0 all tunes done, 1 some refused (the others are done), 2 wrong usage.`;

const FORMATS = ["abc", "musicxml", "midi"] as const;
export type Format = (typeof FORMATS)[number];
const SIDES = ["below", "above"] as const;
export type Options = {
  inferKey: boolean;
  inferType: boolean;
  part: number | undefined;
  infer: boolean;
  notes: boolean;
  style: Style;
  school: School;
  /** Where none is asked for, the school's own. */
  side: (typeof SIDES)[number] | undefined;
  instrument: Instrument;
  locks: readonly LockWish[];
  to: Format;
  out: string | undefined;
};

/** Options each verb takes besides --help, --notes and --part. */
const TAKES = {
  analyse: ["infer-key", "infer-type"],
  chords: ["style", "infer", "lock"],
  harmony: ["school", "side", "instrument", "style", "infer", "lock"],
  convert: ["to", "out"],
} as const;
export type Verb = keyof typeof TAKES;
const VERBS = Object.keys(TAKES) as Verb[];
const EVERYWHERE = ["notes", "part", "help"];
export type Arguments = { verb: Verb; files: string[]; options: Options };

const plain = (name: string) => name.toLowerCase().replace(/[^a-z]/g, "");
const named = <T extends { name: string }>(list: readonly T[], name: string): T | undefined =>
  list.find((item) => plain(item.name) === plain(name));

/** What is wrong with the command line, and what to write instead. */
class Usage extends Error {}

/** A value out of those there are, or the usage that lists them. */
function chosen<T>(found: T | undefined, otherwise: string): T {
  if (found === undefined) throw new Usage(otherwise);
  return found;
}

const read = (argv: readonly string[]) =>
  parseArgs({
    args: [...argv],
    allowPositionals: true,
    options: {
      "infer-key": { type: "boolean" },
      "infer-type": { type: "boolean" },
      part: { type: "string" },
      infer: { type: "boolean" },
      notes: { type: "boolean" },
      help: { type: "boolean", short: "h" },
      style: { type: "string" },
      school: { type: "string" },
      side: { type: "string" },
      instrument: { type: "string" },
      lock: { type: "string", multiple: true },
      to: { type: "string" },
      out: { type: "string" },
    },
  });
type Values = ReturnType<typeof read>["values"];

/** Reads the command line; `wrong` says what to change. */
export function parseArguments(argv: readonly string[]): Arguments | { help: true } | { wrong: string } {
  try {
    const { values, positionals } = read(argv);
    if (values.help) return { help: true };
    const [word, ...files] = positionals;
    const verb = verbOf(word);
    const takes: readonly string[] = [...TAKES[verb], ...EVERYWHERE];
    const stranger = Object.keys(values).find((name) => !takes.includes(name));
    if (stranger) throw new Usage(`${verb} has no option --${stranger}.`);
    if (files.length === 0) throw new Usage("Name at least one file, a folder, or - for standard input.");
    return { verb, files, options: optionsOf(verb, values) };
  } catch (error) {
    return { wrong: error instanceof Error ? error.message : String(error) };
  }
}

function verbOf(word: string | undefined): Verb {
  const list = `${VERBS.slice(0, -1).join(", ")} or ${VERBS[VERBS.length - 1]}`;
  if (word === undefined) throw new Usage(`Name a verb: ${list}.`);
  return chosen(
    VERBS.find((v) => v === word),
    `"${word}" is not a verb. Use ${list}.`,
  );
}

function optionsOf(verb: Verb, values: Values): Options {
  const { style = "Three-chord", school = "Chord-fit", side, instrument: on = FIDDLE.name, to, out } = values;
  return {
    inferKey: values["infer-key"] ?? false,
    inferType: values["infer-type"] ?? false,
    part: partOf(values.part),
    infer: values.infer ?? false,
    notes: values.notes ?? false,
    style: chosen(named(STYLES, style), `There is no style "${style}". Styles: ${names(STYLES)}.`),
    school: chosen(named(SCHOOLS, school), `There is no school "${school}". Schools: ${names(SCHOOLS)}.`),
    side: side === undefined ? undefined : sideOf(side),
    instrument: chosen(instrument(on), `There is no instrument "${on}". Instruments: ${names(INSTRUMENTS)}.`),
    locks: (values.lock ?? []).map((text) => chosen(readLock(text), LOCK_WORDS(text))),
    to: formatOf(verb, to, out),
    out,
  };
}

const sideOf = (text: string) =>
  chosen(
    SIDES.find((s) => s === text),
    `--side is below or above, not "${text}".`,
  );

const LOCK_WORDS = (text: string) =>
  `"${text}" is not a lock. Write bar and beat, and what stands there: 8:1=Em, 8/2:1+2=A7 or 3:2.5=F#4.`;

function partOf(text: string | undefined): number | undefined {
  if (text === undefined) return undefined;
  const part = Number(text);
  if (!Number.isInteger(part) || part < 1) throw new Usage(`--part is a number from 1, not "${text}".`);
  return part - 1;
}

function formatOf(verb: Verb, to: string | undefined, out: string | undefined): Format {
  if (verb !== "convert") return "abc";
  const format = chosen(
    FORMATS.find((f) => f === to),
    "convert needs --to abc, --to musicxml or --to midi.",
  );
  if (format !== "abc" && !out) throw new Usage(`convert --to ${format} writes one file per tune: add --out DIR.`);
  return format;
}
