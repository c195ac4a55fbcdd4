// Derive: the whole chain from tune to parts, off the main thread. In: a work. Out: everything derived.
import { type Remote, wrap } from "comlink";
import type { Derived, DerivedTune, Work } from "../../core/ensemble";
import type { Deriver } from "./worker";

let remote: Remote<Deriver> | undefined;
/** The page's deriver, started when first asked for. */
export function startDeriver(): Remote<Deriver> {
  remote ??= wrap<Deriver>(new Worker(new URL("./worker.ts", import.meta.url), { type: "module" }));
  return remote;
}

let known: Partial<Derived> = {};
/**
 * Everything that follows from a work; what follows from its tune alone is told as soon as it is there. What did not
 * change keeps its identity; answers come in the order of the questions.
 */
export async function deriveWork(work: Work, onTune: (tune: DerivedTune) => void): Promise<Derived> {
  const deriver = startDeriver();
  const [tune, whole] = [deriver.tune(work), deriver.whole(work)];
  const early = await tune;
  known = { ...known, ...early };
  if (early.analysis) onTune(known as DerivedTune);
  known = { ...known, ...(await whole) };
  return known as Derived;
}
