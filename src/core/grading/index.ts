// Grading: parts for players of mixed level. In: the tune, its chords, a line, an instrument. Out: parts with what each
// leaves out.
export * from "./model";
export * from "./parts";
