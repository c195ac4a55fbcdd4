// The command line: one JSON line per tune, straight on core. docs/cli.md documents it.
import { type Arguments, parseArguments, USAGE } from "./arguments";
import { readGroup } from "./group";
import { type Numbered, tunesOf } from "./input";
import { Output } from "./output";
import { catalogue, VERBS } from "./verbs";

async function run(argv: readonly string[]): Promise<number> {
  // The only verb that is about the collection; the others need no database.
  if (argv[0] === "backup") return (await import("./backup")).backup(argv.slice(1));
  if (argv[0] === "instruments" && argv.length === 1) {
    for (const line of catalogue()) process.stdout.write(`${JSON.stringify(line)}\n`);
    return 0;
  }
  const asked = parseArguments(argv);
  if ("help" in asked) {
    process.stdout.write(`${USAGE}\n`);
    return 0;
  }
  if ("wrong" in asked) {
    process.stderr.write(`symphonos: ${asked.wrong}\n\n${USAGE}\n`);
    return 2;
  }
  return await work(asked);
}

async function work(asked: Arguments): Promise<number> {
  const verb = VERBS[asked.verb];
  const output = new Output(asked);
  let failed = false;
  const { groupFile } = asked.options;
  if (groupFile) {
    try {
      asked.options.group = readGroup(groupFile, (row) => {
        failed = true;
        process.stderr.write(`${row}\n`);
      });
    } catch (error) {
      const missing = (error as NodeJS.ErrnoException).code === "ENOENT";
      const words = error instanceof Error ? error.message : String(error);
      process.stderr.write(`${groupFile}:1:1: ${missing ? "There is no such file. Check the name." : words}\n`);
      return 2;
    }
  }
  const fail = ({ file, line, column }: Numbered, message: string) => {
    failed = true;
    process.stderr.write(`${file}:${line}:${column}: ${message}\n`);
  };
  for await (const item of tunesOf(asked.files, asked.options.part)) {
    if ("problem" in item) {
      fail(item, item.problem);
      continue;
    }
    for (const remark of item.remarks)
      if (remark.left || asked.options.notes)
        process.stderr.write(`${item.file}:${remark.line}:${remark.column}: note: ${remark.message}\n`);
    try {
      await output.write(item, verb(item.tune, asked.options));
    } catch (error) {
      fail(item, `This tune could not be worked out (${error instanceof Error ? error.message : String(error)}).`);
    }
  }
  return failed ? 1 : 0;
}

process.stdout.on("error", (error: NodeJS.ErrnoException) => process.exit(error.code === "EPIPE" ? 0 : 1));
process.exitCode = await run(process.argv.slice(2));
