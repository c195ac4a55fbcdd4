// Throws mutated files at every reader. Usage: npm run fuzz -- [COUNT] [SEED]. Stops at the first crash or at a file
// that takes over five
// seconds, and keeps it; otherwise prints what was read and refused, the slowest file and the most memory.
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
const next = numbers(seed);
const tally = { read: 0, refused: 0 };
let slowest = { ms: 0, name: "" };
let memory = 0;
for (let i = 0; i < count; i++) {
  const file = seeds[Math.floor(next() * seeds.length)] as (typeof seeds)[number];
  const bytes = mutate(file.bytes, next);
  const from = performance.now();
  const keep = (why: string) => {
    writeFileSync(`fuzz-${i}-${file.name}`, bytes);
    throw new Error(`${why}: kept as fuzz-${i}-${file.name}`);
  };
  try {
    const { tunes: found, refused } = readFile(file.name, bytes);
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
  const ms = performance.now() - from;
  if (ms > slowest.ms) slowest = { ms, name: file.name };
  if (ms > 5000) keep(`This took ${Math.round(ms)} ms`);
  if (i % 2000 === 0) memory = Math.max(memory, process.memoryUsage().rss);
}
const slow = `slowest ${Math.round(slowest.ms)} ms (${slowest.name})`;
const most = `at most ${Math.round(memory / 1e6)} MB`;
console.log(`${count} files: ${tally.read} read, ${tally.refused} refused, none crashed; ${slow}; ${most}.`);
