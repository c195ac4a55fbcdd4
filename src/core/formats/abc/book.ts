import type { Spot } from "../problem";

/**
 * One tune cut out of a book: its own text, the line it starts on (from 1), and lines of the file header that apply to
 * it.
 */
export type Cutting = { text: string; line: number; header: string };

/** The most characters one tune may have; anything longer is not a tune. */
export const LONGEST_TUNE = 60_000;

const FILE_FIELDS = /^[LMOSZRBCADFG]:/;
const isField = (line: string, letter: string) => line.startsWith(`${letter}:`);
const isMusic = (line: string) => !/^([A-Za-z+]:|%)/.test(line) && /[A-Ga-gz]/.test(line);

/**
 * Cuts a tune book into tunes, line by line, so that a book of any size streams through (ABC 2.1, 2.2).
 * A tune starts at `X:` and ends at an empty line or the next `X:`. An empty line before any music does not end it.
 * A block without `X:` counts when it has a `K:`. Text between tunes is left out.
 */
export class BookCutter {
  private lines: string[] = [];
  private start = 1;
  private size = 0;
  /** What the open tune has had so far. */
  private seen = { number: false, key: false, music: false };
  private number = 0;
  private header: string[] = [];
  private first = true;
  /** Where the cutter is; used for "no tune found". */
  get spot(): Spot {
    return { line: Math.max(1, this.number), column: 1 };
  }

  /** Takes the next line (without its line end); gives a finished tune when this line ends one. */
  push(line: string): Cutting | undefined {
    this.number += 1;
    const text = this.number === 1 ? line.replace(/^\uFEFF/, "") : line;
    if (text.trim() === "") return this.pausing() ? void this.keep(text) : this.finish();
    const done = isField(text, "X") ? this.finish() : undefined;
    this.keep(text);
    return done;
  }

  /** Ends the book; gives the last tune, if one is open. */
  end(): Cutting | undefined {
    return this.finish();
  }

  /** An empty line inside a tune that has no music yet. */
  private pausing() {
    return this.seen.number && !this.seen.music;
  }

  private keep(line: string) {
    if (this.lines.length === 0) this.start = this.number;
    // A monster is cut short here, so that memory stays flat, and refused when it is read.
    if (this.size <= LONGEST_TUNE) this.lines.push(line.slice(0, LONGEST_TUNE + 1));
    this.size += line.length + 1;
    if (isField(line, "X")) this.seen.number = true;
    else if (isField(line, "K")) this.seen.key = true;
    else if (this.seen.key && isMusic(line)) this.seen.music = true;
  }

  private finish(): Cutting | undefined {
    const { lines, start, first } = this;
    if (lines.length === 0) return undefined;
    const tune = this.seen.number || this.seen.key;
    this.lines = [];
    this.size = 0;
    this.seen = { number: false, key: false, music: false };
    this.first = false;
    if (!tune) {
      if (first) this.header = lines.filter((l) => FILE_FIELDS.test(l));
      return undefined;
    }
    return { text: lines.join("\n"), line: start, header: this.header.join("\n") };
  }
}

/** Every tune of a whole text. Line ends of any kind are understood, also mixed ones. */
export function cutBook(text: string): Cutting[] {
  const cutter = new BookCutter();
  const tunes: Cutting[] = [];
  for (const line of text.split(/\r\n|\n|\r/)) {
    const tune = cutter.push(line);
    if (tune) tunes.push(tune);
  }
  const last = cutter.end();
  if (last) tunes.push(last);
  return tunes;
}
