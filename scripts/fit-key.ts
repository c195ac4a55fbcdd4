// Fits the weights of key finding. Usage: npm run fit:key -- TUNES.abc...
// Learns a log-linear model over tonic and mode from tunes with a trusted K: line, prints its agreement by five-fold
// cross-validation, and writes src/core/analysis/key-weights.json.
import { readFileSync, writeFileSync } from "node:fs";
import { EVIDENCE, type Evidence, gather } from "../src/core/analysis/evidence";
import { readAbc } from "../src/core/formats";
import { places } from "../src/core/score";
import { semitoneOf } from "../src/core/theory";

const MODES = ["major", "mixolydian", "dorian", "minor"] as const;
const SHARED = EVIDENCE.length * 12;
const SIZE = SHARED * (1 + MODES.length) + MODES.length;
/** Pull of every weight towards zero: weak on what the modes share, stronger on what sets a mode apart. */
const PULL = { shared: 0.002, own: 0.01 };
/** A tune whose label the half-trained model finds this unlikely is taken for a misprint and left out. */
const MISPRINT = 0.03;
const ROUNDS = 200;

type Row = { evidence: Evidence; tonic: number; mode: number };

const rows: Row[] = process.argv.slice(2).flatMap((file) =>
  readAbc(readFileSync(file, "utf8")).tunes.flatMap(({ tune }) => {
    const mode = MODES.indexOf(tune.key.mode as (typeof MODES)[number]);
    return mode < 0 ? [] : [{ evidence: gather(places(tune)), tonic: semitoneOf(tune.key.tonic), mode }];
  }));
if (rows.length < 50) {
  console.error("Give one or more ABC files with at least 50 tunes in all.");
  process.exit(2);
}

/** Calls back with the place of every weight that a tonic and mode use, and the share it is multiplied by. */
function uses(evidence: Evidence, tonic: number, mode: number, take: (weight: number, share: number) => void) {
  EVIDENCE.forEach((name, e) => {
    const shares = evidence[name];
    for (let above = 0; above < 12; above++) {
      const share = shares[(above + tonic) % 12] as number;
      if (share === 0) continue;
      take(e * 12 + above, share);
      take(SHARED * (1 + mode) + e * 12 + above, share);
    }
  });
  take(SHARED * (1 + MODES.length) + mode, 1);
}

function chances(weights: Float64Array, evidence: Evidence): number[] {
  const scores: number[] = [];
  for (let key = 0; key < 48; key++) {
    let score = 0;
    uses(evidence, key >> 2, key & 3, (w, share) => { score += (weights[w] as number) * share; });
    scores.push(score);
  }
  const top = Math.max(...scores);
  const raised = scores.map((s) => Math.exp(s - top));
  const sum = raised.reduce((a, b) => a + b, 0);
  return raised.map((r) => r / sum);
}

/** Adam (Kingma and Ba 2015) on the regularised likelihood. */
function train(on: readonly Row[]): Float64Array {
  const [weights, first, second] = [new Float64Array(SIZE), new Float64Array(SIZE), new Float64Array(SIZE)];
  for (let round = 1; round <= ROUNDS; round++) {
    const slope = new Float64Array(SIZE);
    for (const row of on) {
      const p = chances(weights, row.evidence);
      const own = row.tonic * 4 + row.mode;
      if (round > ROUNDS / 2 && (p[own] as number) < MISPRINT) continue;
      p.forEach((chance, key) => {
        const error = chance - (key === own ? 1 : 0);
        if (Math.abs(error) > 1e-5) uses(row.evidence, key >> 2, key & 3, (w, share) => { slope[w]! += (error * share) / on.length; });
      });
    }
    for (let i = 0; i < SIZE; i++) {
      const g = (slope[i] as number) + (i < SHARED ? PULL.shared : PULL.own) * (weights[i] as number);
      first[i] = 0.9 * (first[i] as number) + 0.1 * g;
      second[i] = 0.999 * (second[i] as number) + 0.001 * g * g;
      weights[i]! -= (0.05 * (first[i] as number)) / (1 - 0.9 ** round) / (Math.sqrt((second[i] as number) / (1 - 0.999 ** round)) + 1e-8);
    }
  }
  return weights;
}

let [tonics, both] = [0, 0];
for (let fold = 0; fold < 5; fold++) {
  const weights = train(rows.filter((_, i) => i % 5 !== fold));
  for (const row of rows.filter((_, i) => i % 5 === fold)) {
    const p = chances(weights, row.evidence);
    const best = p.indexOf(Math.max(...p));
    if (best >> 2 === row.tonic) tonics += 1;
    if (best === row.tonic * 4 + row.mode) both += 1;
  }
}
const percent = (n: number) => `${((100 * n) / rows.length).toFixed(1)} percent`;
const agreement = `cross-validated on ${rows.length} tunes: tonic ${percent(tonics)}, tonic and mode ${percent(both)}`;
console.log(agreement);

const weights = train(rows);
const table = (offset: number) => Object.fromEntries(EVIDENCE.map((name, e) => [name, Array.from({ length: 12 }, (_, i) => Number((weights[offset + e * 12 + i] as number).toFixed(3)))]));
const file = {
  about: "Points for each sound 0 to 11 semitones above the tonic, by kind of evidence; shared by the modes, and added by each mode.",
  made: "npm run fit:key -- TUNES.abc",
  agreement,
  shared: table(0),
  modes: Object.fromEntries(MODES.map((mode, m) => [mode, { bias: Number((weights[SHARED * (1 + MODES.length) + m] as number).toFixed(3)), table: table(SHARED * (1 + m)) }])),
};
writeFileSync(new URL("../src/core/analysis/key-weights.json", import.meta.url), `${JSON.stringify(file).replaceAll('],"', '],\n"').replaceAll('},"', '},\n"')}\n`);
