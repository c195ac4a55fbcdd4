import fitted from "./ear.json";
import { type Impression, INPUTS, STANDINGS } from "./impression";
import { TABLES } from "./labels";

/** Roots that the annotated tunes use, in semitones above the tonic. The ear is fitted on these. */
export const ROOTS = [0, 2, 3, 4, 5, 7, 8, 9, 10];

/**
 * The ear's weights: 48 listeners who each hear the notes from the root of a chord, 32 who weigh them, and their
 * verdicts on its major and its minor triad.
 */
export type Ear = {
  /** By input, a row of points for every listener and two straight to the verdicts. */
  notes: Float64Array;
  /** By standing, for every listener. */
  standing: Float64Array;
  /** By mode and root, for every listener; their resting points are in here. */
  root: Float64Array;
  /** By listener, for every judge, then the judges' resting points. */
  judge: Float64Array;
  /** By judge, for major and minor, then the verdicts' resting points. */
  verdict: Float64Array;
};
export const LISTENERS = 48;
export const JUDGES = 32;
export const ROW = LISTENERS + 2;
/** How many weights each part has. */
export const EAR_SIZES: Record<keyof Ear, number> = {
  notes: INPUTS * ROW,
  standing: STANDINGS * LISTENERS,
  root: TABLES * 12 * LISTENERS,
  judge: (LISTENERS + 1) * JUDGES,
  verdict: (JUDGES + 1) * 2,
};

const GRAIN = 1000;
/**
 * Lends every root that the fit never met the mean of the resting points it learned: the notes are heard from there as
 * from anywhere, without habit for or against.
 */
function lent({ root, ...ear }: Ear): Ear {
  const full = root.slice();
  for (let table = 0; table < TABLES; table++)
    for (let r = 0; r < 12; r++)
      if (!ROOTS.includes(r))
        for (let h = 0; h < LISTENERS; h++) {
          full[(table * 12 + r) * LISTENERS + h] =
            ROOTS.reduce((sum, known) => sum + (root[(table * 12 + known) * LISTENERS + h] as number), 0) /
            ROOTS.length;
        }
  return { ...ear, root: full };
}

const learned = lent(
  Object.fromEntries(
    Object.entries(fitted.parts).map(([name, list]) => [name, Float64Array.from(list, (w) => w / GRAIN)]),
  ) as Ear,
);
/** Weights as whole numbers, as the file has them. */
export const grained = (ear: Ear): Record<keyof Ear, number[]> =>
  Object.fromEntries(
    Object.entries(ear).map(([name, list]) => [name, Array.from(list as Float64Array, (w) => Math.round(w * GRAIN))]),
  ) as Record<keyof Ear, number[]>;

/** Where the points of an input begin, heard from a root. */
export const rowOf = (input: number, root: number): number =>
  (input - (input % 12) + (((input % 12) - root + 12) % 12)) * ROW;

/**
 * What each listener gets from the notes of a beat, heard from a root; the last two go straight to the verdicts. Four
 * notes are taken at a time, which is nearly twice as fast as one.
 */
export function gathered(
  { notes, standing, root: resting }: Ear,
  { index, value, standings, table }: Impression,
  root: number,
  sums: Float64Array,
): void {
  sums.fill(0);
  let k = 0;
  for (; k + 3 < index.length; k += 4) {
    const [a, b, c, d] = [
      rowOf(index[k] as number, root),
      rowOf(index[k + 1] as number, root),
      rowOf(index[k + 2] as number, root),
      rowOf(index[k + 3] as number, root),
    ];
    const [p, q, r, s] = [value[k] as number, value[k + 1] as number, value[k + 2] as number, value[k + 3] as number];
    for (let h = 0; h < ROW; h++)
      sums[h]! +=
        (notes[a + h] as number) * p +
        (notes[b + h] as number) * q +
        (notes[c + h] as number) * r +
        (notes[d + h] as number) * s;
  }
  for (; k < index.length; k++) {
    const [a, p] = [rowOf(index[k] as number, root), value[k] as number];
    for (let h = 0; h < ROW; h++) sums[h]! += (notes[a + h] as number) * p;
  }
  for (const s of standings) for (let h = 0; h < LISTENERS; h++) sums[h]! += standing[s * LISTENERS + h] as number;
  for (let h = 0; h < LISTENERS; h++) sums[h]! += resting[(table * 12 + root) * LISTENERS + h] as number;
}

const sums = new Float64Array(ROW);
const weighed = new Float64Array(JUDGES);

/**
 * Points of the major and the minor triad on one root: listeners and judges speak only above zero, the verdict is their
 * weighted sum.
 */
export function verdict(impression: Impression, root: number, ear: Ear = learned): [major: number, minor: number] {
  const { judge, verdict } = ear;
  gathered(ear, impression, root, sums);
  weighed.set(judge.subarray(LISTENERS * JUDGES));
  for (let h = 0; h < LISTENERS; h++) {
    const sum = sums[h] as number;
    if (sum > 0) for (let j = 0; j < JUDGES; j++) weighed[j]! += sum * (judge[h * JUDGES + j] as number);
  }
  const points: [number, number] = [sums[LISTENERS] as number, sums[LISTENERS + 1] as number];
  for (const minor of [0, 1] as const) {
    points[minor] += verdict[JUDGES * 2 + minor] as number;
    for (let j = 0; j < JUDGES; j++)
      points[minor] += Math.max(0, weighed[j] as number) * (verdict[j * 2 + minor] as number);
  }
  return points;
}
