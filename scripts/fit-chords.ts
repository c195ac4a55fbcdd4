// Fits the weights of the chord search: the tables and the network. Usage: npm run fit:chords -- DIR [FOLDS]; with
// some of the folds 0 to 4 named, only cross-validates on those. Reads every .abc in DIR (melody with chord symbols;
// where a .jsonl of the same name lies beside it, the exact places of the chords come from there), learns a chain
// model over felt beats, cross-validates, prints agreement by mode and dance type against two plain baselines, and
// writes tables.json and network.json of src/core/chords. A fold takes some minutes.
import { existsSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { analyse, strainKeys } from "../src/core/analysis";
import {
  type Beat,
  type Block,
  BLOCKS,
  beatsOf,
  FIRST,
  firstLayer,
  gather,
  gatherMove,
  grained,
  type Impression,
  inputRow,
  INPUTS,
  LABELS,
  labelOf,
  moveId,
  NETWORK_SIZES,
  type Network,
  OFFSETS,
  ROOTS,
  ROW,
  SECOND,
  SIZE,
  verdict,
} from "../src/core/chords/hearing";
import { segments } from "../src/core/chords/segments";
import { readAbc } from "../src/core/formats";
import { QUARTER } from "../src/core/score";
import { parseChord, semitoneOf } from "../src/core/theory";
import { numbers } from "../src/testing/mutate";

const FOLDS = 5;
const [folder, only] = process.argv.slice(2);
if (!folder) {
  console.error("Name a folder with annotated ABC tunes.");
  process.exit(2);
}
const folds = only ? only.split(",").map(Number) : Array.from({ length: FOLDS }, (_, i) => i);
/**
 * How the fit goes: rounds through all tunes, tunes heard before each correction, the fastest rate, pull of every
 * weight towards zero, and the shares that drop out.
 */
const ROUNDS = 30;
const BATCH = 8;
const RATE = 0.003;
const PULL = 0.001;
const DROP = { inputs: 0.25, units: 0.45 };

type Row = { beats: Beat[]; truth: Int8Array; mode: string; dance: string };

function rowsOf(dir: string): Row[] {
  return readdirSync(dir)
    .filter((f) => f.endsWith(".abc"))
    .sort()
    .flatMap((file) => {
      const exact = join(dir, file.replace(/\.abc$/, ".jsonl"));
      const marks = existsSync(exact)
        ? readFileSync(exact, "utf8")
            .trim()
            .split("\n")
            .map((l) => JSON.parse(l) as { chords: { at: number; symbol: string }[] })
        : undefined;
      return readAbc(readFileSync(join(dir, file), "utf8")).tunes.flatMap(({ tune, index }): Row[] => {
        const analysis = analyse(tune);
        const { places, form } = analysis;
        const keys = strainKeys(tune, analysis);
        const cut = segments(places, new Set(form.phrases.map((p) => p.to)));
        const chords =
          marks?.[index - 1]?.chords.map((c) => ({ at: c.at * QUARTER, symbol: c.symbol })) ??
          places.flatMap((p) => p.bar.chords.map((c) => ({ at: p.at + c.at, symbol: c.symbol })));
        if (chords.length === 0 || cut.length === 0) return [];
        const truth = Int8Array.from(cut, (s) => {
          const middle = s.place.at + s.at + s.ticks / 2;
          const chord = parseChord(chords.findLast((c) => c.at <= middle)?.symbol ?? chords[0]?.symbol ?? "");
          if (!chord) return -1;
          const root = semitoneOf(chord.root);
          return labelOf(
            (root - semitoneOf((keys[s.place.strain] ?? tune.key).tonic) + 12) % 12,
            chord.classes.includes((root + 3) % 12) && !chord.classes.includes((root + 4) % 12),
          );
        });
        return [
          {
            beats: beatsOf(cut, keys, new Set(form.phrases.map((p) => p.from))),
            truth,
            mode: keys[0]?.mode ?? "major",
            dance: tune.rhythm || "other",
          },
        ];
      });
    });
}

/** Features of each beat and label, flattened once: starts, then pairs of weight and value. */
type Flat = { from: Int32Array; index: Int32Array; value: Float64Array };
function flatten(beats: readonly Beat[]): Flat {
  const from = new Int32Array(beats.length * LABELS + 1);
  const [index, value]: [number[], number[]] = [[], []];
  beats.forEach((beat, t) => {
    for (let l = 0; l < LABELS; l++) {
      gather(beat, l, (block, i, v) => {
        index.push(OFFSETS[block] + i);
        value.push(v);
      });
      from[t * LABELS + l + 1] = index.length;
    }
  });
  return { from, index: Int32Array.from(index), value: Float64Array.from(value) };
}

function local(flat: Flat, weights: Float64Array, count: number): Float64Array {
  const scores = new Float64Array(count * LABELS);
  for (let c = 0; c < scores.length; c++) {
    let sum = 0;
    for (let k = flat.from[c] as number; k < (flat.from[c + 1] as number); k++)
      sum += (weights[flat.index[k] as number] as number) * (flat.value[k] as number);
    scores[c] = sum;
  }
  return scores;
}

/** Scores of every move into a beat, and the same raised; beats alike in table, build, start and phrase share them. */
type Moves = { scores: Float64Array; raised: Float64Array };
function mover(weights: Float64Array): (beat: Beat) => Moves {
  const known = new Map<number, Moves>();
  return (beat) => {
    const found = known.get(moveId(beat));
    if (found) return found;
    const scores = new Float64Array(LABELS * LABELS);
    for (let a = 0; a < LABELS; a++)
      for (let b = 0; b < LABELS; b++)
        gatherMove(beat, a, b, (block, i, v) => {
          scores[a * LABELS + b]! += (weights[OFFSETS[block] + i] as number) * v;
        });
    const made = { scores, raised: scores.map(Math.exp) };
    known.set(moveId(beat), made);
    return made;
  };
}

/**
 * Chances of every label at every beat by the sum over all paths; adds the slope of the log-likelihood by move. Returns
 * the slope by beat and label.
 */
function learn(row: Row, own: Float64Array, moves: (b: Beat) => Moves, slope: Float64Array): Float64Array {
  const n = row.beats.length;
  const errors = new Float64Array(n * LABELS);
  const forward = new Float64Array(n * LABELS);
  const scale = new Float64Array(n);
  const raised = own.map(Math.exp);
  const steps = row.beats.map((b) => moves(b).raised);
  for (let t = 0; t < n; t++) {
    let sum = 0;
    for (let b = 0; b < LABELS; b++) {
      let into = t === 0 ? 1 : 0;
      if (t > 0)
        for (let a = 0; a < LABELS; a++)
          into += (forward[(t - 1) * LABELS + a] as number) * ((steps[t] as Float64Array)[a * LABELS + b] as number);
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
    if (truth >= 0)
      for (let l = 0; l < LABELS; l++)
        errors[t * LABELS + l] =
          (l === truth ? 1 : 0) - ((forward[t * LABELS + l] as number) * (backward[l] as number)) / norm;
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
        if (truth >= 0 && previous >= 0 && Math.abs(error) > 1e-4 && a !== b)
          gatherMove(row.beats[t] as Beat, a, b, (block, i, v) => {
            slope[OFFSETS[block] + i]! += error * v;
          });
      }
      next[a] = sum / (scale[t] as number);
    }
    backward = next;
  }
  return errors;
}

