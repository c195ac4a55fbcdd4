// Feel: how a dance moves. In: a tune's bars, a dance, a tempo and a strength. Out: every note's time, length and
// loudness as it is danced, and the rhythm cells worth teaching.
export { CELLS, cellFits, foundCells } from "./cells";
export { CLASS_STRING, drillLadder } from "./drill";
export { safeGhosts, withGhosts } from "./ghosts";
export { fitsMetre, grooveTempo, type Shaped, shaped, usualTempo } from "./groove";
export { type Groove, GROOVES, grooveOf, NO_DANCE, PURPOSES, type Purpose, SOURCE } from "./grooves";
export { danced, dancedTune, laidOver } from "./play";
export { setToCell } from "./setToCell";
export { flippedPair, type SnapStyle, SNAPS, withSnaps } from "./snaps";
