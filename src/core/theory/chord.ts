import { Chord as Dictionary, Note } from "tonal";
import { type Key, scale } from "./key";
import { className, parseClass, semitoneOf, stepIndex } from "./pitch";

/** A chord as musicians read it: its symbol, root, the quality written after the root, bass, and chord notes. */
export type Chord = {
  symbol: string;
  root: string;
  suffix: string;
  bass: string | undefined;
  /** Note names from the root up, spelled. */
  tones: readonly string[];
  /** Pitch classes of the chord notes, in semitones above C, in the same order. */
  classes: readonly number[];
};

/** Accidental signs and quality spellings seen in old books, and what they mean here. */
const plainSigns = (text: string) =>
  text
    .trim()
    .replaceAll("♯", "#")
    .replaceAll("♭", "b")
    .replaceAll("♮", "")
    .replace(/[(){}\s]/g, "")
    .replace(/^([A-Ga-g][#b]?)(?:min|mi|-)(?!.*maj)/, "$1m")
    .replace(/^([A-G][#b]?)°/, "$1dim");

const cache = new Map<string, Chord | null>();

/** Reads a chord symbol such as `D`, `Em7`, `A/C#`. Gives null for text that is not a chord ("N.C.", "slowly"). */
export function parseChord(text: string): Chord | null {
  const known = cache.get(text);
  if (known !== undefined) return known;
  const chord = readChord(plainSigns(text));
  if (cache.size < 2000) cache.set(text, chord);
  return chord;
}

function readChord(text: string): Chord | null {
  const match = /^([A-Ga-g])(#{1,2}|b{1,2})?([^/]*)(?:\/([A-Ga-g](?:#{1,2}|b{1,2})?))?$/.exec(text);
  if (!match) return null;
  const [, letter = "", sign = "", suffix = "", bassText] = match;
  const root = letter.toUpperCase() + sign;
  const found = Dictionary.get([root, suffix]);
  if (found.empty || !found.tonic) return null;
  const bass = bassText ? bassText[0]?.toUpperCase() + bassText.slice(1) : undefined;
  const tones = found.notes.map((name) => (/^[A-G](#{0,3}|b{0,3})$/.test(name) ? name : Note.simplify(name)));
  return {
    symbol: root + suffix + (bass ? `/${bass}` : ""),
    root,
    suffix,
    bass,
    tones,
    classes: tones.map(semitoneOf),
  };
}

/** The chord of a symbol known to be good; throws a RangeError otherwise. */
export function chord(symbol: string): Chord {
  const found = parseChord(symbol);
  if (!found) throw new RangeError(`"${symbol}" is not a chord. Write a root and a quality: Em, A7, D/F#.`);
  return found;
}

const NUMERALS = ["I", "II", "III", "IV", "V", "VI", "VII"];
const isMinor = (c: Chord) =>
  c.classes.includes((semitoneOf(c.root) + 3) % 12) && !c.classes.includes((semitoneOf(c.root) + 4) % 12);

/**
 * Roman numeral of a chord in a key, small letters for minor; a root outside the major scale carries its sign.
 * `roman(chord("C"), D mixolydian) // => "bVII"`
 */
export function roman(c: Chord, key: Key): string {
  const root = parseClass(c.root);
  const tonic = parseClass(key.tonic);
  const degree = (stepIndex(root.step) - stepIndex(tonic.step) + 7) % 7;
  const major = parseClass(scale({ tonic: key.tonic, mode: "major" })[degree] as string);
  const offset = root.alter - major.alter;
  const sign = offset < 0 ? "b".repeat(-offset) : "#".repeat(offset);
  const numeral = NUMERALS[degree] as string;
  const rest = c.suffix
    .replace(/^m(?!aj)/, "")
    .replace(/^dim/, "o")
    .replace(/^aug/, "+");
  return sign + (isMinor(c) ? numeral.toLowerCase() : numeral) + rest;
}

/**
 * Which chord note a pitch class is: "root", "third", "fifth", "seventh", or undefined for a note outside the chord.
 */
export function chordNoteName(c: Chord, pitchClass: number): string | undefined {
  const place = c.classes.indexOf(((pitchClass % 12) + 12) % 12);
  if (place < 0) return undefined;
  const steps = (stepIndex(parseClass(c.tones[place] as string).step) - stepIndex(parseClass(c.root).step) + 7) % 7;
  return ["root", "second", "third", "fourth", "fifth", "sixth", "seventh"][steps];
}

/** How the chord is read aloud: `chordWords(chord("Em")) // => "E minor"`. */
export function chordWords(c: Chord): string {
  const quality = (
    {
      "": "major",
      m: "minor",
      "7": "seventh",
      m7: "minor seventh",
      "5": "open fifth",
      dim: "diminished",
      aug: "augmented",
    } as Record<string, string>
  )[c.suffix];
  return `${c.root} ${quality ?? c.suffix}${c.bass ? ` over ${c.bass}` : ""}`;
}

/** Triad of the scale on a degree (1 to 7), from the key's own notes. */
export function triadOn(degree: number, key: Key): Chord {
  const notes = scale(key);
  const [root, third, fifth] = [0, 2, 4].map((i) => notes[(degree - 1 + i) % 7] as string) as [string, string, string];
  const up = (name: string) => (semitoneOf(name) - semitoneOf(root) + 12) % 12;
  const ofMajor = up(fifth) === 8 ? "aug" : "";
  const ofMinor = up(fifth) === 6 ? "dim" : "m";
  const suffix = up(third) === 4 ? ofMajor : ofMinor;
  return chord(className(parseClass(root)) + suffix);
}

/**
 * Functions by root (semitones above the tonic) and third, in keys with a major and with a minor third (Maler,
 * Harmonielehre: T, S, D; p for the parallel, small for minor, doubled for one fifth further).
 */
const FUNCTIONS: Record<"bright" | "dark", Record<string, string>> = {
  bright: {
    "0": "T",
    "0m": "t",
    "2": "DD",
    "2m": "Sp",
    "3": "tP",
    "4m": "Dp",
    "5": "S",
    "5m": "s",
    "7": "D",
    "7m": "d",
    "8": "sP",
    "9m": "Tp",
    "10": "SS",
  },
  dark: {
    "0": "T",
    "0m": "t",
    "1": "sN",
    "2": "DD",
    "3": "tP",
    "5": "S",
    "5m": "s",
    "7": "D",
    "7m": "d",
    "8": "sP",
    "10": "dP",
  },
};

/**
 * What a chord does in its key, as a letter: tonic T, subdominant S, dominant D and their relatives; the Roman numeral
 * where the table has none. `functionOf(chord("Em"), G major) // => "Tp"`
 */
export function functionOf(c: Chord, key: Key): string {
  const above = (semitoneOf(c.root) - semitoneOf(key.tonic) + 12) % 12;
  const dark = ["dorian", "minor", "phrygian", "locrian"].includes(key.mode);
  const name = FUNCTIONS[dark ? "dark" : "bright"][`${above}${isMinor(c) ? "m" : ""}`];
  return name ? name + c.suffix.replace(/^m(?!aj)/, "").replace(/^5$/, "") : roman(c, key);
}

/** Ways to write a chord. */
export const CHORD_NAMES = ["letters", "numerals", "functions"] as const;
export type ChordNames = (typeof CHORD_NAMES)[number];

/** A chord symbol in the chosen way; text that is no chord stays as it is. */
export function nameChord(symbol: string, key: Key, names: ChordNames): string {
  const found = names === "letters" ? null : parseChord(symbol);
  if (!found) return symbol;
  const bass = found.bass ? `/${found.bass}` : "";
  return (names === "numerals" ? roman(found, key) : functionOf(found, key)) + bass;
}
