import { mkdir, writeFile } from "node:fs/promises";
import { join } from "node:path";
import { fileName } from "../core/formats";
import type { Tune } from "../core/score";
import type { Arguments } from "./arguments";
import type { Numbered } from "./input";
import type { Result } from "./verbs";

const EXTENSION = { abc: "abc", musicxml: "musicxml", midi: "mid" } as const;

/** Writes results as they come: JSON lines and ABC to standard output, converted files into a folder. */
export class Output {
  private ready: Promise<unknown> | undefined;
  private written = 0;

  constructor(private asked: Arguments) {}

  async write(item: Numbered & { tune: Tune }, result: Result): Promise<void> {
    const { out, to } = this.asked.options;
    if (!("content" in result))
      return print(
        `${JSON.stringify({ file: item.file, index: item.index, title: item.tune.title, ...result.json })}\n`,
      );
    this.written += 1;
    if (!out) return print(`${result.content as string}\n`);
    this.ready ??= mkdir(out, { recursive: true });
    await this.ready;
    const number = this.asked.files.length > 1 ? this.written : item.index;
    await writeFile(
      join(out, `${String(number).padStart(4, "0")}-${fileName(item.tune.title)}.${EXTENSION[to]}`),
      result.content,
    );
  }
}

/** Waits when the reader of the pipe is slow, so that memory stays flat. */
async function print(text: string): Promise<void> {
  if (!process.stdout.write(text)) await new Promise((resolve) => process.stdout.once("drain", resolve));
}
