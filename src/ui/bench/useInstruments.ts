"use client";
import { useMemo } from "react";
import { catalogueWith, type Instrument } from "../../core/instruments";
import { useBench } from "./state";

/** Every instrument there is for this tune: the catalogue's, with the teacher's own in their places. */
export function useInstruments(): readonly Instrument[] {
  const own = useBench((s) => s.work.instruments);
  return useMemo(() => catalogueWith(own ?? []), [own]);
}
