// Derive: the whole chain from tune to parts, off the main thread. In: a work. Out: everything derived.
import { type Remote, wrap } from "comlink";
import type { Derived, Work } from "../../core/ensemble";
import type { Deriver } from "./worker";

let remote: Remote<Deriver> | undefined;
/** The page's deriver, started when first asked for. */
export function startDeriver(): Remote<Deriver> {
  remote ??= wrap<Deriver>(new Worker(new URL("./worker.ts", import.meta.url), { type: "module" }));
  return remote;
}

let whole: Partial<Derived> = {};
/** Everything that follows from a work. What did not change keeps its identity; answers come in the order of the questions. */
export async function deriveWork(work: Work): Promise<Derived> {
  const changes = await startDeriver().changes(work);
  whole = { ...whole, ...changes };
  return whole as Derived;
}
