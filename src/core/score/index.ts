// Score: the tune as data, its time, its playing order, and the sheet that writers take. Schemas are the single
// definition.
export * from "./lay";
export * from "./line";
export * from "./melody";
export * from "./model";
export * from "./order";
export * from "./sheet";
export * from "./performance";
export * from "./time";
export * from "./blank";
export * from "./edit";
