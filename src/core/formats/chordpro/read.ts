import { parseChord } from "../../theory";
import { FormatError } from "../problem";

/** A chord over a place in the words: `letters` letters and digits of the verse come before it. */
export type SungChord = { symbol: string; letters: number; line: number };
export type SongSheet = {
  title: string;
  /** The words, letters and digits only, small. */
  letters: string;
  chords: SungChord[];
  remarks: string[];
};

const LIMIT = 60_000;
const LONGEST_LINE = 2000;
export const lettersOf = (text: string): string =>
  text
    .normalize("NFD")
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]/gu, "");

/** Directives that open and close parts without words to sing. */
const SILENT = /^(start_of_|so)(tab|grid|abc|ly|svg|textblock|t|g)\b/;
const SPOKEN_END = /^(end_of_|eo)(tab|grid|abc|ly|svg|textblock|t|g)\b/;

/**
 * Reads a ChordPro song sheet (chordpro.org, version 6): title, words and the chords over them. Tablature, grids and
 * comments are passed over; brackets that hold no
 * chord are named in the remarks. Throws a FormatError for text that is too long or holds no chord.
 */
export function readChordPro(text: string): SongSheet {
  if (text.length > LIMIT)
    throw new FormatError("This song sheet is longer than 60,000 characters. Bring in one song at a time.", {
      line: 1,
      column: 1,
    });
  const chords: SungChord[] = [];
  const remarks: string[] = [];
  let [title, letters, silent] = ["", "", false];
  text.split(/\r\n|\r|\n/).forEach((raw, i) => {
    if (raw.length > LONGEST_LINE)
      throw new FormatError(`This line is longer than ${LONGEST_LINE} characters; no line of a song is.`, {
        line: i + 1,
        column: LONGEST_LINE,
      });
    const directive = /^\s*\{\s*([^:}\s]+)\s*:?\s*([^}]*)\}/.exec(raw);
    if (directive) {
      const [, name = "", value = ""] = directive;
      if (/^(title|t)$/i.test(name) && !title) title = value.trim().slice(0, 400);
      if (SILENT.test(name.toLowerCase())) silent = true;
      if (SPOKEN_END.test(name.toLowerCase())) silent = false;
      return;
    }
    if (silent || raw.startsWith("#")) return;
    for (const piece of raw.matchAll(/\[([^\]]*)\]|([^[]+|\[)/g)) {
      const [, inside, words] = piece;
      if (inside === undefined) {
        letters += lettersOf(words ?? "");
        continue;
      }
      if (inside.startsWith("*")) continue;
      const chord = parseChord(inside);
      if (chord) chords.push({ symbol: chord.symbol, letters: letters.length, line: i + 1 });
      else
        remarks.push(
          `Line ${i + 1}, column ${(piece.index ?? 0) + 1}: "${inside.slice(0, 24)}" is not a chord; left out.`,
        );
    }
  });
  if (chords.length === 0)
    throw new FormatError(
      "No chord stands in this song sheet. Write chords in square brackets before the syllable they fall on, " +
        "such as [G]Down by the [D]quay.",
      { line: 1, column: 1 },
    );
  return { title, letters, chords, remarks };
}
