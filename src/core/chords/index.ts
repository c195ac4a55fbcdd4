// Chords: harmony under a tune. In: bars, phrases, a key for each strain, a style, locks. Out: a plan whose every chord
// says why.
export * from "./chart";
export * from "./compare";
export * from "./derive";
export * from "./edit";
export * from "./model";
export { STYLES, type Style, StyleName, THREE_CHORD } from "./styles";
export { segments } from "./segments";
export { locksFromSheet } from "./songSheet";
