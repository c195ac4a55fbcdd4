import type { Barline, Mark } from "../../score";
import type { Mode } from "../../theory";

/**
 * Decorations as ABC 2.1 (4.14) writes them; several old names lead to one mark. The first name listed for a mark is
 * written.
 */
export const DECORATIONS: readonly (readonly [string, Mark])[] = [
  ["accent", "accent"],
  ["emphasis", "accent"],
  [">", "accent"],
  ["staccato", "staccato"],
  ["tenuto", "tenuto"],
  ["umarcato", "marcato"],
  ["marcato", "marcato"],
  ["fermata", "fermata"],
  ["invertedfermata", "fermata"],
  ["trill", "trill"],
  ["roll", "roll"],
  ["irishroll", "roll"],
  ["uppermordent", "mordent"],
  ["pralltriller", "mordent"],
  ["lowermordent", "lower mordent"],
  ["mordent", "lower mordent"],
  ["turn", "turn"],
  ["style=x", "ghost"],
  ["upbow", "up-bow"],
  ["downbow", "down-bow"],
  ["slide", "slide"],
  ["breath", "breath"],
  ["segno", "segno"],
  ["coda", "coda"],
  ["fine", "fine"],
  ["D.C.", "da capo"],
  ["D.S.", "dal segno"],
  ["open", "open"],
  ["thumb", "thumb"],
  ["wedge", "wedge"],
  ["0", "finger 0"],
  ["1", "finger 1"],
  ["2", "finger 2"],
  ["3", "finger 3"],
  ["4", "finger 4"],
  ["5", "finger 5"],
  ["pppp", "pppp"],
  ["ppp", "ppp"],
  ["pp", "pp"],
  ["p", "p"],
  ["mp", "mp"],
  ["mf", "mf"],
  ["f", "f"],
  ["ff", "ff"],
  ["fff", "fff"],
  ["ffff", "ffff"],
  ["sfz", "sfz"],
  ["crescendo(", "crescendo start"],
  ["<(", "crescendo start"],
  ["crescendo)", "crescendo end"],
  ["<)", "crescendo end"],
  ["diminuendo(", "diminuendo start"],
  [">(", "diminuendo start"],
  ["diminuendo)", "diminuendo end"],
  [">)", "diminuendo end"],
];

/** Marks written by the short sign of ABC 2.1 (4.14), which every reader knows; the others are written by name. */
export const SHORT_SIGNS: Partial<Record<Mark, string>> = {
  staccato: ".",
  roll: "~",
  fermata: "H",
  accent: "L",
  trill: "T",
  "up-bow": "u",
  "down-bow": "v",
  "lower mordent": "M",
  mordent: "P",
  segno: "S",
  coda: "O",
};

/** Mode words by their first three letters (ABC 2.1, 3.1.14). */
export const MODE_WORDS: Record<string, Mode> = {
  "": "major",
  maj: "major",
  ion: "major",
  m: "minor",
  min: "minor",
  aeo: "minor",
  mix: "mixolydian",
  dor: "dorian",
  phr: "phrygian",
  lyd: "lydian",
  loc: "locrian",
};

/** How each mode is written after the tonic. */
export const MODE_SUFFIX: Record<Mode, string> = {
  major: "",
  minor: "min",
  mixolydian: "mix",
  dorian: "dor",
  phrygian: "phr",
  lydian: "lyd",
  locrian: "loc",
};

/** Bar lines as the reader names them, with how the bar closes and what they repeat. */
export const BARLINES: Record<string, { barline: Barline; starts?: true; ends?: true }> = {
  bar_thin: { barline: "single" },
  bar_thin_thin: { barline: "double" },
  bar_thin_thick: { barline: "final" },
  bar_thick_thin: { barline: "heavy" },
  bar_dotted: { barline: "dotted" },
  bar_invisible: { barline: "single" },
  bar_left_repeat: { barline: "single", starts: true },
  bar_right_repeat: { barline: "final", ends: true },
  bar_dbl_repeat: { barline: "final", starts: true, ends: true },
};

/** How each closing bar line is written. */
export const BARLINE_SIGN: Record<Barline, string> = {
  single: "|",
  double: "||",
  final: "|]",
  heavy: "[|",
  dotted: ".|",
};
