"use client";
import { parseAsStringLiteral, useQueryState } from "nuqs";
import { useCallback, useEffect, useMemo, useState } from "react";
import { type ChordPlan, comparePlans, lockBars } from "../../core/chords";
import { type Derived, lockChords } from "../../core/ensemble";
import { CHORD_NAMES } from "../../core/theory";
import { startDeriver } from "../../workers/derive";
import type { BenchState } from "./useBench";

/** How chords are written, and another plan held against this one. */
export function useRival(bench: BenchState, derived: Derived | null) {
  const [names, setNames] = useQueryState("as", parseAsStringLiteral(CHORD_NAMES).withDefault("letters"));
  const [other, setOther] = useState("");
  const [plan, setPlan] = useState<ChordPlan | null>(null);
  useEffect(() => {
    if (!other) return setPlan(null);
    let current = true;
    startDeriver()
      .rivalPlan(bench.work, other)
      .then(
        (found) => {
          if (current) setPlan(found);
        },
        () => {
          if (current) setPlan(null);
        },
      );
    return () => {
      current = false;
    };
  }, [bench.work, other]);
  const compared = useMemo(
    () => (plan && derived ? comparePlans(derived.plan, plan, derived.analysis.places) : null),
    [plan, derived],
  );
  const takeBar = useCallback(
    (bar: number) => {
      if (plan) bench.change(`Chords of ${other} in a bar`, (w) => lockChords(w, lockBars(plan, bar, bar)));
    },
    [plan, other, bench.change],
  );
  return { names, setNames, other, setOther, plan, compared, takeBar };
}
export type RivalState = ReturnType<typeof useRival>;
