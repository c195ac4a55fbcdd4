// Analysis: what a tune is. In: the score. Out: key and mode with their evidence, dance type, form and phrases,
// inventory.
export * from "./analyse";
export * from "./dance";
export * from "./fingerprint";
export * from "./form";
export * from "./inventory";
export * from "./key";
export * from "./recall";
export * from "./relate";
export * from "./scale";
export * from "./sentences";
export * from "./teach";
export * from "./weave";
