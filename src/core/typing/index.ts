// Typing: tunes as they are typed. In: notes in letters, syllables, fingers or frets. Out: a tune, what is wrong and
// where, and what to type for a note that is played in.
export * from "./asked";
export * from "./typed";
