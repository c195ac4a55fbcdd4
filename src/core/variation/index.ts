// Variation: a tune easier and richer, step by named step. In: its bars. Out: other bars over the same places, each
// form with how hard it is and how much of the tune it keeps.
export type { Bars } from "./bars";
export { ladder, type Rung, type Single, singles } from "./ladder";
