// Grading: parts for players of mixed level. In: the tune, its chords, a line, a player's role and instrument. Out: a
// part with what it leaves out.
export * from "./model";
export * from "./parts";
