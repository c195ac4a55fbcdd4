// Grading: parts for players of mixed level. In: the tune, its chords, a line, a player's role and instrument, a
// learner's level and record. Out: a part within limits, with what it leaves out; and how hard it is.
export * from "./model";
export * from "./parts";
export * from "./difficulty/measure";
export { breaches } from "./check";
export * from "./learner";
export * from "./limits";
export * from "./roster";
export {
  bassOrder,
  ROLE_GROUPS,
  ROLE_RULES,
  ROLE_WORDS,
  ROLES as PLAYED_ROLES,
  refusal,
  type RoleGroup,
  type RoleName,
} from "./roles";
export { alike } from "./alike";
export { coachingOf } from "./coaching";
export { barText, readBar } from "./typedPart";
export { readWord, WORDS } from "./words";
export * from "./write";