const PARTS = Object.keys(NETWORK_SIZES) as (keyof Network)[];
type Model = { tables: Float64Array; network: Network };
/**
 * What one beat left behind in the network on its way forward, for the way back: which inputs were let through, and
 * every unit for each root.
 */
type Trace = { heard: Impression; firsts: Float64Array; seconds: Float64Array };

/**
 * The network's points for one beat while it learns: some inputs and units drop out, so that none is relied on.
 */
function forwardPass(
  network: Network,
  impression: Impression,
  random: () => number,
  into: Float64Array,
  at: number,
): Trace {
  const keep = (share: number) => (random() < share ? 0 : 1 / (1 - share));
  const kept = impression.value.map((v) => v * keep(DROP.inputs));
  const heard = {
    ...impression,
    index: impression.index.filter((_, k) => kept[k] !== 0),
    value: kept.filter((v) => v !== 0),
  };
  const sums = new Float64Array(ROW);
  const { second: secondWeights, output } = network;
  const [firsts, seconds] = [new Float64Array(ROOTS.length * FIRST), new Float64Array(ROOTS.length * SECOND)];
  ROOTS.forEach((root, r) => {
    firstLayer(network, heard, root, sums);
    const weighed = seconds.subarray(r * SECOND, (r + 1) * SECOND);
    weighed.set(secondWeights.subarray(FIRST * SECOND));
    for (let h = 0; h < FIRST; h++) {
      const sum = (sums[h] as number) > 0 ? (sums[h] as number) * keep(DROP.units) : 0;
      if (sum === 0) continue;
      firsts[r * FIRST + h] = sum;
      for (let j = 0; j < SECOND; j++) weighed[j]! += sum * (secondWeights[h * SECOND + j] as number);
    }
    for (let j = 0; j < SECOND; j++)
      weighed[j] = (weighed[j] as number) > 0 ? (weighed[j] as number) * keep(DROP.units) : 0;
    for (const minor of [0, 1]) {
      let sum = (output[SECOND * 2 + minor] as number) + (sums[FIRST + minor] as number);
      for (let j = 0; j < SECOND; j++) sum += (weighed[j] as number) * (output[j * 2 + minor] as number);
      into[at + root * 2 + minor]! += sum;
    }
  });
  return { heard, firsts, seconds };
}

