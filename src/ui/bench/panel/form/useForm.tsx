"use client";
import { type Edited, type Place, type Tune, barLabel } from "../../../../core/score";
import { useBench } from "../../state";

export type Make = (tune: Tune) => Edited;

/** An edit of the tune; why it cannot be done stands over the page. */
export function useEdit() {
  const edit = useBench((s) => s.edit);
  const setRefused = useBench((s) => s.setRefused);
  return (step: string, make: Make) => setRefused(edit(step, make));
}

/** The bar that is framed, the strain it is in, and its name at the start of a sentence and within one. */
export function useFramed() {
  const bar = useBench((s) => s.bar);
  const place = useBench((s) => s.derived.analysis.places[s.bar] as Place | undefined);
  const before = useBench((s) => s.derived.analysis.places[s.bar - 1] as Place | undefined);
  const strains = useBench((s) => s.work.tune.strains);
  const name = place?.pickup ? "Pickup" : `Bar ${place ? barLabel(place) : ""}`;
  return { bar, place, before, label: strains[place?.strain ?? 0]?.label ?? "", name, said: name.toLowerCase() };
}
