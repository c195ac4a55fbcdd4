"use client";
import { parseAsBoolean, useQueryState } from "nuqs";
import { handFor, playedBy } from "../../core/ensemble";
import { type Instrument, LEVELS, type Level } from "../../core/instruments";
import { useBench } from "./state";
import { useNaming } from "./useNaming";

/** Shapes are for the guitar where the instrument that is looked at has no frets. */
const GUITAR = "guitar";

/** The instrument chords are held on, in its tuning and with its capo, and for which level. */
export function useShapes(): { on: Instrument; level: Level } {
  const { on } = useNaming();
  const work = useBench((s) => s.work);
  const hand = handFor(work, on.frets ? on.name : GUITAR);
  return { on: playedBy(work, hand), level: LEVELS.find((l) => l === hand.level) ?? LEVELS[2] };
}

/** Whether diagrams stand over the chords; kept in the address. */
export const useDiagrams = () => useQueryState("diagrams", parseAsBoolean.withDefault(false));
