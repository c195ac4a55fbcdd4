import { createReadStream } from "node:fs";
import { readdir, stat } from "node:fs/promises";
import { extname, join } from "node:path";
import { BookCutter, type Cutting, FormatError, readAbcTune, type Remark } from "../core/formats";
import type { Tune } from "../core/score";

export type Numbered = { file: string; line: number; column: number; index: number };
export type Item = Numbered & ({ tune: Tune; remarks: Remark[] } | { problem: string });

/** Every tune of files, folders and standard input (-), in order, one in memory at a time. */
export async function* tunesOf(paths: readonly string[]): AsyncGenerator<Item> {
  for (const path of paths) {
    for await (const file of filesOf(path)) {
      if (file.problem) yield { file: file.name, line: 1, column: 1, index: 0, problem: file.problem };
      else yield* tunesInFile(file.name);
    }
  }
}

/** The files a path stands for: itself, or the ABC files below a folder in name order. */
async function* filesOf(path: string): AsyncGenerator<{ name: string; problem?: string }> {
  if (path === "-") return yield { name: path };
  try {
    const found = await stat(path);
    if (!found.isDirectory()) {
      if (/^\.(mid|midi|xml|musicxml|mxl|pdf|zip)$/i.test(extname(path))) return yield { name: path, problem: "Only ABC files are read so far. Save the tune as ABC and try again." };
      return yield { name: path };
    }
    const names = (await readdir(path, { recursive: true })).filter((n) => /\.abc$/i.test(n)).sort();
    if (names.length === 0) yield { name: path, problem: "There is no .abc file in this folder." };
    for (const name of names) yield { name: join(path, name) };
  } catch (error) {
    yield { name: path, problem: (error as NodeJS.ErrnoException).code === "ENOENT" ? "There is no such file. Check the name." : `The file cannot be opened (${(error as Error).message}).` };
  }
}

async function* tunesInFile(file: string): AsyncGenerator<Item> {
  const cutter = new BookCutter();
  let index = 0;
  const read = (cutting: Cutting): Item => {
    index += 1;
    try {
      return { file, index, line: cutting.line, column: 1, ...readAbcTune(cutting) };
    } catch (error) {
      if (error instanceof FormatError) return { file, index, ...error.spot, problem: error.message };
      return { file, index, line: cutting.line, column: 1, problem: `This tune could not be read (${error instanceof Error ? error.message : String(error)}).` };
    }
  };
  try {
    for await (const line of linesOf(file === "-" ? process.stdin : createReadStream(file))) {
      const cutting = cutter.push(line);
      if (cutting) yield read(cutting);
    }
  } catch (error) {
    yield { file, index, ...cutter.spot, problem: `The file cannot be read further (${(error as Error).message}).` };
    return;
  }
  const last = cutter.end();
  if (last) yield read(last);
  if (index === 0) yield { file, index: 0, line: 1, column: 1, problem: "No tune found. A tune needs a K: line with its key, such as K:D, and notes below it." };
}

/** A line longer than this is no music; it is passed on in pieces, so that memory stays flat. */
const LONGEST_LINE = 1_000_000;

/** Lines of a stream of bytes; \n, \r\n and \r all end one. UTF-8, or Windows-1252 where a line is not. */
async function* linesOf(stream: AsyncIterable<Uint8Array | string>): AsyncGenerator<string> {
  let left = "";
  for await (const chunk of stream) {
    const text = left + Buffer.from(chunk as Uint8Array).toString("latin1");
    const whole = text.endsWith("\r") ? text.slice(0, -1) : text;
    const lines = whole.split(/\r\n|\n|\r/);
    left = (lines.pop() ?? "") + text.slice(whole.length);
    for (const line of lines) yield decoded(line);
    if (left.length > LONGEST_LINE) {
      yield decoded(left);
      left = "";
    }
  }
  if (left) yield decoded(left.replace(/\r$/, ""));
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
