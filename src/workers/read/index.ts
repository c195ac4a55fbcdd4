// Read: scores and MIDI files to tunes, off the main thread. In: a name and bytes. Out: what the file held, or why not.
import type { ReadOptions } from "../../core/intake";
import { watched } from "../watched";
import type { Reader } from "./worker";

/** No file that is taken needs nearly as long. Milliseconds. */
const PATIENCE = 30_000;
const reader = watched<Reader>(
  "The reader",
  PATIENCE,
  () => new Worker(new URL("./worker.ts", import.meta.url), { type: "module" }),
);

/** Reads a file. Throws a WorkerTrouble where the reader fails. */
export const readAside = (name: string, bytes: Uint8Array, options: ReadOptions) =>
  reader.ask((r) => r.read(name, bytes, options));
