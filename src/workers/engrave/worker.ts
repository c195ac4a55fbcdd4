import { expose } from "comlink";
import { VerovioToolkit } from "verovio/esm";
import type { Sheet } from "../../core/score";
import address from "./address.json";
import { drawPages, drawRow } from "./draw";

/** The engraver's module is large and ready-made: it is loaded by address, past the bundler. */
const verovio = (async () => {
  const { default: create } = (await import(
    /* turbopackIgnore: true */ new URL(address.verovio, self.location.origin).href
  )) as { default: () => Promise<unknown> };
  return new VerovioToolkit(await create());
})();

const engraver = {
  row: async (sheet: Sheet, width: number) => drawRow(await verovio, sheet, width),
  pages: async (sheet: Sheet, systems: readonly number[]) => drawPages(await verovio, sheet, systems),
};
export type Engraver = typeof engraver;

expose(engraver);
