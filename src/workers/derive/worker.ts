import { expose } from "comlink";
import { type Derived, makeDeriver, rivalLine, rivalPlan, type Work } from "../../core/ensemble";

const derive = makeDeriver();
let sent: Partial<Derived> = {};

/** What is new since the last answer: parts that the deriver kept are not sent again. */
function changes(work: Work): Partial<Derived> {
  const derived = derive(work);
  const fresh = Object.entries(derived).filter(([name, value]) => sent[name as keyof Derived] !== value);
  sent = derived;
  return Object.fromEntries(fresh);
}

const deriver = { changes, rivalLine, rivalPlan };
export type Deriver = typeof deriver;

expose(deriver);
