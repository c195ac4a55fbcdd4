"use client";
import { useMemo } from "react";
import type { Place } from "../../core/score";
import { foundCells, type FoundCell, spokenNotes } from "../../core/feel";
import { useBench } from "./state";

/** Cells that are pulled out before anything else, and those that have a number to press. */
const FIRST = 2;
export const NUMBERED = 3;

/** The cells of a tune that can be chosen by their number. */
export const numberedCells = (places: readonly Place[]): FoundCell[] => foundCells(places).slice(0, NUMBERED);

/** The cells of the tune, those that are looked at, and every note with what is said on it. */
export function usePulse() {
  const places = useBench((s) => s.derived.analysis.places);
  const chosen = useBench((s) => s.cell);
  const found = useMemo(() => foundCells(places), [places]);
  const shown = useMemo(() => {
    const own = found.filter((c) => c.name === chosen);
    return own.length > 0 ? own : found.slice(0, FIRST);
  }, [found, chosen]);
  const spoken = useMemo(() => spokenNotes(places, shown), [places, shown]);
  return { found, shown, spoken };
}
