// Derive: the whole chain from tune to parts, off the main thread. In: a work. Out: everything derived.
import { type Remote, wrap } from "comlink";
import type { Deriver } from "./worker";

let deriver: Remote<Deriver> | undefined;

/** The page's deriver, started when first asked for. */
export function startDeriver(): Remote<Deriver> {
  deriver ??= wrap<Deriver>(new Worker(new URL("./worker.ts", import.meta.url), { type: "module" }));
  return deriver;
}
