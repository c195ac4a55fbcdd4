import { expose } from "comlink";
import { VerovioToolkit } from "verovio/esm";
import type { Sheet } from "../../core/score";
import { drawPages, drawRow } from "../../engraving";
import address from "./address.json";

type Create = (module: { wasm: Promise<Response> }) => Promise<unknown>;
const at = (path: string) => new URL(path, self.location.origin).href;

/**
 * The engraver is loaded by address, past the bundler; its WebAssembly is compiled while it arrives, and kept
 * compiled by the browser.
 */
const verovio = (async () => {
  const wasm = fetch(at(address.wasm));
  const { default: create } = (await import(/* turbopackIgnore: true */ at(address.script))) as { default: Create };
  return new VerovioToolkit(await create({ wasm }));
})();

const engraver = {
  row: async (sheet: Sheet, width: number) => drawRow(await verovio, sheet, width),
  pages: async (sheet: Sheet, systems: readonly number[]) => drawPages(await verovio, sheet, systems),
};
export type Engraver = typeof engraver;

expose(engraver);
