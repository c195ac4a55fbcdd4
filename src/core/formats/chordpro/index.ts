export { lettersOf, readChordPro, type SongSheet } from "./read";
export { writeChordPro } from "./write";
