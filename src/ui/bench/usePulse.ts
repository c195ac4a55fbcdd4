"use client";
import { type FoundCell, foundCells, type SpokenNote, spokenNotes } from "../../core/feel";
import type { Place } from "../../core/score";
import { useBench } from "./state";

/** Cells that are pulled out before anything else, and those that have a number to press. */
const FIRST = 2;
export const NUMBERED = 3;

/** The cells of the tune, those that are looked at, and every note with what is said on it. */
type Pulse = { found: readonly FoundCell[]; shown: readonly FoundCell[]; spoken: readonly SpokenNote[] };

/** The cells of each tune, and its pulse by the cell that is looked at: found once, for all rows and the panel. */
const cells = new WeakMap<readonly Place[], FoundCell[]>();
const pulses = new WeakMap<readonly Place[], Map<string | null, Pulse>>();

function cellsOf(places: readonly Place[]): FoundCell[] {
  const found = cells.get(places) ?? foundCells(places);
  cells.set(places, found);
  return found;
}

function pulseOf(places: readonly Place[], chosen: string | null): Pulse {
  const kept = pulses.get(places) ?? new Map<string | null, Pulse>();
  pulses.set(places, kept);
  const known = kept.get(chosen);
  if (known) return known;
  const found = cellsOf(places);
  const own = found.filter((c) => c.name === chosen);
  const shown = own.length > 0 ? own : found.slice(0, FIRST);
  const pulse = { found, shown, spoken: spokenNotes(places, shown) };
  kept.set(chosen, pulse);
  return pulse;
}

/** The cells of a tune that can be chosen by their number. */
export const numberedCells = (places: readonly Place[]): readonly FoundCell[] => cellsOf(places).slice(0, NUMBERED);

export const usePulse = (): Pulse => useBench((s) => pulseOf(s.derived.analysis.places, s.cell));
