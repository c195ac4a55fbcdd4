// Fits the weights of key finding. Usage: npm run fit:key -- TUNES.abc... [KEYS.jsonl]
// Learns a log-linear model over tonic and mode from tunes whose keys are known: by their K: lines or, tune by tune in
// the order of the books, by a file of settled keys ({tonic, mode} a line). Rare modes count for more than their number.
// Prints the agreement by five-fold cross-validation, and writes src/core/analysis/key-weights.json.
import { readFileSync, writeFileSync } from "node:fs";
import { EVIDENCE, type Evidence, gather } from "../src/core/analysis/evidence";
import { readAbc } from "../src/core/formats";
import { places } from "../src/core/score";
import { semitoneOf } from "../src/core/theory";

const MODES = ["major", "mixolydian", "dorian", "minor"] as const;
const SHARED = EVIDENCE.length * 12;
const SIZE = SHARED * (1 + MODES.length) + MODES.length;
/** Pull of every weight towards zero: weak on what the modes share, stronger on what sets a mode apart. */
const PULL = { shared: 0.001, own: 0.006 };
/** A tune whose label the half-trained model finds this unlikely is taken for a misprint and left out. */
const MISPRINT = 0.02;
const ROUNDS = 300;
/** How far the modes are balanced: 0 leaves them as they come, 1 counts each mode alike. */
const BALANCE = 0.75;

type Row = { evidence: Evidence; tonic: number; mode: number };

const given = process.argv.slice(2);
const settled = given
  .filter((file) => file.endsWith(".jsonl"))
  .flatMap((file) => readFileSync(file, "utf8").trim().split("\n"))
  .map((line) => JSON.parse(line) as { tonic: string; mode: string });
const rows: Row[] = given
  .filter((file) => !file.endsWith(".jsonl"))
  .flatMap((file) => readAbc(readFileSync(file, "utf8")).tunes)
  .flatMap(({ tune }, i) => {
    const key = settled[i] ?? tune.key;
    const mode = MODES.indexOf(key.mode as (typeof MODES)[number]);
    return mode < 0 ? [] : [{ evidence: gather(places(tune)), tonic: semitoneOf(key.tonic), mode }];
  });
const counts = MODES.map((_, m) => rows.filter((r) => r.mode === m).length);
const weightOf = ({ mode }: Row) => (Math.max(...counts) / (counts[mode] as number)) ** BALANCE;
if (rows.length < 50) {
  console.error("Give one or more ABC files with at least 50 tunes in all.");
  process.exit(2);
}

/** Shares as a tonic hears them: for each tonic, every kind of evidence from the tonic up. */
const heard = (evidence: Evidence): Float64Array[] =>
  Array.from({ length: 12 }, (_, tonic) =>
    Float64Array.from(
      EVIDENCE.flatMap((name) =>
        Array.from({ length: 12 }, (_, above) => evidence[name][(above + tonic) % 12] as number),
      ),
    ),
  );
const shares = new Map(rows.map((row) => [row, heard(row.evidence)]));

/** Chances of the 48 keys, tonic by tonic, mode by mode. */
function chances(weights: Float64Array, row: Row): Float64Array {
  const scores = new Float64Array(48);
  (shares.get(row) as Float64Array[]).forEach((x, tonic) => {
    for (let mode = 0; mode < MODES.length; mode++) {
      let score = weights[SHARED * (1 + MODES.length) + mode] as number;
      const own = SHARED * (1 + mode);
      for (let i = 0; i < SHARED; i++)
        score += ((weights[i] as number) + (weights[own + i] as number)) * (x[i] as number);
      scores[tonic * 4 + mode] = score;
    }
  });
  const top = Math.max(...scores);
  let sum = 0;
  for (let k = 0; k < 48; k++) sum += scores[k] = Math.exp((scores[k] as number) - top);
  return scores.map((s) => s / sum);
}

