// Harmony: second lines. In: bars, a chord plan, a school, a side, an instrument. Out: a line whose every note says its
// interval and rule.
export * from "./derive";
export { type EarQuestion, earQuestions } from "./ear";
export * from "./model";
export { chordAt } from "./slots";
export { CHORD_FIT, FOURTH_UNDER_TONIC, SCHOOLS, type School, THIRDS } from "./schools";
export { harmonyStaff } from "./staff";
export { type Fault, rootBass, together, type Voice } from "./together";
