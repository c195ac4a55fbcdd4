import { expose } from "comlink";
import {
  type Derived,
  eveningFor,
  makeDeriver,
  rivalLine,
  rivalPlan,
  type Work,
  writingsOf,
} from "../../core/ensemble";

const { tune, whole } = makeDeriver();
let sent: Partial<Derived> = {};

/** What is new since the last answer: what the deriver kept is not sent again. */
function news(derived: Partial<Derived>): Partial<Derived> {
  const fresh = Object.entries(derived).filter(([name, value]) => sent[name as keyof Derived] !== value);
  sent = { ...sent, ...derived };
  return Object.fromEntries(fresh);
}

const deriver = {
  tune: (work: Work) => news(tune(work)),
  whole: (work: Work) => news(whole(work)),
  /** Derives for nobody, so that the next question finds everything warm. */
  warm: (work: Work) => void whole(work),
  /** Tonight's parts for the group of a work; null where none was chosen. */
  evening: (work: Work) => eveningFor(work, whole(work)) ?? null,
  /** The ways in which someone's part can be written. */
  writings: (work: Work, name: string) => writingsOf(work, whole(work), name),
  rivalLine,
  rivalPlan,
};
export type Deriver = typeof deriver;

expose(deriver);