/** Adam (Kingma and Ba 2015) on the regularised likelihood. */
function train(on: readonly Row[]): Float64Array {
  const [weights, first, second] = [new Float64Array(SIZE), new Float64Array(SIZE), new Float64Array(SIZE)];
  const whole = on.reduce((sum, row) => sum + weightOf(row), 0);
  for (let round = 1; round <= ROUNDS; round++) {
    const slope = new Float64Array(SIZE);
    for (const row of on) {
      const p = chances(weights, row);
      const own = row.tonic * 4 + row.mode;
      if (round > ROUNDS / 2 && (p[own] as number) < MISPRINT) continue;
      p.forEach((chance, key) => {
        const error = ((chance - (key === own ? 1 : 0)) * weightOf(row)) / whole;
        if (Math.abs(error) * whole < 1e-5) return;
        const x = (shares.get(row) as Float64Array[])[key >> 2] as Float64Array;
        const mode = SHARED * (1 + (key & 3));
        for (let i = 0; i < SHARED; i++) {
          const g = error * (x[i] as number);
          slope[i]! += g;
          slope[mode + i]! += g;
        }
        slope[SHARED * (1 + MODES.length) + (key & 3)]! += error;
      });
    }
    for (let i = 0; i < SIZE; i++) {
      const g = (slope[i] as number) + (i < SHARED ? PULL.shared : PULL.own) * (weights[i] as number);
      first[i] = 0.9 * (first[i] as number) + 0.1 * g;
      second[i] = 0.999 * (second[i] as number) + 0.001 * g * g;
      weights[i]! -=
        (0.05 * (first[i] as number)) /
        (1 - 0.9 ** round) /
        (Math.sqrt((second[i] as number) / (1 - 0.999 ** round)) + 1e-8);
    }
  }
  return weights;
}

let [tonics, both] = [0, 0];
const byMode = MODES.map(() => ({ tonics: 0, both: 0 }));
for (let fold = 0; fold < 5; fold++) {
  const weights = train(rows.filter((_, i) => i % 5 !== fold));
  for (const row of rows.filter((_, i) => i % 5 === fold)) {
    const p = chances(weights, row);
    const best = p.indexOf(Math.max(...p));
    const own = byMode[row.mode] as (typeof byMode)[number];
    if (best >> 2 === row.tonic) {
      tonics += 1;
      own.tonics += 1;
    }
    if (best === row.tonic * 4 + row.mode) {
      both += 1;
      own.both += 1;
    }
  }
}
const percent = (n: number) => `${((100 * n) / rows.length).toFixed(1)} percent`;
const agreement = `cross-validated on ${rows.length} tunes: tonic ${percent(tonics)}, tonic and mode ${percent(both)}`;
console.log(agreement);
MODES.forEach((mode, m) => {
  const { tonics, both } = byMode[m] as (typeof byMode)[number];
  const share = (n: number) => ((100 * n) / (counts[m] as number)).toFixed(0);
  console.log(`${mode}: ${counts[m]} tunes, tonic ${share(tonics)}, tonic and mode ${share(both)} percent`);
});

const weights = train(rows);
const table = (offset: number) =>
  Object.fromEntries(
    EVIDENCE.map((name, e) => [
      name,
      Array.from({ length: 12 }, (_, i) => Number((weights[offset + e * 12 + i] as number).toFixed(3))),
    ]),
  );
const file = {
  about:
    "Points for each sound 0 to 11 semitones above the tonic, by kind of evidence; shared by the modes, and added by each mode.",
  made: "npm run fit:key -- TUNES.abc KEYS.jsonl",
  agreement,
  shared: table(0),
  modes: Object.fromEntries(
    MODES.map((mode, m) => [
      mode,
      { bias: Number((weights[SHARED * (1 + MODES.length) + m] as number).toFixed(3)), table: table(SHARED * (1 + m)) },
    ]),
  ),
};
writeFileSync(
  new URL("../src/core/analysis/key-weights.json", import.meta.url),
  `${JSON.stringify(file).replaceAll('],"', '],\n"').replaceAll('},"', '},\n"')}\n`,
);
