// Engrave: sheets to SVG, off the main thread. In: a sheet. Out: drawings.
import type { Sheet } from "../../core/score";
import { watched } from "../watched";
import type { Engraver } from "./worker";

/** The first drawing waits for the engraver itself, a few megabytes. Milliseconds. */
const PATIENCE = 30_000;
const engraver = watched<Engraver>(
  "The engraver",
  PATIENCE,
  () => new Worker(new URL("./worker.ts", import.meta.url), { type: "module" }),
);

export const warmEngraver = engraver.warm;
/** Draws one row of the bench for a width in pixels. Throws a WorkerTrouble where the engraver fails. */
export const engraveRow = (sheet: Sheet, width: number) => engraver.ask((e) => e.row(sheet, width));
/** Draws a whole sheet on pages, a new system at each bar in `systems`. Throws a WorkerTrouble likewise. */
export const engravePages = (sheet: Sheet, systems: readonly number[]) => engraver.ask((e) => e.pages(sheet, systems));
