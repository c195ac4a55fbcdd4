import { type Impression, INPUTS, STANDINGS } from "./impression";
import { TABLES } from "./labels";
import fitted from "./network.json";

/** Roots that the annotated tunes use, in semitones above the tonic. The network is fitted on these. */
export const ROOTS = [0, 2, 3, 4, 5, 7, 8, 9, 10];

/** Units of the first layer and of the second; outputs are the points of the major and of the minor triad. */
export const FIRST = 48;
export const SECOND = 32;
const OUTPUTS = 2;
/** One input's weights: to every unit of the first layer, and past both layers straight to the outputs. */
export const ROW = FIRST + OUTPUTS;

/**
 * A network of two layers that hears a beat from the root of one chord, the same from every root: inputs (rotated to
 * the root) to FIRST rectified units, those to SECOND rectified units, those to two outputs. Shapes:
 */
export type Network = {
  /** INPUTS x ROW. */
  inputs: Float64Array;
  /** STANDINGS x FIRST. */
  standing: Float64Array;
  /** TABLES x 12 roots x FIRST: the first layer's biases, by mode and root. */
  root: Float64Array;
  /** FIRST x SECOND, then SECOND biases. */
  second: Float64Array;
  /** SECOND x OUTPUTS, then OUTPUTS biases. */
  output: Float64Array;
};
/** How many weights each part has. */
export const NETWORK_SIZES: Record<keyof Network, number> = {
  inputs: INPUTS * ROW,
  standing: STANDINGS * FIRST,
  root: TABLES * 12 * FIRST,
  second: (FIRST + 1) * SECOND,
  output: (SECOND + 1) * OUTPUTS,
};
/** Where the weights of one standing, of one mode and root, of one unit of a layer begin. */
const standingRow = (standing: number) => standing * FIRST;
const rootRow = (table: number, root: number) => (table * 12 + root) * FIRST;
const secondRow = (unit: number) => unit * SECOND;
const outputRow = (unit: number) => unit * OUTPUTS;
const SECOND_BIASES = secondRow(FIRST);
const OUTPUT_BIASES = outputRow(SECOND);

/** Weights are kept as whole thousandths. */
const GRAIN = 1000;

/**
 * Gives every root that the fit never met the mean bias of those it did: notes are heard from there without habit for
 * or against.
 */
function lent({ root, ...rest }: Network): Network {
  const full = root.slice();
  for (let table = 0; table < TABLES; table++) {
    for (let unmet = 0; unmet < 12; unmet++) {
      if (ROOTS.includes(unmet)) continue;
      for (let unit = 0; unit < FIRST; unit++) {
        const sum = ROOTS.reduce((total, known) => total + (root[rootRow(table, known) + unit] as number), 0);
        full[rootRow(table, unmet) + unit] = sum / ROOTS.length;
      }
    }
  }
  return { ...rest, root: full };
}

const ungrained = (list: readonly number[]) => Float64Array.from(list, (w) => w / GRAIN);
const parts = Object.entries(fitted.parts as Record<keyof Network, number[]>);
const learned = lent(Object.fromEntries(parts.map(([name, list]) => [name, ungrained(list)])) as Network);
/** Weights as whole numbers, as the file has them. */
export const grained = (network: Network): Record<keyof Network, number[]> =>
  Object.fromEntries(
    Object.entries(network).map(([name, list]) => [
      name,
      Array.from(list as Float64Array, (w) => Math.round(w * GRAIN)),
    ]),
  ) as Record<keyof Network, number[]>;

/**
 * Where the weights of an input begin, heard from a root: inputs come in twelves, one for each semitone above the
 * tonic.
 */
export const inputRow = (input: number, root: number): number => {
  const semitone = input % 12;
  return (input - semitone + ((semitone - root + 12) % 12)) * ROW;
};

/**
 * Sums of the first layer and, behind them, what goes straight to the outputs, heard from a root.
 * Four inputs are taken at a time, which is nearly twice as fast as one.
 */
export function firstLayer(
  { inputs, standing, root: biases }: Network,
  { index, value, standings, table }: Impression,
  root: number,
  sums: Float64Array,
): void {
  sums.fill(0);
  let k = 0;
  for (; k + 3 < index.length; k += 4) {
    const a = inputRow(index[k] as number, root);
    const b = inputRow(index[k + 1] as number, root);
    const c = inputRow(index[k + 2] as number, root);
    const d = inputRow(index[k + 3] as number, root);
    const [p, q, r, s] = [value[k], value[k + 1], value[k + 2], value[k + 3]] as [number, number, number, number];
    for (let u = 0; u < ROW; u++) {
      const half = (inputs[a + u] as number) * p + (inputs[b + u] as number) * q;
      sums[u]! += half + (inputs[c + u] as number) * r + (inputs[d + u] as number) * s;
    }
  }
  for (; k < index.length; k++) {
    const [a, p] = [inputRow(index[k] as number, root), value[k] as number];
    for (let u = 0; u < ROW; u++) sums[u]! += (inputs[a + u] as number) * p;
  }
  for (const s of standings) for (let u = 0; u < FIRST; u++) sums[u]! += standing[standingRow(s) + u] as number;
  for (let u = 0; u < FIRST; u++) sums[u]! += biases[rootRow(table, root) + u] as number;
}

const first = new Float64Array(ROW);
const second = new Float64Array(SECOND);

/** Points of the major and the minor triad on one root. */
export function verdict(
  impression: Impression,
  root: number,
  network: Network = learned,
): [major: number, minor: number] {
  firstLayer(network, impression, root, first);
  second.set(network.second.subarray(SECOND_BIASES));
  for (let u = 0; u < FIRST; u++) {
    const sum = first[u] as number;
    if (sum <= 0) continue;
    for (let v = 0; v < SECOND; v++) second[v]! += sum * (network.second[secondRow(u) + v] as number);
  }
  const points: [number, number] = [first[FIRST] as number, first[FIRST + 1] as number];
  for (const minor of [0, 1] as const) {
    points[minor] += network.output[OUTPUT_BIASES + minor] as number;
    for (let v = 0; v < SECOND; v++) {
      points[minor] += Math.max(0, second[v] as number) * (network.output[outputRow(v) + minor] as number);
    }
  }
  return points;
}
