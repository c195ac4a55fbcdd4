// Feel: how a dance moves. In: a tune's bars, a dance, a tempo and a strength. Out: every note's time, length and
// loudness as it is danced, and the rhythm cells worth teaching.
export {
  carriedBy,
  CELLS,
  cellFits,
  type FoundCell,
  foundCells,
  type SpokenNote,
  spokenNotes,
} from "./cells";
export { clapEar, clapperLateness, clapSound } from "./claps";
export { CLASS_STRING, drillLadder } from "./drill";
export { safeGhosts, withGhosts } from "./ghosts";
export {
  accentShare,
  feltTempo,
  fitsMetre,
  grooveTempo,
  movedGroove,
  type Shaped,
  shaped,
  usualTempo,
} from "./groove";
export { type Groove, GROOVES, grooveOf, NO_DANCE, PAIR_RATIO, PURPOSES, type Purpose, SOURCE } from "./grooves";
export { danced, dancedTune, type Laid, laidOver, type Played, plainly } from "./play";
export { setToCell } from "./setToCell";
export { flippedPair, type SnapStyle, SNAPS, withSnaps } from "./snaps";
export { lateness, tapped } from "./taps";
export { bowUse } from "./bowUse";
export { withFlicks, withoutFlicks } from "./flicks";
export { type Pull, pulledGroove } from "./pulled";
