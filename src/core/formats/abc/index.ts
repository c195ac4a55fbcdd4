export { BookCutter, type Cutting, cutBook } from "./book";
export { readAbc, readAbcTune } from "./read";
export { sheetAbc, tuneAbc } from "./write";