/**
 * The way back: adds the slope of every weight of the network, given the slope of its outputs. What dropped out or kept
 * silent (0) learns nothing.
 */
function backwardPass(
  network: Network,
  { heard, firsts, seconds }: Trace,
  outputErrors: Float64Array,
  at: number,
  slopes: Network,
): void {
  const back = new Float64Array(ROW);
  const active = new Int32Array(ROW);
  const weighed = new Float64Array(SECOND);
  const { second: secondWeights, output } = network;
  const { inputs, standing, root: biases, second: secondSlope, output: outputSlope } = slopes;
  const { index, value, standings, table } = heard;
  ROOTS.forEach((root, r) => {
    const [major, minor] = [outputErrors[at + root * 2] as number, outputErrors[at + root * 2 + 1] as number];
    if (Math.abs(major) + Math.abs(minor) < 1e-5) return;
    back.fill(0);
    back[FIRST] = major;
    back[FIRST + 1] = minor;
    outputSlope[SECOND * 2]! += major;
    outputSlope[SECOND * 2 + 1]! += minor;
    const errors = weighed.fill(0);
    for (let j = 0; j < SECOND; j++) {
      const out = seconds[r * SECOND + j] as number;
      if (out === 0) continue;
      outputSlope[j * 2]! += major * out;
      outputSlope[j * 2 + 1]! += minor * out;
      errors[j] = (major * (output[j * 2] as number) + minor * (output[j * 2 + 1] as number)) / (1 - DROP.units);
      secondSlope[FIRST * SECOND + j]! += errors[j] as number;
    }
    let speaking = 0;
    for (let h = 0; h < FIRST; h++) {
      const sum = firsts[r * FIRST + h] as number;
      if (sum === 0) continue;
      active[speaking++] = h;
      let error = 0;
      for (let j = 0; j < SECOND; j++) {
        secondSlope[h * SECOND + j]! += (errors[j] as number) * sum;
        error += (errors[j] as number) * (secondWeights[h * SECOND + j] as number);
      }
      back[h] = error / (1 - DROP.units);
      biases[(table * 12 + root) * FIRST + h]! += back[h] as number;
      for (const s of standings) standing[s * FIRST + h]! += back[h] as number;
    }
    active[speaking++] = FIRST;
    active[speaking++] = FIRST + 1;
    for (let k = 0; k < index.length; k++) {
      const v = value[k] as number;
      const row = inputRow(index[k] as number, root);
      for (let n = 0; n < speaking; n++) {
        const h = active[n] as number;
        inputs[row + h]! += (back[h] as number) * v;
      }
    }
  });
}

/**
 * A rate that rises for three tenths of the way and then falls to nothing, both as a cosine (Smith and Topin, 2019).
 */
const rateAt = (step: number, steps: number): number => {
  const up = steps * 0.3;
  const bend = (from: number, to: number, share: number) => to + ((from - to) * (1 + Math.cos(Math.PI * share))) / 2;
  return step < up ? bend(RATE / 25, RATE, step / up) : bend(RATE, 0, (step - up) / (steps - up));
};

