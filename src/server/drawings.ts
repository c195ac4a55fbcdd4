import type { Sheet } from "../core/score";
import { type Drawing, drawingKey, drawRow, Recent } from "../engraving";

/** Rows kept: about 20 MB of drawings. */
const MOST = 500;
const kept = new Recent<Drawing>(MOST);

let toolkit: Promise<import("verovio/esm").VerovioToolkit> | undefined;

/** The server's own engraver. Started with the application, so that the first page need not wait for it. */
export function startEngraver() {
  toolkit ??= (async () => {
    const [{ default: create }, { VerovioToolkit }] = await Promise.all([
      import("verovio/wasm"),
      import("verovio/esm"),
    ]);
    return new VerovioToolkit(await create());
  })();
  return toolkit;
}

/**
 * Rows of music as drawings by their key, from those kept or drawn now. A row that cannot be drawn is left to the
 * browser.
 */
export async function drawings(rows: readonly Sheet[], width: number): Promise<Record<string, Drawing>> {
  const engraver = await startEngraver();
  const made = rows.map((sheet) => {
    const key = drawingKey(sheet);
    const name = `${key} ${width}`;
    return [key, kept.get(name) ?? kept.put(name, drawn(engraver, sheet, width))] as const;
  });
  return Object.fromEntries(made.filter(([, { svg }]) => svg));
}

function drawn(engraver: Awaited<ReturnType<typeof startEngraver>>, sheet: Sheet, width: number): Drawing {
  const { svg, measured } = drawRow(engraver, sheet, width);
  return { svg, width, measured };
}
