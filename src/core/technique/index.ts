// Technique: how notes are played. In: a line, an instrument. Out: strings, fingers, frets, strokes, with costs and
// limits by name. One planner type over the search; each family of technique is a file of its own.
export * from "./hand";
export * from "./heldNotes";
export * from "./lie";
export * from "./planner";
export * from "./shapes";
export { tabStaff } from "./tablature";
export {
  type Arrangement,
  type ArrangeRequest,
  arrange,
  DOUBLINGS,
  type FingeringLock,
} from "./arrange";
export { type Board, boardOf } from "./board";
export { type ArrangedStroke, KINDS, type Kind } from "./moments";
export { pureCents, threeToFind } from "./pure";
export { rolled } from "./rolled";
export { ROLLS } from "./rolls";
export { type Setting, settingsFor, withCapo } from "./capo";
export { blown } from "./blown";
export { handText, placeLabel, readHand } from "./typedHand";
