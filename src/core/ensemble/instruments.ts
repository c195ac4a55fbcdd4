import { FIDDLE, type Instrument, instrument, tuned } from "../instruments";
import { same } from "./apart";
import type { Work } from "./work";

export type Owning = Pick<Work, "instruments">;

/**
 * An instrument as stored work names it, a teacher's own before the catalogue's, in a tuning; one that is no longer
 * there is played on the fiddle, or on what else is given, and in a tuning it no longer has, in its usual one.
 */
export function playedOn(
  { instruments = [] }: Owning,
  name: string | undefined,
  tuning: string | null = null,
  other: string = FIDDLE.name,
): Instrument {
  const found = instrument(name ?? other, instruments) ?? instrument(other, instruments) ?? FIDDLE;
  return tuned(found, tuning) ?? found;
}

/** A work with a teacher's own instruments as they are now; the work itself where they are the same. */
export function withInstruments(work: Work, own: readonly Instrument[]): Work {
  if (same(work.instruments ?? [], own)) return work;
  const { instruments: _, ...rest } = work;
  return own.length > 0 ? { ...rest, instruments: [...own] } : rest;
}
