// Instruments: who can play what. A catalogue as data, checked by its schema: ranges, clefs, strings, frets,
// transposition, sound, what each level reaches; a teacher's own beside it.
export * from "./catalogue";
export * from "./model";
export * from "./levels";
export * from "./own";
