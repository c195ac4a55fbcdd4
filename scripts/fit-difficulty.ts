// Fits the weights of the difficulty measure. Usage: npm run fit:difficulty -- RATED.jsonl [--write]
// Each line: {instrument, tempo, beat, abc, difficulty}. Weights are least squares that never fall below zero, with a
// pull towards zero, so that more of anything never makes a part easier. Prints rank correlation and mean error, on all
// and leaving each part out in turn; --write writes src/core/grading/difficulty/weights.json.
import { readFileSync, writeFileSync } from "node:fs";
import { FEATURES } from "../src/core/grading/difficulty/features";
import { weighed } from "../src/core/grading/difficulty/measure";
import { readAbc } from "../src/core/formats";
import { type Instrument, instrument } from "../src/core/instruments";
import { places, QUARTER } from "../src/core/score";

type Rated = { id: number; instrument: string; tempo: number; beat: string; abc: string; difficulty: number };
const [file = "", ...more] = process.argv.slice(2);
const PULL = Number(more.find((m) => m.startsWith("--pull="))?.slice(7) ?? 1);
const BEATS: Readonly<Record<string, number>> = {
  quarter: QUARTER,
  half: 2 * QUARTER,
  "dotted quarter": 1.5 * QUARTER,
};

/** What is not fitted has points by judgement; the rest is fitted to what they leave. */
const FITTED = FEATURES.filter((f) => f.judged === undefined);

const rows = readFileSync(file, "utf8")
  .trim()
  .split("\n")
  .map((line) => {
    const rated = JSON.parse(line) as Rated;
    const tune = readAbc(rated.abc).tunes[0]?.tune;
    if (!tune) throw new Error(`Part ${rated.id} cannot be read.`);
    const from = places(tune);
    const tick = 60 / (rated.tempo * (BEATS[rated.beat] as number));
    const part = weighed(
      from,
      from.map((p) => p.bar.events),
      instrument(rated.instrument) as Instrument,
      tick,
    );
    const judged = FEATURES.reduce((sum, f) => sum + f.value(part) * (f.judged ?? 0), 0);
    return { id: rated.id, x: FITTED.map((f) => f.value(part)), judged, y: rated.difficulty };
  });
type Row = (typeof rows)[number];

/** Least squares with weights at or above zero, one weight after another until none moves. */
function fitted(of: readonly Row[]): number[] {
  const width = FITTED.length;
  const scale = FITTED.map((_, j) => Math.sqrt(of.reduce((s, r) => s + (r.x[j] as number) ** 2, 0) / of.length) || 1);
  const x = of.map((r) => r.x.map((v, j) => v / (scale[j] as number)));
  const w = new Array<number>(width).fill(1);
  for (let round = 0; round < 600; round++)
    for (let j = 0; j < width; j++) {
      let [up, down] = [0, PULL];
      x.forEach((row, i) => {
        const others = row.reduce((s, v, k) => (k === j ? s : s + v * (w[k] as number)), 0);
        up += (row[j] as number) * ((of[i] as Row).y - (of[i] as Row).judged - others);
        down += (row[j] as number) ** 2;
      });
      w[j] = Math.max(0, up / down);
    }
  return w.map((v, j) => v / (scale[j] as number));
}
const said = (w: readonly number[], { x, judged }: Row): number =>
  Math.min(
    100,
    x.reduce((s, v, j) => s + v * (w[j] as number), judged),
  );
const ranks = (v: readonly number[]): number[] => {
  const order = v.map((a, i) => [a, i] as const).sort((a, b) => a[0] - b[0]);
  const out = new Array<number>(v.length).fill(0);
  for (let i = 0; i < order.length; ) {
    let k = i;
    while (k + 1 < order.length && order[k + 1]?.[0] === order[i]?.[0]) k++;
    for (let m = i; m <= k; m++) out[(order[m] as readonly [number, number])[1]] = (i + k) / 2;
    i = k + 1;
  }
  return out;
};
function correlation(a: readonly number[], b: readonly number[]): number {
  const mean = (v: readonly number[]) => v.reduce((s, q) => s + q, 0) / v.length;
  const [ma, mb] = [mean(a), mean(b)];
  const of = (f: (i: number) => number) => a.reduce((s, _, i) => s + f(i), 0);
  const [da, db] = [(i: number) => (a[i] as number) - ma, (i: number) => (b[i] as number) - mb];
  return of((i) => da(i) * db(i)) / Math.sqrt(of((i) => da(i) ** 2) * of((i) => db(i) ** 2));
}
const report = (name: string, predicted: readonly number[]) => {
  const y = rows.map((r) => r.y);
  const error = predicted.reduce((s, p, i) => s + Math.abs(p - (y[i] as number)), 0) / y.length;
  console.log(
    `${name}: rank correlation ${correlation(ranks(predicted), ranks(y)).toFixed(3)}, mean error ${error.toFixed(2)}`,
  );
};
const weights = fitted(rows);
report(
  "all",
  rows.map((r) => said(weights, r)),
);
const left = rows.map((r) => said(fitted(rows.filter((o) => o !== r)), r));
report("each left out in turn", left);
for (const [j, f] of FITTED.entries()) console.log(f.name.padEnd(24), (weights[j] as number).toFixed(3));
if (more.includes("--each"))
  for (const [i, r] of rows.entries()) {
    const own = left[i] as number;
    console.log(String(r.id).padEnd(4), r.y.toFixed(0).padStart(3), own.toFixed(0).padStart(3), (own - r.y).toFixed(0));
  }
if (more.includes("--write")) {
  const made = Object.fromEntries(FITTED.map((f, j) => [f.name, Math.round((weights[j] as number) * 1000) / 1000]));
  writeFileSync(
    "src/core/grading/difficulty/weights.json",
    `${JSON.stringify({ by: "npm run fit:difficulty", weights: made }, null, 2)}\n`,
  );
}
