// Strokes: how a tune is bowed, picked and strummed. In: bars, a style, an instrument, a tempo, locks. Out: every note
// in one stroke with its direction, why, and what the other direction would cost.
export { planBowing } from "./bowing";
export { BOWINGS, type Bowing, type BowRequest } from "./bows";
export * from "./model";
export { PLECTRUMS, type Plectrum, planPlectrum } from "./plectrum";
export { differing } from "./retakes";
export { bowedStaff, SHORT_MOVES, STRUM_STAFF, strumStaff } from "./staff";
export type { Struck, StrumStroke } from "./struck";
export { isLight, planStrum, type StrumPlan } from "./strum";
export { gridTrouble, SIGNS, STRUMS, type Strum, strumsFor } from "./strums";
export { writtenSlurs } from "./written";
