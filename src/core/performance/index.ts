// Performance: a sheet as timed sounds. In: sheet and tune. Out: what the browser plays and the MIDI file says, and
// its clock.
export * from "./backing";
export * from "./clock";
export * from "./graces";
export * from "./opening";
export * from "./perform";
