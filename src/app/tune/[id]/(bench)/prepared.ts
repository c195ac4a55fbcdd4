import type { Loaded } from "../../../../server/states";
import { drawings } from "../../../../server/drawings";
import { derivedOf } from "../../../../server/page";
import { benchSheet, type Lens, rowSheet, rowsOf } from "../../../../ui/bench/layout";

/** Rows drawn with the page: as many as a screen holds. The browser draws the rest as they come near. */
const ROWS_DRAWN = 5;

/** What a tune's page arrives with: everything derived, and its first rows drawn for a width. */
export async function prepared(loaded: Loaded, lens: Lens, width: number) {
  const derived = await derivedOf(loaded);
  const sheet = benchSheet(loaded.work, derived, lens, "all");
  const rows = rowsOf(derived.analysis.form.phrases, width).slice(0, ROWS_DRAWN);
  const sheets = rows.map((row) => rowSheet(sheet, row));
  return { derived, drawn: await drawings(sheets, width) };
}
