import { parseArgs } from "node:util";
import { STYLES, type Style, THREE_CHORD } from "../core/chords";
import { type Groove, GROOVES, grooveOf } from "../core/feel";
import { SCHOOLS, type School } from "../core/harmony";
import {
  FIDDLE,
  INSTRUMENTS,
  type Instrument,
  instrument,
  isPitched,
  LEVELS,
  type Level,
  tuned,
} from "../core/instruments";
import type { Group } from "../core/grading";
import { DOUBLINGS, KINDS, type Kind } from "../core/technique";
import { type Bowing, BOWINGS, type Plectrum, PLECTRUMS, STRUMS } from "../core/strokes";
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
  feel [--dance NAME] [--tempo BPM] [--strength PERCENT]
                                            the tune as it is danced: time, length and loudness of every note
  strokes --plan bowing|plectrum|strum [--style NAME] [--instrument NAME] [--tuning NAME] [--tempo BPM]
          [--lock PLACE=down|up]...
                                            every bow, pick or strum, with reasons
  arrange [--instrument NAME] [--tuning NAME] [--capo N] [--kind melody|"double stops"|"melody with chords"|roll]
          [--level NAME] [--doubling single|alternating|full] [--lock PLACE=STRING:FRET]...
                                            strings, frets and fingers of every note, with reasons
  difficulty --instrument NAME [--tempo BPM] [--beat quarter|half|"dotted quarter"]
                                            how hard the tune is, 0 to 100, by features and bars
  parts --group FILE.csv [--tempo BPM] [--without NAME]...
                                            a part for everyone: roles, notes, limits, roadmap, fit
  instruments                               the catalogue: tunings, frets and ranges of every instrument
  convert --to abc|musicxml|midi [--out DIR]
  backup [list|make|restore NAME]           the backups of the collection (backup --help)

  --lock BAR[/ENDING]:BEAT[+QUARTERS]=VALUE settles a chord, a note such as F#4, or a rest; as often as you like
  --part N  the part of a score or track of a MIDI file to take, counted from 1
  --notes   also print what was mended while reading; what was left out is always told
  --help    this page
