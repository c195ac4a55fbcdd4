import { expose } from "comlink";
import { derive, rivalLine, rivalPlan } from "../../core/ensemble";

const deriver = { derive, rivalLine, rivalPlan };
export type Deriver = typeof deriver;

expose(deriver);
