import { expose } from "comlink";
import { derive } from "../../core/ensemble";

const deriver = { derive };
export type Deriver = typeof deriver;

expose(deriver);
