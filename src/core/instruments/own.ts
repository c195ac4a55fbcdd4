import { z } from "zod";
import { midi, type Pitch, parsePitch, pitchName } from "../theory";
import { CAUTIONS, FINGERS, REACHES, SPANS, SPEEDS } from "./byLevel";
import { LEVELS, type Level } from "./model";
import { spacingOf } from "./levels";
import { CLEFS, FAMILIES, type Fret, Hand, Instrument, type Reach, type Tuning } from "./model";
import { lowestOf, readFrets, readTunings, writeFrets, writeTunings } from "./written";

type Five<T> = [T, T, T, T, T];

const Text = z.string().max(2000);
const FiveTexts = z.tuple([Text, Text, Text, Text, Text]);

/** An instrument as a teacher writes it: every field is text, as it stands in its box. Empty ones take the usual. */
export const OwnDraft = z.object({
  name: Text,
  family: Text,
  clef: Text,
  /** Octaves from the written to the sounding pitch: -1 for a guitar. */
  octaves: Text,
  /** The General MIDI program from 0. */
  program: Text,
  /** A tuning a line, its lowest string first. */
  tunings: Text,
  hand: Text,
  frets: Text,
  scale: Text,
  lowest: Text,
  highest: Text,
  /** By level: "7", or "5 on 2 3" where it keeps to some strings. */
  reach: FiveTexts,
  /** By level: "4/4/5". */
  spans: FiveTexts,
  /** By level: "D5 B6"; without strings. */
  ranges: FiveTexts,
  speed: FiveTexts,
  fingers: Text,
  /** A line each. */
  cautions: Text,
  source: Text,
});
export type OwnDraft = z.infer<typeof OwnDraft>;
export type OwnField = keyof OwnDraft;
/** What is wrong in a field, and what to do; the level where it has one for each. */
export type OwnFault = { field: OwnField; level?: Level; words: string };

const NAMES = 40;

/** Reads one field: its value, or why not. */
class Reader {
  readonly faults: OwnFault[] = [];
  read<T>(field: OwnField, make: () => T, other: T, level?: Level): T {
    try {
      return make();
    } catch (wrong) {
      const words = wrong instanceof RangeError ? wrong.message : "This cannot be read.";
      this.faults.push({ field, ...(level ? { level } : {}), words });
      return other;
    }
  }
}

const refuse = (words: string): never => {
  throw new RangeError(words);
};
function oneOf<T extends string>(of: readonly T[], text: string, what: string): T {
  return of.find((x) => x === text.trim()) ?? refuse(`Choose ${what}: ${of.join(", ")}.`);
}
function numberIn(text: string, least: number, most: number, what: string): number {
  const value = Number(text.trim());
  const fits = text.trim() !== "" && value >= least && value <= most;
  return fits ? value : refuse(`Write ${what}, from ${least} to ${most}.`);
}
function wholeIn(text: string, least: number, most: number, what: string): number {
  const value = numberIn(text, least, most, what);
  return Number.isInteger(value) ? value : refuse(`Write ${what} as a whole number.`);
}
const five = <T>(make: (i: number) => T): Five<T> => [0, 1, 2, 3, 4].map(make) as Five<T>;

function readReach(text: string, strings: number): Reach {
  const match = /^(\d{1,2})(?:\s+on\s+([\d\s,]+))?$/.exec(text.trim());
  if (!match) return refuse('Write the highest fret: 7. For some strings only: "5 on 2 3".');
  const highest = wholeIn(match[1] ?? "", 1, 24, "the highest fret");
  if (!match[2]) return { highest };
  const on = match[2]
    .split(/[\s,]+/)
    .filter(Boolean)
    .map(Number);
  const foreign = on.find((s) => s < 1 || s > strings);
  if (foreign !== undefined) return refuse(`There is no string ${foreign}; strings are counted from 1 to ${strings}.`);
  return { strings: [...new Set(on)].sort((a, b) => a - b), highest };
}
function readSpan(text: string): [number, number, number] {
  const parts = text.trim().split("/");
  if (parts.length !== 3) return refuse("Write three spans: near the nut, farther up, up the neck: 4/4/5.");
  return parts.map((p) => wholeIn(p, 1, 12, "how many frets the hand spans")) as [number, number, number];
}
function readRange(text: string): { lowest: Pitch; highest: Pitch } {
  const [low = "", high = "", more] = text.trim().split(/\s+/);
  if (!high || more) return refuse("Write the lowest and the highest note: D5 B6.");
  const [lowest, highest] = [parsePitch(low), parsePitch(high)];
  return midi(lowest) < midi(highest) ? { lowest, highest } : refuse("The lower note comes first: D5 B6.");
}

/** A level never has less than the one before it. */
function growing(reader: Reader, field: OwnField, values: readonly number[]): void {
  values.forEach((v, i) => {
    const [before, level] = [LEVELS[i - 1], LEVELS[i]];
    if (before && level && v < (values[i - 1] ?? 0))
      reader.faults.push({ field, level, words: `${level} has less than ${before}. Give it as much, or more.` });
  });
}

/** The usual reach of strings that nothing is said of. */
const usualReach = (hand: Hand): Five<Reach> =>
  ({ violin: REACHES.violin, cello: REACHES.cello, frets: REACHES.ukulele })[hand];

type Strung = Pick<Instrument, "strings" | "tunings"> &
  Partial<Pick<Instrument, "hand" | "frets" | "scale" | "reach" | "spans">>;

