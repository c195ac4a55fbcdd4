// Read: scores and MIDI files to tunes, off the main thread. In: a name and bytes. Out: what the file held, or why not.
import { type Remote, wrap } from "comlink";
import type { Reader } from "./worker";

let reader: Remote<Reader> | undefined;

/** The page's reader, started when first asked for. */
export function startReader(): Remote<Reader> {
  reader ??= wrap<Reader>(new Worker(new URL("./worker.ts", import.meta.url), { type: "module" }));
  return reader;
}
