// Instruments: who can play what. A catalogue as data, checked by its schema: ranges, clefs, strings, frets,
// transposition, sound.
export * from "./catalogue";
export * from "./model";
export * from "./levels";
