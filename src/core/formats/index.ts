// Formats: files in and out. In: text and bytes from anywhere, treated as hostile. Out: tunes with remarks, or a
// FormatError with its spot.
export * from "./abc";
export * from "./chordpro";
export * from "./problem";
export * from "./midi";
export * from "./musicxml";
export * from "./name";
export { decodeText, wideEncoding } from "./text";
