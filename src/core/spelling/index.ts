// Spelling: notes in the words of a class. In: a tune, or what someone typed. Out: names under notes, tunes from typed
// notes, tunes in other keys.
export * from "./names";
export * from "./transpose";
export * from "./typed";
