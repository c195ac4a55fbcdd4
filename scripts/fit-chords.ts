// Fits the weights of the chord search. Usage: npm run fit:chords -- DIR. Reads every .abc in DIR (melody with chord symbols; where a .jsonl
// of the same name lies beside it, the exact places of the chords come from there), learns a chain model over felt beats, cross-validates, prints agreement
// by mode and dance type against two plain baselines, and writes src/core/chords/weights.json.
import { existsSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { analyse, strainKeys } from "../src/core/analysis";
import { type Beat, beatsOf, BLOCKS, type Block, gather, gatherMove, LABELS, labelOf, OFFSETS, SIZE } from "../src/core/chords/features";
import { segments } from "../src/core/chords/segments";
import { readAbc } from "../src/core/formats";
import { QUARTER } from "../src/core/score";
import { parseChord, semitoneOf } from "../src/core/theory";

const [folder] = process.argv.slice(2);
if (!folder) { console.error("Name a folder with annotated ABC tunes."); process.exit(2); }
const ROUNDS = 110;
/** Pull of each block's weights towards zero. */
const PULL: Record<Block, number> = { note: 0.45, bar: 0.45, before: 0.45, after: 0.45, spelled: 0.45, spelledBar: 0.45, lead: 0.45, outside: 0.45, place: 2.2, spot: 2.2, degree: 1.5, degreeDown: 1.5, move: 2.2, cadence: 2.2, change: 0.15, changeSpot: 0.45, phraseChange: 0.15 };

type Row = { beats: Beat[]; truth: Int8Array; mode: string; dance: string };

function rowsOf(dir: string): Row[] {
  return readdirSync(dir).filter((f) => f.endsWith(".abc")).sort().flatMap((file) => {
    const exact = join(dir, file.replace(/\.abc$/, ".jsonl"));
    const marks = existsSync(exact) ? readFileSync(exact, "utf8").trim().split("\n").map((l) => JSON.parse(l) as { chords: { at: number; symbol: string }[] }) : undefined;
    return readAbc(readFileSync(join(dir, file), "utf8")).tunes.flatMap(({ tune, index }): Row[] => {
      const analysis = analyse(tune);
      const { places, form } = analysis;
      const keys = strainKeys(tune, analysis);
      const cut = segments(places, new Set(form.phrases.map((p) => p.to)));
      const chords = marks?.[index - 1]?.chords.map((c) => ({ at: c.at * QUARTER, symbol: c.symbol })) ?? places.flatMap((p) => p.bar.chords.map((c) => ({ at: p.at + c.at, symbol: c.symbol })));
      if (chords.length === 0 || cut.length === 0) return [];
      const truth = Int8Array.from(cut, (s) => {
        const middle = s.place.at + s.at + s.ticks / 2;
        const chord = parseChord(chords.findLast((c) => c.at <= middle)?.symbol ?? chords[0]?.symbol ?? "");
        if (!chord) return -1;
        const root = semitoneOf(chord.root);
        return labelOf((root - semitoneOf((keys[s.place.strain] ?? tune.key).tonic) + 12) % 12, chord.sounds.includes((root + 3) % 12) && !chord.sounds.includes((root + 4) % 12));
      });
      return [{ beats: beatsOf(cut, keys, new Set(form.phrases.map((p) => p.from))), truth, mode: keys[0]?.mode ?? "major", dance: tune.rhythm || "other" }];
    });
  });
}

/** Features of each beat and label, flattened once: starts, then pairs of weight and value. */
type Flat = { from: Int32Array; index: Int32Array; value: Float64Array };
function flatten(beats: readonly Beat[]): Flat {
  const from = new Int32Array(beats.length * LABELS + 1);
  const [index, value]: [number[], number[]] = [[], []];
  beats.forEach((beat, t) => { for (let l = 0; l < LABELS; l++) { gather(beat, l, (block, i, v) => { index.push(OFFSETS[block] + i); value.push(v); }); from[t * LABELS + l + 1] = index.length; } });
  return { from, index: Int32Array.from(index), value: Float64Array.from(value) };
}

function local(flat: Flat, weights: Float64Array, count: number): Float64Array {
  const scores = new Float64Array(count * LABELS);
  for (let c = 0; c < scores.length; c++) {
    let sum = 0;
    for (let k = flat.from[c] as number; k < (flat.from[c + 1] as number); k++) sum += (weights[flat.index[k] as number] as number) * (flat.value[k] as number);
    scores[c] = sum;
  }
  return scores;
}

/** Scores of every move into a beat; beats alike in table, build, start and phrase share them. */
function mover(weights: Float64Array) {
  const known = new Map<string, Float64Array>();
  return (beat: Beat): Float64Array => {
    const id = `${beat.table > 1}${beat.build}${beat.start}${beat.phrase}${beat.spot}`;
    let table = known.get(id);
    if (!table) {
      table = new Float64Array(LABELS * LABELS);
      for (let a = 0; a < LABELS; a++) for (let b = 0; b < LABELS; b++) gatherMove(beat, a, b, (block, i, v) => { table![a * LABELS + b]! += (weights[OFFSETS[block] + i] as number) * v; });
      known.set(id, table);
    }
    return table;
  };
}

/** Adds the slope of one tune's log-likelihood. */
function learn(row: Row, flat: Flat, weights: Float64Array, moves: (b: Beat) => Float64Array, slope: Float64Array): void {
  const n = row.beats.length;
  const own = local(flat, weights, n);
  const forward = new Float64Array(n * LABELS);
  const scale = new Float64Array(n);
  const raised = own.map(Math.exp);
  const steps = row.beats.map((b) => moves(b).map(Math.exp));
  for (let t = 0; t < n; t++) {
    let sum = 0;
    for (let b = 0; b < LABELS; b++) {
      let into = t === 0 ? 1 : 0;
      if (t > 0) for (let a = 0; a < LABELS; a++) into += (forward[(t - 1) * LABELS + a] as number) * ((steps[t] as Float64Array)[a * LABELS + b] as number);
      sum += forward[t * LABELS + b] = into * (raised[t * LABELS + b] as number);
    }
    scale[t] = sum;
    for (let b = 0; b < LABELS; b++) forward[t * LABELS + b]! /= sum;
  }
  let backward = new Float64Array(LABELS).fill(1);
  for (let t = n - 1; t >= 0; t--) {
    const truth = row.truth[t] as number;
    let norm = 0;
    for (let l = 0; l < LABELS; l++) norm += (forward[t * LABELS + l] as number) * (backward[l] as number);
    for (let l = 0; l < LABELS; l++) {
      const p = ((forward[t * LABELS + l] as number) * (backward[l] as number)) / norm;
      const error = (truth < 0 ? 0 : l === truth ? 1 : 0) - (truth < 0 ? 0 : p);
      if (Math.abs(error) < 1e-6) continue;
      for (let k = flat.from[t * LABELS + l] as number; k < (flat.from[t * LABELS + l + 1] as number); k++) slope[flat.index[k] as number]! += error * (flat.value[k] as number);
    }
    if (t === 0) break;
    const next = new Float64Array(LABELS);
    const step = steps[t] as Float64Array;
    const previous = row.truth[t - 1] as number;
    for (let a = 0; a < LABELS; a++) {
      let sum = 0;
      for (let b = 0; b < LABELS; b++) {
        const pair = (step[a * LABELS + b] as number) * (raised[t * LABELS + b] as number) * (backward[b] as number);
        sum += pair;
        const p = ((forward[(t - 1) * LABELS + a] as number) * pair) / ((scale[t] as number) * norm);
        const error = (previous === a && truth === b ? 1 : 0) - p;
        if (truth >= 0 && previous >= 0 && Math.abs(error) > 1e-6 && a !== b) gatherMove(row.beats[t] as Beat, a, b, (block, i, v) => { slope[OFFSETS[block] + i]! += error * v; });
      }
      next[a] = sum / (scale[t] as number);
    }
    backward = next;
  }
}

function train(rows: readonly Row[], flats: ReadonlyMap<Row, Flat>): Float64Array {
  const weights = new Float64Array(SIZE);
  const [first, second] = [new Float64Array(SIZE), new Float64Array(SIZE)];
  const pull = new Float64Array(SIZE);
  for (const block of Object.keys(BLOCKS) as Block[]) pull.fill(PULL[block], OFFSETS[block], OFFSETS[block] + BLOCKS[block]);
  for (let round = 1; round <= ROUNDS; round++) {
    const slope = new Float64Array(SIZE);
    const moves = mover(weights);
    for (const row of rows) learn(row, flats.get(row) as Flat, weights, moves, slope);
    const rate = round < ROUNDS * 0.6 ? 0.12 : 0.04;
    for (let i = 0; i < SIZE; i++) {
      const g = (slope[i] as number) - (pull[i] as number) * (weights[i] as number);
      first[i] = 0.9 * (first[i] as number) + 0.1 * g;
      second[i] = 0.99 * (second[i] as number) + 0.01 * g * g;
      weights[i]! += (rate * (first[i] as number)) / (1 - 0.9 ** round) / (Math.sqrt((second[i] as number) / (1 - 0.99 ** round)) + 1e-6);
    }
  }
  return weights;
}

/** Max-marginals of every beat and label: the score of the best path through each. */
function decode(row: Row, own: Float64Array, moves: (b: Beat) => Float64Array): Float64Array {
  const n = row.beats.length;
  const forward = new Float64Array(n * LABELS);
  const backward = new Float64Array(n * LABELS);
  for (let t = 0; t < n; t++) for (let b = 0; b < LABELS; b++) {
    let best = t === 0 ? 0 : -Infinity;
    if (t > 0) { const step = moves(row.beats[t] as Beat); for (let a = 0; a < LABELS; a++) best = Math.max(best, (forward[(t - 1) * LABELS + a] as number) + (step[a * LABELS + b] as number)); }
    forward[t * LABELS + b] = best + (own[t * LABELS + b] as number);
  }
  for (let t = n - 2; t >= 0; t--) { const step = moves(row.beats[t + 1] as Beat); for (let a = 0; a < LABELS; a++) {
    let best = -Infinity;
    for (let b = 0; b < LABELS; b++) best = Math.max(best, (step[a * LABELS + b] as number) + (own[(t + 1) * LABELS + b] as number) + (backward[(t + 1) * LABELS + b] as number));
    backward[t * LABELS + a] = best;
  } }
  return forward.map((f, i) => f + (backward[i] as number));
}

const rows = rowsOf(folder);
console.error(`${rows.length} tunes, ${rows.reduce((n, r) => n + r.beats.length, 0)} beats`);
const flats = new Map(rows.map((r) => [r, flatten(r.beats)]));
type Tally = { time: number; first: number; three: number; tonic: number; beat: number };
const tallies = new Map<string, Tally>();
const count = (name: string, what: Partial<Tally>) => { const t = tallies.get(name) ?? { time: 0, first: 0, three: 0, tonic: 0, beat: 0 }; for (const k of Object.keys(what) as (keyof Tally)[]) t[k] += what[k] as number; tallies.set(name, t); };
const FOLDS = 5;
for (let fold = 0; fold < FOLDS; fold++) {
  const weights = train(rows.filter((_, i) => i % FOLDS !== fold), flats);
  const moves = mover(weights);
  for (const row of rows.filter((_, i) => i % FOLDS === fold)) {
    const own = local(flats.get(row) as Flat, weights, row.beats.length);
    const through = decode(row, own, moves);
    row.beats.forEach((beat, t) => {
      const truth = row.truth[t] as number;
      if (truth < 0) return;
      const order = Array.from({ length: LABELS }, (_, l) => l).sort((a, b) => (through[t * LABELS + b] as number) - (through[t * LABELS + a] as number));
      const single = Array.from({ length: LABELS }, (_, l) => l).reduce((a, b) => ((own[t * LABELS + b] as number) > (own[t * LABELS + a] as number) ? b : a));
      const tonic = labelOf(0, beat.table > 1);
      for (const name of ["all", row.mode, row.dance]) count(name, { time: beat.ticks, first: order[0] === truth ? beat.ticks : 0, three: order.slice(0, 3).includes(truth) ? beat.ticks : 0, tonic: truth === tonic ? beat.ticks : 0, beat: single === truth ? beat.ticks : 0 });
    });
  }
}
const percent = (n: number, of: number) => ((100 * n) / of).toFixed(1).padStart(6);
console.log("                first  within 3   tonic   one beat");
for (const [name, t] of tallies) console.log(`${name.padEnd(14)} ${percent(t.first, t.time)} ${percent(t.three, t.time)}   ${percent(t.tonic, t.time)}   ${percent(t.beat, t.time)}`);

const final = train(rows, flats);
const all = tallies.get("all") as Tally;
const round = (w: number) => Math.round(w * 1000) / 1000;
const file = {
  about: "Points of the chord search, fitted on annotated tunes: above 0 speaks for a chord, below 0 against it. The blocks are laid out in src/core/chords/features.ts. Above them, in costs, what the annotations do not tell: sevenths, chords outside the style, another form of the same chord, the same music with another chord.",
  made: "npm run fit:chords -- DIR",
  agreement: `root and third on ${rows.length} tunes left out in turn: first choice ${percent(all.first, all.time).trim()} percent of the time, among three ${percent(all.three, all.time).trim()}`,
  seventhSounded: -0.6, seventhUnsounded: 0.35, outsideStyle: 40, sameRoot: 1.2, unlike: 1,
  tables: Object.fromEntries((Object.keys(BLOCKS) as Block[]).map((block) => [block, Array.from(final.subarray(OFFSETS[block], OFFSETS[block] + BLOCKS[block]), round)])),
};
writeFileSync(join(import.meta.dirname, "../src/core/chords/weights.json"), `${JSON.stringify(file).replace('"tables":{', '\n"tables":{\n').replaceAll('],"', '],\n"')}\n`);
console.log(file.agreement);
