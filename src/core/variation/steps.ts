import type { Step } from "./bars";
import { EASIER } from "./easier";
import { RICHER } from "./richer";

/** Every step: first the easier ones, from the smallest to the largest; then the richer ones. */
export const STEPS: readonly Step[] = [...EASIER, ...RICHER];
