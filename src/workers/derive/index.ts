// Derive: the whole chain from tune to parts, off the main thread. In: a work. Out: everything derived.
import type { Derived, DerivedTune, Work } from "../../core/ensemble";
import type { HarmonyLock } from "../../core/harmony";
import { watched } from "../watched";
import type { Deriver } from "./worker";

/** Longest a derivation is waited for. Milliseconds. */
const PATIENCE = 20_000;
const deriver = watched<Deriver>(
  "Working the tune out",
  PATIENCE,
  () => new Worker(new URL("./worker.ts", import.meta.url), { type: "module" }),
);

/** Derives for nobody, so that the first question finds everything warm. */
export const warmDeriver = (work: Work) => deriver.ask((d) => d.warm(work));
/** A line of the work by another school, and its chords in another style, to be held against its own. */
export const rivalLineOf = (work: Work, line: string, school: string, locks?: readonly HarmonyLock[]) =>
  deriver.ask((d) => d.rivalLine(work, line, school, locks));
export const rivalPlanOf = (work: Work, style: string) => deriver.ask((d) => d.rivalPlan(work, style));

/** Tonight's parts for the group of a work; null where none was chosen. */
export const eveningOf = (work: Work) => deriver.ask((d) => d.evening(work));

/** The ways in which someone's part can be written tonight. */
export const writingsFor = (work: Work, name: string) => deriver.ask((d) => d.writings(work, name));

/** Time the tune has to be drawn before chords and lines are made for it. Milliseconds. */
const DRAWN_FIRST = 50;

let known: Partial<Derived> = {};
let tune: Work["tune"] | undefined;
let asked = 0;

/**
 * Everything that follows from a work. Where the tune is another one, what follows from it alone is told as soon as it
 * is there, and the rest is made once that is drawn; null where something newer has been asked meanwhile. What did not
 * change keeps its identity; answers come in the order of the questions. Throws a WorkerTrouble where it fails.
 */
export async function deriveWork(work: Work, onTune: (tune: DerivedTune) => void): Promise<Derived | null> {
  const own = ++asked;
  if (work.tune !== tune) {
    const found = await deriver.ask((d) => d.tune(work));
    tune = work.tune;
    known = { ...known, ...found };
    onTune(known as DerivedTune);
    await new Promise((done) => setTimeout(done, DRAWN_FIRST));
  }
  if (own !== asked) return null;
  known = { ...known, ...(await deriver.ask((d) => d.whole(work))) };
  return known as Derived;
}
