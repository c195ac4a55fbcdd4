/** A wish about a state: what being in it at a step costs. Below 0 speaks for it. */
export type LocalCost<S> = { name: string; at: (step: number, state: S) => number };
/** A wish about a move: what going from one state to the next costs; `step` is where the move arrives. */
export type MoveCost<S> = { name: string; into: (step: number, from: S, to: S) => number };
/** A must about a state, and whether it breaks it at a step. */
export type LocalLimit<S> = { name: string; broken: (step: number, state: S) => boolean };
/** A must about a move. */
export type MoveLimit<S> = { name: string; broken: (step: number, from: S, to: S) => boolean };

export type Problem<S> = {
  /** States open at each step. */
  states: readonly (readonly S[])[];
  /**
   * Steps a teacher has settled, each with the states that are what was chosen. They stand whatever limit they break
   * themselves.
   */
  locks?: ReadonlyMap<number, readonly S[]>;
  local: readonly LocalCost<S>[];
  moves: readonly MoveCost<S>[];
  limits?: readonly LocalLimit<S>[];
  moveLimits?: readonly MoveLimit<S>[];
  /**
   * Names steps whose moves cost the same wherever their states are the same: their table is made once, and kept here
   * for problems with the same moves.
   */
  alike?: { name: (step: number) => number; made: AlikeTables<S> };
};
/** Tables of moves by the name of their steps, by the states that are left and those that are reached. */
export type AlikeTables<S> = Map<number, WeakMap<readonly S[], WeakMap<readonly S[], Float64Array>>>;

/** A limit that does not hold, and the step where. */
export type Broken = { limit: string; step: number };

export type Solution<S> = {
  /** Cheapest state of every step. Ties go to the state listed first. */
  path: S[];
  /** What all wishes cost along the path. */
  cost: number;
  /** Limits that locked steps break. */
  broken: Broken[];
  /** For each step, what the whole path would cost more through each state: 0 for the best, exact for the others. */
  marginals: number[][];
  /**
   * The passes, for prices: cheapest cost of reaching each state, its own included, and of going on from it, its own
   * excluded.
   */
  passes: Passes<S>;
};

/** No path keeps every limit: which ones cannot hold and where, and the locked steps that would have to give way. */
export type Conflict = { conflict: Broken[]; loosen: number[] };

export type Passes<S> = {
  /** The states in play at each step: those open, or those of its lock. */
  open: readonly (readonly S[])[];
  here: number[][];
  move: Float64Array[];
  forward: number[][];
  backward: number[][];
};
