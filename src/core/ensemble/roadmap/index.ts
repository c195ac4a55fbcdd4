// Roadmap: the whole of a tune in class, from the introduction to the last chord. In: the tune's bars, the parts there
// are, what the teacher has settled. Out: turns through the strains with who plays, and all of it as sounds.
export { tonicClasses } from "./close";
export { arranged, secondsOf } from "./heard";
export { type Joined, joinedOf, joinOf } from "./join";
export * from "./model";
export { roadmapOf } from "./plan";
export { whenWords } from "./says";
