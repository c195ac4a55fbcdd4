// Harmony: second lines. In: bars, a chord plan, a school, a side, an instrument. Out: a line whose every note says
// its interval, its rule and what each other note would cost.
export * from "./derive";
export * from "./model";
export type { School } from "./school";
export { CHORD_FIT, FOURTH_UNDER_TONIC, SCHOOLS, SchoolName, schoolNamed, THIRDS } from "./schools";
export { harmonyStaff } from "./staff";
export { stepsToThird } from "./plainThird";
export { type ThirdOrFourth, thirdOrFourth } from "./thirdOrFourth";
export { type Fault, rootBass, together, type Voice } from "./together";