function train(rows: readonly Row[], flats: ReadonlyMap<Row, Flat>, seed: number): Model {
  const random = numbers(seed);
  const spread = (size: number, width: number) => Float64Array.from({ length: size }, () => (random() * 2 - 1) * width);
  const network: Network = {
    inputs: spread(NETWORK_SIZES.inputs, INPUTS ** -0.5),
    standing: spread(NETWORK_SIZES.standing, 0.15),
    root: spread(NETWORK_SIZES.root, 0.17),
    second: spread(NETWORK_SIZES.second, FIRST ** -0.5),
    output: spread(NETWORK_SIZES.output, SECOND ** -0.5),
  };
  const model = { tables: new Float64Array(SIZE), network };
  const slopes: Network = Object.fromEntries(PARTS.map((p) => [p, new Float64Array(NETWORK_SIZES[p])])) as Network;
  const parts = [[model.tables, new Float64Array(SIZE)], ...PARTS.map((p) => [network[p], slopes[p]])].map(
    ([weights, slope]) => ({
      weights: weights as Float64Array,
      slope: slope as Float64Array,
      first: new Float64Array((slope as Float64Array).length),
      second: new Float64Array((slope as Float64Array).length),
    }),
  );
  const batches = Math.ceil(rows.length / BATCH);
  let step = 0;
  for (let round = 0; round < ROUNDS; round++) {
    const order = rows
      .map((row) => ({ row, key: random() }))
      .sort((a, b) => a.key - b.key)
      .map((r) => r.row);
    for (let batch = 0; batch < batches; batch++) {
      const own = order.slice(batch * BATCH, (batch + 1) * BATCH);
      for (const part of parts) part.slope.fill(0);
      const moves = mover(model.tables);
      const count = own.reduce((n, row) => n + row.truth.filter((t) => t >= 0).length, 0) || 1;
      for (const row of own) {
        const flat = flats.get(row) as Flat;
        const points = local(flat, model.tables, row.beats.length);
        const traces = row.beats.map((beat, t) => forwardPass(network, beat.heard, random, points, t * LABELS));
        const errors = learn(row, points, moves, parts[0]?.slope as Float64Array);
        for (let c = 0; c < errors.length; c++) {
          const error = errors[c] as number;
          if (Math.abs(error) > 1e-6)
            for (let k = flat.from[c] as number; k < (flat.from[c + 1] as number); k++)
              (parts[0]?.slope as Float64Array)[flat.index[k] as number]! += error * (flat.value[k] as number);
        }
        traces.forEach((trace, t) => {
          backwardPass(network, trace, errors, t * LABELS, slopes);
        });
      }
      const rate = rateAt(step, batches * ROUNDS);
      step += 1;
      for (const { weights, slope, first, second } of parts)
        for (let i = 0; i < weights.length; i++) {
          const g = (slope[i] as number) / count - PULL * (weights[i] as number);
          first[i] = 0.9 * (first[i] as number) + 0.1 * g;
          second[i] = 0.999 * (second[i] as number) + 0.001 * g * g;
          weights[i]! +=
            (rate * (first[i] as number)) /
            (1 - 0.9 ** step) /
            (Math.sqrt((second[i] as number) / (1 - 0.999 ** step)) + 1e-8);
        }
    }
  }
  return model;
}

/** Points of every beat and label: the tables' and the network's. */
function pointsOf(row: Row, { tables, network }: Model, flat: Flat): Float64Array {
  const points = local(flat, tables, row.beats.length);
  row.beats.forEach(({ heard }, t) => {
    for (const root of ROOTS)
      verdict(heard, root, network).forEach((v, minor) => {
        points[t * LABELS + root * 2 + minor]! += v;
      });
  });
  return points;
}

/** Max-marginals of every beat and label: the score of the best path through each. */
function decode(row: Row, own: Float64Array, moves: (b: Beat) => Moves): Float64Array {
  const n = row.beats.length;
  const forward = new Float64Array(n * LABELS);
  const backward = new Float64Array(n * LABELS);
  for (let t = 0; t < n; t++)
    for (let b = 0; b < LABELS; b++) {
      let best = t === 0 ? 0 : -Infinity;
      if (t > 0) {
        const step = moves(row.beats[t] as Beat).scores;
        for (let a = 0; a < LABELS; a++)
          best = Math.max(best, (forward[(t - 1) * LABELS + a] as number) + (step[a * LABELS + b] as number));
      }
      forward[t * LABELS + b] = best + (own[t * LABELS + b] as number);
    }
  for (let t = n - 2; t >= 0; t--) {
    const step = moves(row.beats[t + 1] as Beat).scores;
    for (let a = 0; a < LABELS; a++) {
      let best = -Infinity;
      for (let b = 0; b < LABELS; b++)
        best = Math.max(
          best,
          (step[a * LABELS + b] as number) +
            (own[(t + 1) * LABELS + b] as number) +
            (backward[(t + 1) * LABELS + b] as number),
        );
      backward[t * LABELS + a] = best;
    }
  }
  return forward.map((f, i) => f + (backward[i] as number));
}

