import type { Sheet } from "../core/score";
import { type Drawing, drawingKey, Recent } from "../engraving";
import { aside } from "./aside";

/** Rows kept: about 20 MB of drawings. */
const MOST = 500;
const kept = new Recent<Drawing>(MOST);

/**
 * Rows of music as drawings by their key, from those kept or drawn now. A row that cannot be drawn is left to the
 * browser.
 */
export async function drawings(rows: readonly Sheet[], width: number): Promise<Record<string, Drawing>> {
  const keyed = rows.map((sheet) => ({ sheet, key: drawingKey(sheet) }));
  const nameOf = (key: string) => `${key} ${width}`;
  const missing = keyed.filter(({ key }) => !kept.get(nameOf(key)));
  if (missing.length > 0) {
    const sheets = missing.map(({ sheet }) => sheet);
    const drawn = await aside("draw", sheets, width).catch(() => []);
    drawn.forEach((drawing, i) => void kept.put(nameOf((missing[i] as { key: string }).key), drawing));
  }
  return Object.fromEntries(
    keyed.flatMap(({ key }) => {
      const found = kept.get(nameOf(key));
      return found?.svg ? [[key, found] as const] : [];
    }),
  );
}
