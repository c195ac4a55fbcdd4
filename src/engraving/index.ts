// Engraving: sheets to SVG with the engraver's toolkit, wherever that runs: in the browser's worker, on the server,
// in tests.
export type { CleanSvg } from "./clean";
export { type Drawing, drawPages, drawRow } from "./draw";
export { drawingKey } from "./key";
export { type Measured, noteAt } from "./measure";
export { Recent } from "./recent";
