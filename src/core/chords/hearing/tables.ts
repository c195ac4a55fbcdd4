import { type Block, BLOCKS } from "./blocks";
import fitted from "./tables.json";

/** The fitted points of every block of evidence. */
export const POINTS = Object.fromEntries(
  (Object.keys(BLOCKS) as Block[]).map((block) => [
    block,
    Float64Array.from((fitted.tables as Record<Block, number[]>)[block]),
  ]),
) as Record<Block, Float64Array>;
