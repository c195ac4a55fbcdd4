import type { Sheet } from "../core/score";
import { type Drawing, drawRow } from "../engraving";

let toolkit: Promise<import("verovio/esm").VerovioToolkit> | undefined;

/** The engraver of this thread, started when first asked for. */
function engraver() {
  toolkit ??= (async () => {
    const [{ default: create }, { VerovioToolkit }] = await Promise.all([
      import("verovio/wasm"),
      import("verovio/esm"),
    ]);
    return new VerovioToolkit(await create());
  })();
  return toolkit;
}

/** Rows of music as drawings of a width in pixels. */
export async function drawRows(sheets: readonly Sheet[], width: number): Promise<Drawing[]> {
  const own = await engraver();
  return sheets.map((sheet) => {
    const { svg, measured } = drawRow(own, sheet, width);
    return { svg, width, measured };
  });
}
