// Ensemble: one tune for the whole room. In: what the teacher decided. Out: everything derived from it, and the
// sheets to play from.
export * from "./apart";
export * from "./arrangedTonight";
export * from "./decide";
export * from "./derive";
export * from "./groove";
export * from "./group";
export * from "./handHeard";
export * from "./hands";
export * from "./instruments";
export { readWork } from "./migrate";
export * from "./performed";
export {
  ENDINGS,
  MANNERS,
  MOST,
  type Column,
  type Joined,
  joinedOf,
  joinOf,
  type Roadmap,
  type Way,
  whenWords,
} from "./roadmap";
export * from "./strokes";
export * from "./tonight";
export * from "./versions";
export * from "./work";
