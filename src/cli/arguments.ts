import { parseArgs } from "node:util";
import { STYLES, type Style } from "../core/chords";
import { SCHOOLS, type School } from "../core/harmony";
import { FIDDLE, INSTRUMENTS, type Instrument, instrument } from "../core/instruments";

export const USAGE = `Usage: symphonos VERB [OPTION...] FILE...
Works through ABC, MusicXML (.musicxml, .xml, .mxl) and MIDI files, folders of them, or standard input (-), one JSON line per tune.

  analyse [--infer-key] [--infer-type]      key, dance type, metre, form, phrases, inventory
  chords [--style NAME] [--infer]           a chord for every beat, with reasons and runners-up
  harmony [--school NAME] [--side below|above] [--instrument NAME] [--style NAME]
                                            a second line, note by note
  convert --to abc|musicxml|midi [--out DIR]

  --part N  the part of a score or track of a MIDI file to take, counted from 1
  --notes   also print what was mended while reading
  --help    this page
Styles: ${STYLES.map((s) => s.name).join(", ")}. Schools: ${SCHOOLS.map((s) => s.name).join(", ")}.
Instruments: ${INSTRUMENTS.map((i) => i.name).join(", ")}.
Exit status: 0 all tunes done, 1 some refused (the others are done), 2 wrong usage.`;

export type Format = "abc" | "musicxml" | "midi";
export type Options = {
  inferKey: boolean;
  inferType: boolean;
  part: number | undefined;
  infer: boolean;
  notes: boolean;
  style: Style;
  school: School;
  side: "below" | "above";
  instrument: Instrument;
  to: Format;
  out: string | undefined;
};
export type Verb = "analyse" | "chords" | "harmony" | "convert";
export type Arguments = { verb: Verb; files: string[]; options: Options };

/** Options each verb takes besides --help, --notes and --part. */
const TAKES: Record<Verb, readonly string[]> = {
  analyse: ["infer-key", "infer-type"],
  chords: ["style", "infer"],
  harmony: ["school", "side", "instrument", "style", "infer"],
  convert: ["to", "out"],
};

const plain = (name: string) => name.toLowerCase().replace(/[^a-z]/g, "");
const named = <T extends { name: string }>(list: readonly T[], name: string | undefined, first: T): T | undefined =>
  name === undefined ? first : list.find((item) => plain(item.name) === plain(name));

/** Reads the command line; `wrong` says what to change. */
export function parseArguments(argv: readonly string[]): Arguments | { help: true } | { wrong: string } {
  let parsed: ReturnType<typeof read>;
  try {
    parsed = read(argv);
  } catch (error) {
    return { wrong: error instanceof Error ? error.message : String(error) };
  }
  const { values, positionals } = parsed;
  if (values.help) return { help: true };
  const [verb, ...files] = positionals;
  if (!verb) return { wrong: "Name a verb: analyse, chords, harmony or convert." };
  if (!(verb in TAKES)) return { wrong: `"${verb}" is not a verb. Use analyse, chords, harmony or convert.` };
  const takes = TAKES[verb as Verb];
  const stranger = Object.keys(values).find((name) => !takes.includes(name) && name !== "notes" && name !== "part");
  if (stranger) return { wrong: `${verb} has no option --${stranger}.` };
  if (files.length === 0) return { wrong: "Name at least one file, a folder, or - for standard input." };
  const style = named(STYLES, values.style, STYLES[0] as Style);
  if (!style) return { wrong: `There is no style "${values.style}". Styles: ${STYLES.map((s) => s.name).join(", ")}.` };
  const school = named(SCHOOLS, values.school, SCHOOLS.find((s) => s.name === "Chord-fit") as School);
  if (!school)
    return { wrong: `There is no school "${values.school}". Schools: ${SCHOOLS.map((s) => s.name).join(", ")}.` };
  const side = values.side ?? "below";
  if (side !== "below" && side !== "above") return { wrong: `--side is below or above, not "${side}".` };
  const player = values.instrument === undefined ? FIDDLE : instrument(values.instrument);
  if (!player)
    return {
      wrong: `There is no instrument "${values.instrument}". Instruments: ${INSTRUMENTS.map((i) => i.name).join(", ")}.`,
    };
  const to = values.to;
  if (verb === "convert" && to !== "abc" && to !== "musicxml" && to !== "midi")
    return { wrong: "convert needs --to abc, --to musicxml or --to midi." };
  if (verb === "convert" && to !== "abc" && !values.out)
    return { wrong: `convert --to ${to} writes one file per tune: add --out DIR.` };
  const part = values.part === undefined ? undefined : Number(values.part);
  if (part !== undefined && !(Number.isInteger(part) && part >= 1))
    return { wrong: `--part is a number from 1, not "${values.part}".` };
  return {
    verb: verb as Verb,
    files,
    options: {
      inferKey: values["infer-key"] ?? false,
      inferType: values["infer-type"] ?? false,
      part: part === undefined ? undefined : part - 1,
      infer: values.infer ?? false,
      notes: values.notes ?? false,
      style,
      school,
      side,
      instrument: player,
      to: (to ?? "abc") as Format,
      out: values.out,
    },
  };
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
      to: { type: "string" },
      out: { type: "string" },
    },
  });
