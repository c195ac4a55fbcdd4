export { BookCutter, type Cutting, cutBook } from "./book";
export { type ReadTune, readAbc, readAbcTune } from "./read";
export { sheetAbc, tuneAbc } from "./write";
