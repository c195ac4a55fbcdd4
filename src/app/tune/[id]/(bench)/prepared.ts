import type { Loaded } from "../../../../server/states";
import { drawings } from "../../../../server/drawings";
import { derivedOf } from "../../../../server/page";
import {
  benchSheet,
  drawnWidth,
  FIRST_LOOK,
  type Lens,
  type Room,
  rowSheet,
  rowsOf,
  sizeOf,
} from "../../../../ui/bench/layout";

/** Rows drawn with the page: as many as a screen holds. The browser draws the rest as they come near. */
const ROWS_DRAWN = 5;

/** What a tune's page arrives with: everything derived, and its first rows drawn for a room. */
export async function prepared(loaded: Loaded, lens: Lens, room: Room) {
  const derived = await derivedOf(loaded);
  const sheet = benchSheet(loaded.work, derived, lens, FIRST_LOOK);
  const { phrases } = derived.analysis.form;
  const width = drawnWidth(room, sizeOf(phrases, room, lens, sheet));
  const rows = rowsOf(phrases, width).slice(0, ROWS_DRAWN);
  const sheets = rows.map((row) => rowSheet(sheet, row));
  return { derived, drawn: await drawings(sheets, width) };
}