function readStrings(draft: OwnDraft, reader: Reader): Strung {
  const tunings = reader.read<Tuning[]>("tunings", () => readTunings(draft.tunings), []);
  const strings = tunings[0]?.strings ?? [];
  if (strings.length === 0) return { strings, tunings };
  const hand = reader.read("hand", () => oneOf(Hand.options, draft.hand, "how the hand finds notes"), "frets");
  const frets = hand === "frets" ? reader.read<Fret[]>("frets", () => readFrets(draft.frets || "15"), []) : undefined;
  const scale = reader.read(
    "scale",
    () => numberIn(draft.scale || "35", 20, 120, "the length of its strings in centimetres"),
    35,
  );
  const spacing = spacingOf({ hand, scale, frets });
  const known = { reach: usualReach(hand), spans: SPANS[spacing] };
  const reach = five((i) => {
    const usual = known.reach[i] as Reach;
    const text = draft.reach[i] ?? "";
    return text.trim() ? reader.read("reach", () => readReach(text, strings.length), usual, LEVELS[i]) : usual;
  });
  growing(
    reader,
    "reach",
    reach.map((r) => r.highest),
  );
  const spans = five((i) => {
    const usual = known.spans.frets[i] as [number, number, number];
    const text = draft.spans[i] ?? "";
    return text.trim() ? reader.read("spans", () => readSpan(text), usual, LEVELS[i]) : usual;
  });
  for (const k of [0, 1, 2] as const)
    growing(
      reader,
      "spans",
      spans.map((s) => s[k]),
    );
  return {
    strings,
    tunings,
    hand,
    reach,
    spans: { ...known.spans, frets: spans },
    ...(frets ? { frets, scale } : {}),
  };
}

/** An instrument as it was written, or everything that is wrong with it, field by field. */
export function readOwn(draft: OwnDraft): { made: Instrument } | { faults: OwnFault[] } {
  const reader = new Reader();
  const name = reader.read(
    "name",
    () => {
      const said = draft.name.replace(/\s+/g, " ").trim();
      if (said === "") return refuse("Give it a name.");
      return said.length <= NAMES ? said : refuse(`A name has ${NAMES} letters at most.`);
    },
    "",
  );
  const family = reader.read("family", () => oneOf(FAMILIES, draft.family, "a family"), "plucked");
  const clef = reader.read("clef", () => oneOf(CLEFS, draft.clef, "a clef"), "treble");
  const octaves = reader.read("octaves", () => wholeIn(draft.octaves || "0", -2, 2, "octaves from page to sound"), 0);
  const program = reader.read("program", () => wholeIn(draft.program, 0, 127, "a sound"), 0);
  const strung = readStrings(draft, reader);
  const own = strung.tunings[0] && lowestOf(strung.tunings[0]);
  const lowest = own ?? reader.read("lowest", () => parsePitch(draft.lowest.trim()), parsePitch("C4"));
  const highest = reader.read("highest", () => parsePitch(draft.highest.trim()), parsePitch("C9"));
  if (midi(lowest) >= midi(highest))
    reader.faults.push({ field: "highest", words: `The highest note lies above ${pitchName(lowest)}, the lowest.` });
  const ranges =
    strung.strings.length > 0 || draft.ranges.every((r) => r.trim() === "")
      ? undefined
      : five((i) => reader.read("ranges", () => readRange(draft.ranges[i] ?? ""), { lowest, highest }, LEVELS[i]));
  const speed = five((i) => {
    const text = draft.speed[i] ?? "";
    const usual = SPEEDS.others[i] as number;
    return text.trim()
      ? reader.read("speed", () => numberIn(text, 0.5, 20, "notes a second"), usual, LEVELS[i])
      : usual;
  });
  growing(reader, "speed", speed);
  if (reader.faults.length > 0) return { faults: reader.faults };
  const cautions = draft.cautions
    .split("\n")
    .map((l) => l.trim())
    .filter(Boolean);
  const found = Instrument.safeParse({
    name,
    family,
    lowest,
    highest,
    clef,
    transposition: 12 * octaves,
    program,
    ...strung,
    ...(ranges ? { ranges } : {}),
    speed,
    fingers: draft.fingers.trim() || FINGERS[strung.hand ?? "none"],
    cautions: cautions.length > 0 ? cautions : CAUTIONS[family],
    source: draft.source.trim() || "my own",
  });
  if (found.success) return { made: found.data };
  const faults = found.error.issues.map((issue): OwnFault => {
    const field = String(issue.path[0] ?? "name") as OwnField;
    return { field: Object.hasOwn(draft, field) ? field : "name", words: issue.message };
  });
  return { faults };
}

/** An instrument as it would be written, to change it. */
export function draftOf(on: Instrument): OwnDraft {
  const { reach, spans, ranges } = on;
  return {
    name: on.name,
    family: on.family,
    clef: on.clef,
    octaves: String(on.transposition / 12),
    program: String(on.program),
    tunings: writeTunings(on.tunings),
    hand: on.hand ?? "",
    frets: on.frets ? writeFrets(on.frets) : "",
    scale: on.scale ? String(on.scale) : "",
    lowest: pitchName(on.lowest),
    highest: pitchName(on.highest),
    reach: five((i) => (reach?.[i] ? reachText(reach[i]) : "")),
    spans: five((i) => spans?.frets[i]?.join("/") ?? ""),
    ranges: five((i) => (ranges?.[i] ? `${pitchName(ranges[i].lowest)} ${pitchName(ranges[i].highest)}` : "")),
    speed: five((i) => String(on.speed[i] ?? "")),
    fingers: on.fingers,
    cautions: on.cautions.join("\n"),
    source: on.source,
  };
}
const reachText = ({ strings, highest }: Reach): string =>
  strings ? `${highest} on ${strings.join(" ")}` : String(highest);
