import { BUILDS, LABELS, ROLES, SPOTS, STARTS, TABLES } from "./labels";

const TRIADS = 2;
const SEMITONES = 12;
const STRESSES = 3;
/** Kinds of foreign notes: any, a seventh, the other third. */
const KINDS = 3;
/** A triad's notes that are heard: none to all three. */
const HEARD = 4;

/** Kinds of evidence, each a block of weights with its dimensions, in the order they lie in one long list. */
const DIMENSIONS = {
  /** Triad, semitones above its root, stress. */
  note: [TRIADS, SEMITONES, STRESSES],
  /** Triad, semitones above its root, place in the bar. */
  bar: [TRIADS, SEMITONES, STARTS.length],
  before: [TRIADS, SEMITONES, STARTS.length],
  after: [TRIADS, SEMITONES, STARTS.length],
  /** Triad, how many of its notes are heard, place in the bar. */
  spelled: [TRIADS, HEARD, STARTS.length],
  spelledBar: [TRIADS, HEARD, STARTS.length],
  lead: [TRIADS, SEMITONES, STARTS.length],
  outside: [ROLES.length, KINDS],
  /** Mode, label, place in the bar; or spot in the phrase. */
  place: [TABLES, LABELS, STARTS.length],
  spot: [TABLES, LABELS, SPOTS.length],
  /** Mode, semitones above the tonic, label. */
  degree: [TABLES, SEMITONES, LABELS],
  degreeDown: [TABLES, SEMITONES, LABELS],
  /** Bright or dark mode, label left, label reached. */
  move: [2, LABELS, LABELS],
  cadence: [2, LABELS, LABELS],
  change: [BUILDS.length, STARTS.length],
  changeSpot: [STARTS.length, SPOTS.length],
  phraseChange: [1],
} as const satisfies Record<string, readonly number[]>;
export type Block = keyof typeof DIMENSIONS;

const names = Object.keys(DIMENSIONS) as Block[];
const lengthOf = (block: Block) => DIMENSIONS[block].reduce((product: number, n) => product * n, 1);
/** How many weights each block has. */
export const BLOCKS = Object.fromEntries(names.map((name) => [name, lengthOf(name)])) as Record<Block, number>;

/** Where each block begins in the list, and how long the list is. */
export const OFFSETS = Object.fromEntries(
  names.map((name, i) => [name, names.slice(0, i).reduce((sum, n) => sum + BLOCKS[n], 0)]),
) as Record<Block, number>;
export const SIZE = names.reduce((sum, n) => sum + BLOCKS[n], 0);

/** How many places one step of the first and of the second coordinate passes over. */
const STRIDES = Object.fromEntries(
  names.map((name) => {
    const [, second = 1, third = 1] = DIMENSIONS[name] as readonly number[];
    return [name, { first: second * third, second: third }];
  }),
) as Record<Block, { first: number; second: number }>;

/**
 * The place of a weight in its block, by its coordinates.
 * `cell("note", 1, 3, 0) // => 45, the minor third of a minor triad on a downbeat`
 */
export function cell(block: Block, first: number, second = 0, third = 0): number {
  const stride = STRIDES[block];
  return first * stride.first + second * stride.second + third;
}