Styles: ${names(STYLES)}. Schools: ${names(SCHOOLS)}.
Instruments: ${names(INSTRUMENTS)}.
Dances: ${names(GROOVES)}. Bowings: ${names(BOWINGS)}. Plectrum: ${names(PLECTRUMS)}. Strums: ${names(STRUMS)}.
Exit status: 0 all tunes done, 1 some refused (the others are done), 2 wrong usage.`;

const FORMATS = ["abc", "musicxml", "midi"] as const;
export type Format = (typeof FORMATS)[number];
const SIDES = ["below", "above"] as const;
const PLANS = ["bowing", "plectrum", "strum"] as const;
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
  tuning: string | undefined;
  /** The dance by its name; the tune's own where none is asked for. */
  dance: Groove | undefined;
  /** Felt beats a minute. */
  tempo: number | undefined;
  strength: number;
  plan: (typeof PLANS)[number];
  bowing: Bowing;
  plectrum: Plectrum;
  strum: string | undefined;
  kind: Kind;
  level: Level;
  capo: number;
  doubling: (typeof DOUBLINGS)[number];
  /** What the tempo counts; felt beats where nothing is said. */
  beat: "quarter" | "half" | "dotted quarter" | undefined;
  /** A file of learners, the group read from it, and who is not there. */
  groupFile: string | undefined;
  group: Group | undefined;
  without: readonly string[];
  locks: readonly LockWish[];
  to: Format;
  out: string | undefined;
};

/** Options each verb takes besides --help, --notes and --part. */
const TAKES = {
  analyse: ["infer-key", "infer-type"],
  chords: ["style", "infer", "lock"],
  harmony: ["school", "side", "instrument", "style", "infer", "lock"],
  feel: ["dance", "tempo", "strength"],
  strokes: ["plan", "style", "instrument", "tuning", "tempo", "lock"],
  arrange: ["instrument", "tuning", "capo", "kind", "level", "doubling", "tempo", "lock"],
  difficulty: ["instrument", "tuning", "tempo", "beat"],
  parts: ["group", "without", "tempo", "beat", "style", "infer"],
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
      dance: { type: "string" },
      tempo: { type: "string" },
      strength: { type: "string" },
      plan: { type: "string" },
      kind: { type: "string" },
      level: { type: "string" },
      capo: { type: "string" },
      doubling: { type: "string" },
      tuning: { type: "string" },
      instrument: { type: "string" },
      beat: { type: "string" },
      group: { type: "string" },
      without: { type: "string", multiple: true },
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

/** What is strummed or picked where no instrument is named. */
const USUAL: Readonly<Record<string, string>> = { strum: "guitar", plectrum: "mandolin" };

function optionsOf(verb: Verb, values: Values): Options {
  const strokes = verb === "strokes";
  const {
    style = strokes ? undefined : "Three-chord",
    school = "Chord-fit",
    side,
    instrument: on = strokes ? (USUAL[values.plan ?? ""] ?? FIDDLE.name) : FIDDLE.name,
    to,
    out,
  } = values;
  return {
    inferKey: values["infer-key"] ?? false,
    inferType: values["infer-type"] ?? false,
    part: partOf(values.part),
    infer: values.infer ?? false,
    notes: values.notes ?? false,
    style: strokes
      ? THREE_CHORD
      : chosen(named(STYLES, style ?? ""), `There is no style "${style}". Styles: ${names(STYLES)}.`),
    school: chosen(named(SCHOOLS, school), `There is no school "${school}". Schools: ${names(SCHOOLS)}.`),
    side: side === undefined ? undefined : sideOf(side),
    instrument: instrumentOf(on, values.tuning),
    tuning: values.tuning,
    dance: values.dance === undefined ? undefined : danceOf(values.dance),
    tempo: numberOf("tempo", values.tempo, 10, 600),
    strength: numberOf("strength", values.strength, 0, 200) ?? 100,
    ...strokesOf(verb, values.plan, style),
    kind: kindOf(values.kind),
    level: levelOf(values.level),
    capo: numberOf("capo", values.capo, 0, 12) ?? 0,
    doubling: chosen(
      DOUBLINGS.find((d) => d === (values.doubling ?? "alternating")),
      `--doubling is ${DOUBLINGS.join(", ")}, not "${values.doubling}".`,
    ),
    beat: values.beat === undefined ? undefined : beatOf(values.beat),
    groupFile: verb === "parts" ? chosen(values.group, "parts needs --group FILE.csv.") : undefined,
    group: undefined,
    without: values.without ?? [],
    locks: (values.lock ?? []).map((text) => chosen(readLock(text), LOCK_WORDS(text))),
    to: formatOf(verb, to, out),
    out,
  };
}

function instrumentOf(name: string, tuning: string | undefined): Instrument {
  const found = chosen(instrument(name), `There is no instrument "${name}". Instruments: ${names(INSTRUMENTS)}.`);
  if (!isPitched(found) && tuning === undefined)
    throw new Usage(`The ${found.name} has no pitches. Name another instrument.`);
  if (tuning === undefined) return found;
  return chosen(
    tuned(found, tuning),
    `The ${found.name} has no tuning "${tuning}". Tunings: ${names(found.tunings) || "none"}.`,
  );
}
const danceOf = (name: string): Groove =>
  chosen(grooveOf(name), `There is no dance "${name}". Dances: ${names(GROOVES)}.`);

function numberOf(name: string, text: string | undefined, least: number, most: number): number | undefined {
  if (text === undefined) return undefined;
  const value = Number(text);
  if (!(value >= least && value <= most))
    throw new Usage(`--${name} is a number from ${least} to ${most}, not "${text}".`);
  return value;
}

const BEATS = ["quarter", "half", "dotted quarter"] as const;
const beatOf = (text: string) =>
  chosen(
    BEATS.find((b) => b === text.replaceAll("-", " ").toLowerCase()),
    `--beat is ${BEATS.join(", ")}, not "${text}".`,
  );

const kindOf = (text = KINDS[0] as string): Kind =>
  chosen(
    KINDS.find((k) => plain(k) === plain(text)),
    `There is no kind "${text}". Kinds: ${KINDS.join(", ")}.`,
  );
const levelOf = (text = LEVELS[4] as string): Level =>
  chosen(
    LEVELS.find((l) => plain(l) === plain(text)),
    `There is no level "${text}". Levels: ${LEVELS.join(", ")}.`,
  );

/** The plan that is asked for, and its style: the first of the plan's own where none is named. */
function strokesOf(verb: Verb, plan: string | undefined, style: string | undefined) {
  const none = { plan: "bowing" as const, bowing: BOWINGS[1].name, plectrum: PLECTRUMS[0].name, strum: undefined };
  if (verb !== "strokes") return none;
  const kind = chosen(
    PLANS.find((p) => p === plan),
    "strokes needs --plan bowing, --plan plectrum or --plan strum.",
  );
  if (style === undefined) return { ...none, plan: kind };
  const lists = { bowing: BOWINGS, plectrum: PLECTRUMS, strum: STRUMS };
  const found = chosen<{ name: string }>(
    named<{ name: string }>(lists[kind], style),
    `There is no ${kind} style "${style}". Styles: ${names(lists[kind])}.`,
  );
  return { ...none, plan: kind, [kind]: found.name };
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
