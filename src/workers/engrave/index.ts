// Engrave: sheets to SVG, off the main thread. In: a sheet. Out: SVG text.
import { type Remote, wrap } from "comlink";
import type { Engraver } from "./worker";

let engraver: Remote<Engraver> | undefined;

/** The page's engraver, started when first asked for. */
export function startEngraver(): Remote<Engraver> {
  engraver ??= wrap<Engraver>(new Worker(new URL("./worker.ts", import.meta.url), { type: "module" }));
  return engraver;
}
