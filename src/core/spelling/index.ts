// Spelling: notes in the words of a class. In: a tune. Out: names under its notes, and the tune in
// other keys.
export * from "./names";
export * from "./transpose";
