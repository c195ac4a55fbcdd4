"use client";
import { barLabelAt } from "../../../core/score";
import { useBench } from "../state";

/** The bars that are looped, or the one looked at, and what they are called. */
export function useStretch() {
  const from = useBench((s) => s.loop?.from ?? s.bar);
  const to = useBench((s) => s.loop?.to ?? s.bar);
  const places = useBench((s) => s.derived.analysis.places);
  const number = (index: number) => barLabelAt(places, index);
  const one = places[from]?.pickup ? "the pickup" : `bar ${number(from)}`;
  return { from, to, number, stretch: from === to ? one : `bars ${number(from)} to ${number(to)}` };
}
