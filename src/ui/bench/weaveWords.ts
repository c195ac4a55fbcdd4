import type { Cell } from "../../core/analysis";
import { counted } from "../signs";

/** The weave in words: "3 ideas, 2 new endings". */
export function weaveWords(cells: readonly Pick<Cell, "dye" | "parting">[]): string {
  const ideas = new Set(cells.map((c) => c.dye)).size;
  const endings = cells.filter((c, i) => c.parting && !cells[i - 1]?.parting).length;
  return [counted(ideas, "idea"), endings > 0 ? counted(endings, "new ending") : ""].filter(Boolean).join(", ");
}
