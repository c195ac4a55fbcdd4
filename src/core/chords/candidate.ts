import type { Chord } from "../theory";
import type { Added } from "./model";

/** A chord with something added: its symbol, the plain triad it stands for, and the root it wants to fall to. */
export type Dress = {
  symbol: string;
  plain: string;
  what: Added["what"];
  wants?: number;
  /** Which way a walking bass goes through it. */
  way?: 1 | -1;
};

/**
 * A state of the search: a chord, the model's label for it in the key it is heard in, and whether the style allows it,
 * and what it wears.
 */
export type Candidate = {
  chord: Chord;
  degree: number;
  label: number;
  /** Pitch classes of its root and of its bass. */
  root: number;
  bass: number;
  allowed: boolean;
  dress?: Dress;
};
