import type { Sheet } from "../core/score";
import { drawingKey, drawRow } from "../engraving";

/** A drawn row and the width it was drawn for, in pixels. */
export type Drawing = { width: number; svg: string };

/** Rows kept: about 20 MB of drawings, the latest used. */
const MOST = 500;
const kept = new Map<string, string>();

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

/** Rows of music as drawings by their key, from those kept or drawn now. A row that cannot be drawn is left to the browser. */
export async function drawings(rows: readonly Sheet[], width: number): Promise<Record<string, Drawing>> {
  const made: Record<string, Drawing> = {};
  for (const sheet of rows) {
    const key = drawingKey(sheet);
    const name = `${key} ${width}`;
    const svg = kept.get(name) ?? drawRow(await startEngraver(), sheet, width).svg;
    kept.delete(name);
    kept.set(name, svg);
    if (svg) made[key] = { width, svg };
  }
  for (const oldest of kept.keys()) {
    if (kept.size <= MOST) break;
    kept.delete(oldest);
  }
  return made;
}
