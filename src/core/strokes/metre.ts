import { barTicks, isCompound, type Metre, QUARTER } from "../score";

/** What players lean on in a bar: its main beats, and the groups of notes that patterns are made for. Ticks. */
export type Beats = {
  full: number;
  /** A main beat comes every so often; in three-time only the downbeat is one. */
  main: number;
  /** Between them the weaker quarters; 0 where there are none. */
  weak: number;
  /** A group of running notes, and one of them. */
  group: number;
  unit: number;
};

const EIGHTH = QUARTER / 2;

/** `fine` where the tune runs in sixteenths: then a 2/4 bar is felt as a 4/4 one is. */
export function beatsOf(metre: Metre, fine = false): Beats {
  const full = barTicks(metre) || 4 * QUARTER;
  if (isCompound(metre)) {
    const unit = (4 * QUARTER) / metre.unit;
    return { full, main: 3 * unit, weak: 0, group: 3 * unit, unit };
  }
  // Three-time of any unit: the downbeat alone is main.
  if (metre.beats % 3 === 0) {
    const beat = (4 * QUARTER) / metre.unit;
    return { full, main: full, weak: beat, group: beat, unit: beat / 2 };
  }
  if (full <= 2 * QUARTER) {
    const unit = fine ? EIGHTH / 2 : EIGHTH;
    return fine
      ? { full, main: QUARTER, weak: EIGHTH, group: QUARTER, unit }
      : { full, main: full, weak: QUARTER, group: 2 * QUARTER, unit };
  }
  const odd = metre.beats % 2 === 1;
  return { full, main: odd ? full : full / 2, weak: QUARTER, group: 2 * QUARTER, unit: EIGHTH };
}
