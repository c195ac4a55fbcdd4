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

/** Time the tune has to be drawn before chords and lines are made for it. Milliseconds. */
const DRAWN_FIRST = 50;

let known: Partial<Derived> = {};
let tune: Work["tune"] | undefined;
let asked = 0;

/**
 * Everything that follows from a work. Where the tune is another one, what follows from it alone is told as soon as it
 * is there, and the rest is made once that is drawn; null where something newer has been asked meanwhile. What did not
 * change keeps its identity; answers come in the order of the questions.
 */
export async function deriveWork(work: Work, onTune: (tune: DerivedTune) => void): Promise<Derived | null> {
  const own = ++asked;
  const deriver = startDeriver();
  if (work.tune !== tune) {
    tune = work.tune;
    known = { ...known, ...(await deriver.tune(work)) };
    onTune(known as DerivedTune);
    await new Promise((done) => setTimeout(done, DRAWN_FIRST));
  }
  if (own !== asked) return null;
  known = { ...known, ...(await deriver.whole(work)) };
  return known as Derived;
}
