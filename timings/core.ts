// Benchmarks: npm run bench. Prints medians; judges nothing.
import { spawnSync } from "node:child_process";
import { existsSync, mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { VerovioToolkit } from "verovio/esm";
import { analyse, strainKeys } from "../src/core/analysis";
import { deriveChords } from "../src/core/chords";
import { derive, inStrokes, newWork, planEvening, sheetOf } from "../src/core/ensemble";
import { cutBook, readAbc, sheetMusicXml, tuneAbc } from "../src/core/formats";
import { readRoster } from "../src/core/grading";
import { deriveHarmony } from "../src/core/harmony";
import { dancedTune, grooveOf, laidOver } from "../src/core/feel";
import { FIDDLE, type Instrument, instrument } from "../src/core/instruments";
import { BOWINGS, planBowing } from "../src/core/strokes";
import { beatTicks, slice } from "../src/core/score";
import { arrange } from "../src/core/technique";
import { countTunes, openDatabase } from "../src/db";
import { collection, holding, takeCuttings } from "../src/server/collection";
import { drawPages, drawRow } from "../src/engraving";

const demo = readFileSync("demo/tunes.abc", "utf8");
const [reel] = readAbc(demo).tunes;
if (!reel) throw new Error("demo/tunes.abc holds no tune");
/** The demo reel twice over: 32 bars. */
const tune = { ...reel.tune, strains: [...reel.tune.strains, ...reel.tune.strains] };
const work = newWork(tune);

function median(name: string, run: () => unknown, runs = 40) {
  for (let i = 0; i < 10; i++) run();
  const times = Array.from({ length: runs }, () => {
    const start = performance.now();
    run();
    return performance.now() - start;
  }).sort((a, b) => a - b);
  console.log(
    `${name.padEnd(52)} median ${(times[runs >> 1] as number).toFixed(1)} ms, slowest ${(times[runs - 1] as number).toFixed(1)} ms`,
  );
}

const analysis = analyse(tune);
const chords = () =>
  deriveChords({ places: analysis.places, phrases: analysis.form.phrases, keys: strainKeys(tune, analysis) });
const plan = chords();
const phraseEnds = new Set(analysis.form.phrases.map((p) => p.to));
median("analysis, 32 bars", () => analyse(tune));
median("chords, 32 bars", chords);
median("one harmony line, 32 bars", () =>
  deriveHarmony({ places: analysis.places, plan, phraseEnds, instrument: FIDDLE }),
);
const phraseStarts = new Set(analysis.form.phrases.map((p) => p.from));
for (const { name } of BOWINGS)
  median(`bowing ${name}, 32 bars`, () => planBowing({ places: analysis.places, style: name, bpm: 130, phraseStarts }));
median("the tune as it is danced, 32 bars", () =>
  dancedTune(analysis.places, laidOver(grooveOf("reel"), 205, 100), 205),
);
for (const [name, kind] of [
  ["fiddle", "double stops"],
  ["guitar", "melody with chords"],
  ["small lute", "melody with chords"],
] as const) {
  const on = { instrument: instrument(name) as Instrument, kind, level: "Leading" } as const;
  median(`${name}, ${kind}, 32 bars`, () => arrange({ ...on, places: analysis.places, chords: plan.chords, bpm: 100 }));
}
median("whole derivation, 32 bars", () => derive(work));
const derived = derive(work);
const { learners } = readRoster(readFileSync("demo/group.csv", "utf8"));
const tick = 60 / (130 * beatTicks(tune.metre));
const evening = () => planEvening({ analysis: derived.analysis, plan: derived.plan, tick, dance: "reel", learners });
median("parts for 14 learners, 32 bars", evening);
const { parts } = evening();
median("bows and picks of 14 parts, 32 bars", () => inStrokes(parts, { analysis: derived.analysis, tick }));
median("MusicXML of all parts, 32 bars", () => sheetMusicXml(sheetOf(work, derived)));

const { default: create } = (await import(pathToFileURL("node_modules/verovio/dist/verovio-module.mjs").href)) as {
  default: () => Promise<unknown>;
};
const verovio = new VerovioToolkit(await create());
const row = { ...slice(sheetOf(work, derived), 0, 5), chords: [] };
median("engraving a row of four bars, two staves", () =>
  drawRow(verovio, { ...row, staves: row.staves.slice(0, 2) }, 790),
);
median(
  "engraving all parts on paper",
  () =>
    drawPages(
      verovio,
      sheetOf(work, derived),
      derived.analysis.form.phrases.map((p) => p.from),
    ),
  8,
);

const book = join(mkdtempSync(join(tmpdir(), "bench-")), "book.abc");
writeFileSync(book, Array.from({ length: 77 }, () => demo).join("\n\n"));
const timer = "/usr/bin/time";
for (const verb of ["analyse", "chords", "harmony"]) {
  const command = ["node", "dist/cli.js", verb, book];
  const start = performance.now();
  const { stderr } = spawnSync(
    existsSync(timer) ? timer : "node",
    existsSync(timer) ? ["-f", "%M", ...command] : command.slice(1),
    { encoding: "utf8", stdio: ["ignore", "ignore", "pipe"] },
  );
  const peak = Number(stderr.trim().split("\n").pop());
  const seconds = ((performance.now() - start) / 1000).toFixed(1);
  const memory = peak ? `, peak ${Math.round(peak / 1024)} MB` : "";
  console.log(`${`${verb}, a book of 1,001 tunes`.padEnd(52)} ${seconds} s${memory}`);
}

// The collection: 5,000 tunes brought in as a page does it, and searches among 20,000.
const many = readAbc(demo).tunes.map((t) => t.tune);
const varied = (i: number) => {
  const from = many[i % many.length] as (typeof many)[number];
  return { ...from, title: `${from.title} ${i}`, source: `shelf ${i % 97}` };
};
const store = openDatabase(join(mkdtempSync(join(tmpdir(), "bench-")), "many.db"));
const text = Array.from({ length: 5000 }, (_, i) => tuneAbc(varied(i))).join("\n\n");
const start = performance.now();
const cuttings = cutBook(text);
for (let at = 0; at < cuttings.length; at += 40) takeCuttings(store, cuttings.slice(at, at + 40), true);
const seconds = ((performance.now() - start) / 1000).toFixed(1);
const used = Math.round(process.memoryUsage().rss / 1e6);
console.log(`${"bringing in 5,000 tunes".padEnd(52)} ${seconds} s, ${used} MB in use`);
const COLUMNS =
  "key, metre, dance, bars, lowest, highest, pitches, source, rights, fingerprint, melody, " +
  "sentence, weave, head, created, changed";
// The other 15,000 are copies of rows, which a search cannot tell from tunes brought in.
for (let i = 1; i <= 3; i++) {
  store.$client.exec(
    `INSERT INTO tunes (title, ${COLUMNS}) SELECT title || ' ${"abc"[i - 1]}', ${COLUMNS} FROM tunes WHERE id <= 5000`,
  );
}
store.$client.exec(
  "INSERT INTO tunes_words (rowid, title, words, tags) SELECT id, title, sentence || ' ' || source, '' FROM tunes WHERE id > 5000",
);
for (const [words, asked] of [
  ["one word", { find: "lanterns" }],
  ["three beginnings", { find: "sal tha 1" }],
  ["words that fit all", { find: "d" }],
  ["a key and a dance", { key: "D major", dance: "polka" }],
  ["everything, by range", { sort: "range", down: true }],
] as const) {
  median(`search and count among 20,000: ${words}`, () => [collection(store, asked), countTunes(store, asked)], 20);
}
median("finding a few notes among 20,000", () => collection(store, { holding: holding(store, "d f d A d f d") }), 8);
store.$client.close();
