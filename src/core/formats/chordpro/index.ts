export { lettersOf, readChordPro, type SongSheet, type SungChord } from "./read";
export { type ChordProRequest, writeChordPro } from "./write";
