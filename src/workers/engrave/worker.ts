import { expose } from "comlink";
import type { VerovioToolkit } from "verovio/esm";
import type { Sheet } from "../../core/score";
import { drawPages, drawRow } from "../../engraving";
import address from "./address.json";

type Create = (module: { wasm: Promise<Response> }) => Promise<unknown>;
const at = (path: string) => new URL(path, self.location.origin).href;

/**
 * The engraver and its wrapper are loaded by address, past the bundler; its WebAssembly is compiled while it arrives,
 * and kept compiled by the browser.
 */
async function load(): Promise<VerovioToolkit> {
  const wasm = fetch(at(address.wasm));
  const [{ default: create }, wrapper] = await Promise.all([
    import(/* turbopackIgnore: true */ at(address.script)) as Promise<{ default: Create }>,
    import(/* turbopackIgnore: true */ at(address.wrapper)) as Promise<typeof import("verovio/esm")>,
  ]);
  return new wrapper.VerovioToolkit(await create({ wasm }));
}
const loading = load();
// Without the engraver this worker is of no use: it ends as one that could not be loaded, and is started anew.
loading.catch((error: unknown) => {
  setTimeout(() => {
    throw error;
  });
});

const engraver = {
  row: async (sheet: Sheet, width: number) => drawRow(await loading, sheet, width),
  pages: async (sheet: Sheet, systems: readonly number[]) => drawPages(await loading, sheet, systems),
};
export type Engraver = typeof engraver;

expose(engraver);
