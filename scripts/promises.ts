// Checks the promises of every school, low and high, from the outside: runs the command line over a book and does the
// sums anew on what it prints.
// Usage: npm run promises -- [FILE.abc | COUNT [SEED]]. Without a file, COUNT tunes are generated. Prints a line of
// figures per school; exit status 1 if any promise broke.
import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import fc from "fast-check";
import { readAbc, tuneAbc } from "../src/core/formats";
import { SCHOOLS } from "../src/core/harmony";
import { instrument } from "../src/core/instruments";
import { beatTicks, type Place, places, QUARTER, timeline } from "../src/core/score";
import { inKey, midi, parseChord, parsePitch, pitchName } from "../src/core/theory";
import { arbitraryTune } from "../src/testing/arbitraryTune";

const [given = "300", seed = "1"] = process.argv.slice(2);
const book = given.endsWith(".abc") ? given : join(mkdtempSync(join(tmpdir(), "promises-")), "book.abc");
if (!given.endsWith(".abc"))
  writeFileSync(
    book,
    fc
      .sample(arbitraryTune({ maxBars: 16 }), { numRuns: Number(given), seed: Number(seed) })
      .map((tune, i) => tuneAbc(tune).replace(/^X:.*/, `X:${i + 1}`))
      .join("\n"),
  );

const tunes = new Map(
  readAbc(readFileSync(book, "utf8")).tunes.map(({ tune, index }) => {
    const from = places(tune);
    return [index, { from, melody: timeline(from).filter((t) => t.event.pitches.length > 0) }] as const;
  }),
);
type Said = {
  bar: number;
  at: number;
  duration: number;
  pitch: string | null;
  melody: string | null;
  interval: number | null;
  chord: string | null;
  reason: string;
};
const fiddle = instrument("fiddle");
const PROMISES = ["range", "key", "form", "said", "crossing", "clash", "parallel", "interval", "reason"] as const;

let broken = 0;
for (const school of SCHOOLS)
  for (const side of ["below", "above"] as const) {
    const out = execFileSync("node", ["bin/symphonos", "harmony", "--school", school.name, "--side", side, book], {
      encoding: "utf8",
      maxBuffer: 1e9,
    });
    const breaks = Object.fromEntries(PROMISES.map((p) => [p, 0])) as Record<(typeof PROMISES)[number], number>;
    let [notes, rests, clash, alike, moves, meets, ends] = [0, 0, 0, 0, 0, 0, 0];
    for (const text of out.split("\n").filter(Boolean)) {
      const json = JSON.parse(text) as { index: number; clash: number; line: Said[] };
      const tune = tunes.get(json.index);
      if (!tune) continue;
      clash += json.clash;
      const line = json.line.map((n) => ({
        ...n,
        at: Math.round(n.at * QUARTER),
        ticks: Math.round(n.duration * QUARTER),
        key: n.pitch === null ? -1 : midi(parsePitch(n.pitch)),
      }));
      let before: (typeof line)[number] | undefined;
      for (const note of line) {
        if (note.reason.length < 12) breaks.reason += 1;
        if (note.key < 0) {
          rests += 1;
          before = undefined;
          continue;
        }
        notes += 1;
        if (!fiddle || note.key < midi(fiddle.lowest) || note.key > midi(fiddle.highest)) breaks.range += 1;
        const place = tune.from.findLast((p) => p.at <= note.at) as Place;
        const foreign = !inKey(parsePitch(note.pitch as string), place.key);
        const own = place.bar.events.flatMap((e) => e.pitches).filter((p) => p.step === note.pitch?.[0]);
        const sounded = own.some((p) => pitchName(p).slice(0, -1) === note.pitch?.slice(0, -1));
        const inChord = note.chord !== null && parseChord(note.chord)?.classes.includes(note.key % 12);
        if (foreign && !inChord && !sounded) breaks.key += 1;
        if (own.length > 0 && !sounded) breaks.form += 1;
        if (foreign && !note.reason.includes("outside the key")) breaks.said += 1;
        for (const t of tune.melody.filter((t) => t.at < note.at + note.ticks && t.at + t.event.ticks > note.at)) {
          const sounds = t.event.pitches.map(midi);
          const gap = side === "below" ? Math.min(...sounds) - note.key : note.key - Math.max(...sounds);
          const [from, to] = [Math.max(note.at, t.at), Math.min(note.at + note.ticks, t.at + t.event.ticks)];
          const beat = beatTicks(t.place.metre);
          const into = (t.place.offset + from - t.place.at) % beat;
          if (gap < 0) breaks.crossing += 1;
          if ((into === 0 || into + to - from > beat) && [1, 6, 11].includes(((gap % 12) + 12) % 12)) breaks.clash += 1;
        }
        const melody = note.melody === null ? undefined : midi(parsePitch(note.melody));
        if (melody !== undefined) {
          const [a, b] = [parsePitch(note.pitch as string), parsePitch(note.melody as string)];
          if (
            Math.abs(a.octave * 7 + "CDEFGAB".indexOf(a.step) - b.octave * 7 - "CDEFGAB".indexOf(b.step)) + 1 !==
            note.interval
          )
            breaks.interval += 1;
          const was = before?.melody == null ? undefined : midi(parsePitch(before.melody));
          if (before && was !== undefined) {
            const [x, y] = [Math.abs(before.key - was) % 12, Math.abs(note.key - melody) % 12];
            const both = before.key !== note.key && was !== melody;
            if (both && x === y && (x === 7 || (x === 0 && !school.octaves))) breaks.parallel += 1;
            if (both) {
              moves += 1;
              if (Math.sign(note.key - before.key) === Math.sign(melody - was)) alike += 1;
            }
          }
        }
        before = note;
      }
      const last = line.findLast((n) => n.key >= 0 && n.melody);
      if (last) {
        ends += 1;
        if (Math.abs(last.key - midi(parsePitch(last.melody as string))) % 12 === 0) meets += 1;
      }
    }
    const all = Object.values(breaks).reduce((a, b) => a + b, 0);
    broken += all;
    const percent = (n: number, of: number) => `${Math.round((100 * n) / (of || 1))} %`.padStart(5);
    const figures = [
      `${school.name.padEnd(24)} ${side}`,
      `${String(notes).padStart(6)} notes ${percent(rests, notes + rests)} rests`,
      `clash ${(clash / tunes.size).toFixed(1).padStart(4)}`,
      `same way ${percent(alike, moves)}`,
      `meets at the end ${percent(meets, ends)}`,
      `breaks ${all}${all ? ` ${JSON.stringify(breaks)}` : ""}`,
    ];
    console.log(figures.join("  "));
  }
process.exit(broken ? 1 : 0);
