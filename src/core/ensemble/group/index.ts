// Group: tonight's parts for everyone in the room. In: the tune, its chords, the learners who are there. Out: who plays
// what and why, each part within its limits, who plays when, how it all fits.
export * from "./evening";
export type * from "./model";
export { remediesOf } from "./remedies";
export { inStrokes } from "./strokes";
export { spellingFor, underPart } from "./under";
export { groupStaff, loudnessOf } from "./staff";
