import Parse from "abcjs/src/parse/abc_parse.js";
import { laidTune, Tune } from "../../score";
import { spotsOf } from "../lines";
import { FormatError, type Remark, type Spot } from "../problem";
import { type Cutting, cutBook, LONGEST_TUNE } from "./book";
import { Builder } from "./builder";
import { checkKey, checkVoices, headerFields } from "./header";
import { tidy } from "./tidy";

/** Most remarks of the parser that are passed on. */
const MOST_REMARKS = 100;

export type ReadTune = { tune: Tune; remarks: Remark[]; index: number };

/** Reads one tune cut from a book. Throws a FormatError with line and column of the file. */
export function readAbcTune(cutting: Cutting): { tune: Tune; remarks: Remark[] } {
  if (cutting.text.length > LONGEST_TUNE) {
    throw new FormatError(`This tune is over ${LONGEST_TUNE} characters long. Split it into smaller tunes.`, {
      line: cutting.line,
      column: 1,
    });
  }
  const { text, remarks } = tidy(cutting.text, cutting.line);
  const header = cutting.header ? `${cutting.header}\n` : "";
  const spots = spotsOf(text);
  const spotOf = (offset: number): Spot => {
    const { line, column } = spots(offset - header.length);
    return { line: cutting.line + line - 1, column };
  };
  const fields = headerFields(header + text);
  checkVoices(text, cutting.line);
  const keyLine = text.split("\n").findIndex((l) => l.startsWith("K:"));
  if (keyLine < 0) {
    throw new FormatError("This tune has no key. Add a line such as K:D before the music.", {
      line: cutting.line,
      column: 1,
    });
  }
  checkKey(text, cutting.line);
  const parser = new Parse();
  const guarded = <T>(run: () => T): T => {
    try {
      return run();
    } catch (error) {
      if (error instanceof FormatError) throw error;
      throw new FormatError("The music could not be read. Look for a bracket, ending or decoration left open in it.", {
        line: cutting.line + keyLine,
        column: 1,
      });
    }
  };
  guarded(() => parser.parse(header + text, {}, 0));
  const warnings = (parser.getWarningObjects() ?? []).filter(
    (w) => !/Ignored header|font|directive|MIDI/i.test(w.message),
  );
  const unknown = new Map<string, { spot: Spot; times: number }>();
  for (const { message, startChar } of warnings.slice(0, MOST_REMARKS)) {
    const sign = (header + text)[startChar];
    if (!/^Unknown character/.test(message) || !sign) {
      remarks.push({
        ...spotOf(startChar),
        message: `${message}.`,
        ...(/^Expected/.test(message) ? { left: true } : {}),
      });
      continue;
    }
    const known = unknown.get(sign) ?? { spot: spotOf(startChar), times: 0 };
    unknown.set(sign, { ...known, times: known.times + 1 });
  }
  for (const [sign, { spot, times }] of unknown) {
    const often = times > 1 ? ` (${times} times)` : "";
    remarks.push({ ...spot, message: `“${sign}” means nothing here and was left out${often}.`, left: true });
  }
  if (warnings.length > MOST_REMARKS)
    remarks.push({ line: cutting.line, column: 1, message: `And ${warnings.length - MOST_REMARKS} more of the kind.` });
  const tune = guarded(() => new Builder(parser.getTune(), fields, spotOf, remarks).tune());
  if (!tune)
    throw new FormatError("This tune has a header but no notes. Add the music below the K: line.", {
      line: cutting.line + keyLine,
      column: 1,
    });
  const checked = Tune.safeParse(tune);
  if (!checked.success) {
    const issue = checked.error.issues[0];
    throw new FormatError(`Something in this tune is out of bounds (${issue?.path.join(".")}: ${issue?.message}).`, {
      line: cutting.line,
      column: 1,
    });
  }
  return { tune: laidTune(checked.data), remarks };
}

/**
 * Reads every tune of an ABC text. Refused tunes are listed with their reason and place; the others are read all the
 * same.
 */
export function readAbc(text: string): { tunes: ReadTune[]; refused: { error: FormatError; index: number }[] } {
  const tunes: ReadTune[] = [];
  const refused: { error: FormatError; index: number }[] = [];
  const cuttings = cutBook(text);
  if (cuttings.length === 0) {
    refused.push({
      index: 1,
      error: new FormatError("No tune found. A tune needs a K: line with its key, such as K:D, and notes below it.", {
        line: 1,
        column: 1,
      }),
    });
  }
  cuttings.forEach((cutting, i) => {
    try {
      tunes.push({ ...readAbcTune(cutting), index: i + 1 });
    } catch (error) {
      if (!(error instanceof FormatError)) throw error;
      refused.push({ error, index: i + 1 });
    }
  });
  return { tunes, refused };
}
