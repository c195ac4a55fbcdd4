import { expose } from "comlink";
import { derive, rivalPlan } from "../../core/ensemble";

const deriver = { derive, rivalPlan };
export type Deriver = typeof deriver;

expose(deriver);
