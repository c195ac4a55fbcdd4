import { createReadStream } from "node:fs";
import { readdir, stat } from "node:fs/promises";
import { join } from "node:path";
import { BookCutter, type Cutting, FormatError, readAbcTune, type Remark, wideEncoding } from "../core/formats";
import { kindOf, readFile } from "../core/intake";
import type { Tune } from "../core/score";

export type Numbered = { file: string; line: number; column: number; index: number };
export type Item = Numbered & ({ tune: Tune; remarks: Remark[] } | { problem: string });

/** Every tune of files, folders and standard input (-), in order, one in memory at a time. */
export async function* tunesOf(paths: readonly string[], part?: number): AsyncGenerator<Item> {
  for (const path of paths) {
    for await (const file of filesOf(path)) {
      if (file.problem) yield { file: file.name, line: 1, column: 1, index: 0, problem: file.problem };
      else yield* tunesInFile(file.name, part);
    }
  }
}

/** The files a path stands for: itself, or the scores below a folder in name order. */
async function* filesOf(path: string): AsyncGenerator<{ name: string; problem?: string }> {
  if (path === "-") return yield { name: path };
  try {
    const found = await stat(path);
    if (!found.isDirectory()) return yield { name: path };
    const names = (await readdir(path, { recursive: true }))
      .filter((n) => /\.(abc|musicxml|xml|mxl|midi?)$/i.test(n))
      .sort();
    if (names.length === 0)
      yield { name: path, problem: "There is no .abc, .musicxml, .xml, .mxl or .mid file in this folder." };
    for (const name of names) yield { name: join(path, name) };
  } catch (error) {
    yield {
      name: path,
      problem:
        (error as NodeJS.ErrnoException).code === "ENOENT"
          ? "There is no such file. Check the name."
          : `The file cannot be opened (${(error as Error).message}).`,
    };
  }
}

/** Largest score other than ABC, in bytes. */
const LARGEST = 10_000_000;

/** Tunes of one file. ABC streams through; a score or a MIDI file is read whole. */
async function* tunesInFile(file: string, part: number | undefined): AsyncGenerator<Item> {
  const stream = (file === "-" ? process.stdin : createReadStream(file)) as AsyncIterable<Uint8Array>;
  const chunks = stream[Symbol.asyncIterator]();
  try {
    const first = await chunks.next();
    const start = first.done ? new Uint8Array() : Buffer.from(first.value);
    if (kindOf(file, start) === "abc") yield* tunesInBook(file, again(start, chunks));
    else yield* tunesInScore(file, again(start, chunks), part);
  } catch (error) {
    yield { file, index: 0, line: 1, column: 1, problem: `The file cannot be read (${(error as Error).message}).` };
  }
}

/** A stream whose first piece was looked at already. */
async function* again(start: Uint8Array, chunks: AsyncIterator<Uint8Array>): AsyncGenerator<Uint8Array> {
  yield start;
  for (let next = await chunks.next(); !next.done; next = await chunks.next()) yield next.value;
}

async function* tunesInScore(
  file: string,
  stream: AsyncIterable<Uint8Array>,
  part: number | undefined,
): AsyncGenerator<Item> {
  const pieces: Uint8Array[] = [];
  let size = 0;
  for await (const piece of stream) {
    size += piece.length;
    if (size > LARGEST)
      return yield {
        file,
        index: 1,
        line: 1,
        column: 1,
        problem: "This file is over 10 MB; no score of a tune is. Save the tune alone.",
      };
    pieces.push(piece);
  }
  const { tunes, refused } = readFile(file, Buffer.concat(pieces), { part });
  for (const { tune, remarks, index } of tunes) yield { file, index, line: 1, column: 1, tune, remarks };
  for (const { index, line, column, message } of refused) yield { file, index, line, column, problem: message };
}

async function* tunesInBook(file: string, stream: AsyncIterable<Uint8Array>): AsyncGenerator<Item> {
  const cutter = new BookCutter();
  let index = 0;
  const read = (cutting: Cutting): Item => {
    index += 1;
    try {
      return { file, index, line: cutting.line, column: 1, ...readAbcTune(cutting) };
    } catch (error) {
      if (error instanceof FormatError) return { file, index, ...error.spot, problem: error.message };
      return {
        file,
        index,
        line: cutting.line,
        column: 1,
        problem: `This tune could not be read (${error instanceof Error ? error.message : String(error)}).`,
      };
    }
  };
  try {
    for await (const line of linesOf(stream)) {
      const cutting = cutter.push(line);
      if (cutting) yield read(cutting);
    }
  } catch (error) {
    yield { file, index, ...cutter.spot, problem: `The file cannot be read further (${(error as Error).message}).` };
    return;
  }
  const last = cutter.end();
  if (last) yield read(last);
  if (index === 0)
    yield {
      file,
      index: 0,
      line: 1,
      column: 1,
      problem: "No tune found. A tune needs a K: line with its key, such as K:D, and notes below it.",
    };
}

/** A line longer than this is no music; it is passed on in pieces, so that memory stays flat. */
const LONGEST_LINE = 1_000_000;

/**
 * Lines of a stream of bytes; \n, \r\n and \r all end one. UTF-16 where it begins so; else UTF-8, or Windows-1252
 * where a line is not.
 */
async function* linesOf(stream: AsyncIterable<Uint8Array | string>): AsyncGenerator<string> {
  let left = "";
  let wide: TextDecoder | undefined;
  let first = true;
  for await (const chunk of stream) {
    const bytes = Buffer.from(chunk as Uint8Array);
    const encoding = first ? wideEncoding(bytes) : undefined;
    if (encoding) wide = new TextDecoder(encoding);
    first = false;
    const text = left + (wide ? wide.decode(bytes, { stream: true }) : bytes.toString("latin1"));
    const whole = text.endsWith("\r") ? text.slice(0, -1) : text;
    const lines = whole.split(/\r\n|\n|\r/);
    left = (lines.pop() ?? "") + text.slice(whole.length);
    for (const line of lines) yield wide ? line : decoded(line);
    if (left.length > LONGEST_LINE) {
      yield wide ? left : decoded(left);
      left = "";
    }
  }
  const last = left.replace(/\r$/, "");
  if (last) yield wide ? last : decoded(last);
}

const utf8 = new TextDecoder("utf-8", { fatal: true });
const western = new TextDecoder("windows-1252");

function decoded(line: string): string {
  // biome-ignore lint/suspicious/noControlCharactersInRegex: plain ASCII needs no decoding
  if (/^[\x00-\x7f]*$/.test(line)) return line;
  const bytes = Buffer.from(line, "latin1");
  try {
    return utf8.decode(bytes);
  } catch {
    return western.decode(bytes);
  }
}