const rows = rowsOf(folder);
console.error(`${rows.length} tunes, ${rows.reduce((n, r) => n + r.beats.length, 0)} beats`);
const flats = new Map(rows.map((r) => [r, flatten(r.beats)]));
type Tally = { time: number; first: number; three: number; surest: number; tonic: number; beat: number };
const tallies = new Map<string, Tally>();
const count = (name: string, what: Tally) => {
  const t = tallies.get(name) ?? { time: 0, first: 0, three: 0, surest: 0, tonic: 0, beat: 0 };
  for (const k of Object.keys(what) as (keyof Tally)[]) t[k] += what[k];
  tallies.set(name, t);
};
const percent = (n: number, of: number) => ((100 * n) / of).toFixed(1).padStart(7);
const labels = Array.from({ length: LABELS }, (_, l) => l);
for (const fold of folds) {
  const model = train(
    rows.filter((_, i) => i % FOLDS !== fold),
    flats,
    fold + 1,
  );
  const moves = mover(model.tables);
  for (const row of rows.filter((_, i) => i % FOLDS === fold)) {
    const own = pointsOf(row, model, flats.get(row) as Flat);
    const through = decode(row, own, moves);
    const errors = learn(row, own, moves, new Float64Array(SIZE));
    row.beats.forEach((beat, t) => {
      const truth = row.truth[t] as number;
      if (truth < 0) return;
      const best = (points: (label: number) => number) => labels.reduce((a, b) => (points(b) > points(a) ? b : a));
      const order = [...labels].sort(
        (a, b) => (through[t * LABELS + b] as number) - (through[t * LABELS + a] as number),
      );
      const right = (label: number) => (label === truth ? beat.ticks : 0);
      const what = {
        time: beat.ticks,
        first: right(order[0] as number),
        three: order.slice(0, 3).includes(truth) ? beat.ticks : 0,
        surest: right(best((l) => (l === truth ? 1 : 0) - (errors[t * LABELS + l] as number))),
        tonic: right(labelOf(0, beat.table > 1)),
        beat: right(best((l) => own[t * LABELS + l] as number)),
      };
      for (const name of ["all", `fold ${fold}`, row.mode, row.dance]) count(name, what);
    });
  }
  console.error(
    `fold ${fold}: ${percent(tallies.get(`fold ${fold}`)?.first as number, tallies.get(`fold ${fold}`)?.time as number)}`,
  );
}
console.log("                 first within 3  surest  tonic  one beat");
for (const [name, t] of tallies)
  console.log(name.padEnd(14), ...[t.first, t.three, t.surest, t.tonic, t.beat].map((share) => percent(share, t.time)));
if (folds.length < FOLDS) process.exit(0);

const final = train(rows, flats, 0);
const all = tallies.get("all") as Tally;
const [first, three] = [all.first, all.three].map((share) => percent(share, all.time).trim());
const about = {
  made: "npm run fit:chords -- DIR",
  agreement:
    `root and third on ${rows.length} tunes left out in turn: ` +
    `first choice ${first} percent of the time, among three ${three}`,
};
const write = (name: string, file: object) =>
  writeFileSync(
    join(import.meta.dirname, "../src/core/chords", name),
    `${JSON.stringify(file)
      .replace(/"(tables|parts)":\{/, '\n"$1":{\n')
      .replaceAll('],"', '],\n"')}\n`,
  );
const round = (w: number) => Math.round(w * 1000) / 1000;
write("hearing/tables.json", {
  about:
    "Points of the chord search, fitted on annotated tunes together with network.json: above 0 speaks for a chord, " +
    "below 0 against it. The blocks are laid out in blocks.ts.",
  ...about,
  tables: Object.fromEntries(
    (Object.keys(BLOCKS) as Block[]).map((block) => [
      block,
      Array.from(final.tables.subarray(OFFSETS[block], OFFSETS[block] + BLOCKS[block]), round),
    ]),
  ),
});
write("hearing/network.json", {
  about: "The network of the chord search, in thousandths. Its layers are laid out in network.ts.",
  ...about,
  parts: grained(final.network),
});
console.log(about.agreement);
