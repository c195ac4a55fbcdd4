export * from "./bars";
export * from "./notes";
export { type Edited, type Spot, allBars } from "./place";
export * from "./strains";
