import { FormatError } from "../problem";

/** Most voices of one tune; the parser looks each one up among all. */
const MOST_VOICES = 60;

/** Header fields by their letter, each with its values in order, up to the key. */
export function headerFields(text: string): Map<string, string[]> {
  const fields = new Map<string, string[]>();
  for (const line of text.split("\n")) {
    const match = /^([A-Za-z]):([^%]*)/.exec(line);
    const [, letter, rest = ""] = match ?? [];
    if (!letter) continue;
    const value = rest.trim();
    const values = fields.get(letter);
    if (values) values.push(value);
    else fields.set(letter, [value]);
    if (letter === "K") break;
  }
  return fields;
}

/** Refuses what is a score of an orchestra rather than a tune. */
export function checkVoices(text: string, first: number) {
  const voices = new Set<string>();
  for (const [i, line] of text.split("\n").entries()) {
    if (line.startsWith("V:")) voices.add(line.slice(2).trim().split(/\s/, 1)[0] ?? "");
    if (voices.size > MOST_VOICES)
      throw new FormatError(`This tune has more than ${MOST_VOICES} voices. Leave those out that are not needed.`, {
        line: first + i,
        column: 1,
      });
  }
}

/** What may stand in a K: field besides a tonic, by the ABC standard: clefs and their settings. */
const SETTINGS = "clef treble alto tenor bass perc middle m= octave transpose score staff stafflines cue style shift";
const GOOD_KEY = new RegExp(`^([A-G]|HP\\b|none\\b|[\\^_=][_^]?[a-g]|(${SETTINGS.replaceAll(" ", "|")})\\b)`, "i");

/** The one field that nothing can be guessed for when it is wrong. */
export function checkKey(text: string, first: number) {
  const lines = text.split("\n");
  for (const [i, line] of lines.entries()) {
    const value = line.slice(2).replace(/%.*/, "").trim();
    const column = 3 + (line.slice(2).length - line.slice(2).trimStart().length);
    if (line.startsWith("K:") && value && !GOOD_KEY.test(value)) {
      throw new FormatError(
        `"${value.slice(0, 40)}" is not a key. Write a tonic and a mode, such as K:D, K:Edor or K:Amix.`,
        { line: first + i, column },
      );
    }
    if (line.startsWith("K:")) return;
  }
}
