// Throws mutated files at every reader. Usage: npm run fuzz -- [COUNT] [SEED]. Every file has bounds of time and memory;
// the script stops at the first that crashes a reader or breaks them, and keeps it. Otherwise it prints what was read
// and refused, the slowest file and the most memory.
import { readFileSync, writeFileSync } from "node:fs";
import { zipSync } from "fflate";
import { analyse } from "../src/core/analysis";
import { performanceMidi, readAbc, sheetMusicXml, tuneAbc } from "../src/core/formats";
import { readFile } from "../src/core/intake";
import { perform } from "../src/core/performance";
import { places, tuneSheet } from "../src/core/score";
import { mutate, numbers } from "../src/testing/mutate";

const [count, seed] = [Number(process.argv[2] ?? 100_000), Number(process.argv[3] ?? 1)];
const tunes = readAbc(readFileSync("demo/tunes.abc", "utf8")).tunes.map((t) => t.tune);
const text = (s: string) => new TextEncoder().encode(s);
const seeds = tunes.flatMap((tune) => {
  const sheet = tuneSheet(tune, places(tune));
  const xml = text(sheetMusicXml(sheet));
  return [
    { name: "a.abc", bytes: text(tuneAbc(tune)) },
    { name: "a.xml", bytes: xml },
    { name: "a.mid", bytes: performanceMidi(perform(tune, sheet, { straight: true, chords: false })) },
    {
      name: "a.mxl",
      bytes: zipSync({
        "META-INF/container.xml": text('<container><rootfiles><rootfile full-path="a.xml"/></rootfiles></container>'),
        "a.xml": xml,
      }),
    },
  ];
});
/** Shapes that once took far more time than their size: a sign or a line of each kind, over and over. */
const UNITS = [
  ..."* !{}[]()|&$@<",
  "N:x\n",
  "T:x\n",
  "V:1\nc|\n",
  "[K:",
  "(3",
  "!x!",
  "c|",
  "cdef gabc|",
  "\n",
  "<a ",
  "<!--",
];
const HEAD = "X:1\nT:T\nM:4/4\nL:1/8\nK:D\n";
/** One file in so many is such a shape, of up to so many characters. */
const SHAPED = { oneIn: 500, most: 60_000 };

/**
 * Longest a file may take, of the processor's own time, since other work may run beside this; and the most memory it
 * may add or the whole may have. Milliseconds and bytes.
 */
const BOUNDS = { ms: 3000, added: 150_000_000, whole: 300_000_000 };

const next = numbers(seed);
const pick = <T>(list: readonly T[]): T => list[Math.floor(next() * list.length)] as T;
function fileOf(): { name: string; bytes: Uint8Array } {
  if (next() > 1 / SHAPED.oneIn) {
    const { name, bytes } = pick(seeds);
    return { name, bytes: mutate(bytes, next) };
  }
  const unit = pick(UNITS);
  const many = unit.repeat(Math.floor((next() * SHAPED.most) / unit.length));
  const xml = unit.startsWith("<") ? `<score-partwise>${many}` : `${next() < 0.5 ? HEAD : "X:1\n"}${many}\nK:D\nc|\n`;
  return { name: unit.startsWith("<") ? "a.xml" : "a.abc", bytes: text(xml) };
}

/** Files after which it is said how far it is. */
const TOLD = 50_000;
const tally = { read: 0, refused: 0 };
let slowest = { ms: 0, name: "" };
let memory = 0;
const inUse = () => process.memoryUsage().rss;
for (let i = 0; i < count; i++) {
  if (i > 0 && i % TOLD === 0) console.error(`${i} files so far, slowest ${Math.round(slowest.ms)} ms.`);
  const { name, bytes } = fileOf();
  const from = process.cpuUsage();
  const before = inUse();
  const keep = (why: string) => {
    writeFileSync(`fuzz-${i}-${name}`, bytes);
    throw new Error(`${why}: kept as fuzz-${i}-${name}`);
  };
  try {
    const { tunes: found, refused } = readFile(name, bytes);
    for (const { tune } of found) {
      analyse(tune);
      tuneAbc(tune);
    }
    tally[found.length ? "read" : "refused"] += 1;
    if (refused.some((r) => /could not be read \(/.test(r.message) && /undefined|not a function|null/.test(r.message)))
      keep(`A reader broke: ${refused[0]?.message}`);
  } catch (error) {
    keep(error instanceof Error ? (error.stack ?? error.message) : String(error));
  }
  const { user, system } = process.cpuUsage(from);
  const ms = (user + system) / 1000;
  if (ms > slowest.ms) slowest = { ms, name };
  if (ms > BOUNDS.ms) keep(`This took ${Math.round(ms)} ms`);
  const now = inUse();
  memory = Math.max(memory, now);
  if (now - before > BOUNDS.added) keep(`This took ${Math.round((now - before) / 1e6)} MB`);
  if (now > BOUNDS.whole) keep(`By now this has taken ${Math.round(now / 1e6)} MB`);
}
const slow = `slowest ${Math.round(slowest.ms)} ms (${slowest.name})`;
const most = `at most ${Math.round(memory / 1e6)} MB`;
console.log(`${count} files: ${tally.read} read, ${tally.refused} refused, none crashed; ${slow}; ${most}.`);
