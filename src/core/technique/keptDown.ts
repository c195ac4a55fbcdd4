import { type Board, spanAt } from "./board";
import type { Grip } from "./grips";

/** Notes a finger waits under others at most, until it is wanted again. */
const PATIENCE = 5;

/**
 * Fingers that stay down under others on their string, since they are wanted again there soon: for each grip the ones
 * that wait under it. Practice 8: leave fingers down.
 */
export function keptDown(board: Board, path: readonly Grip[]): number[][] {
  const waiting: number[][] = path.map(() => []);
  path.forEach(({ notes, place }, i) => {
    const [own] = notes;
    if (!own || own.finger === 0) return;
    for (let k = i + 1; k < path.length && k <= i + PATIENCE; k++) {
      const [over] = path[k]?.notes ?? [];
      if (!over || path[k]?.place !== place || over.string !== own.string) return;
      if (over.stop.number === own.stop.number && over.finger === own.finger) {
        for (let under = i + 1; under < k; under++) waiting[under]?.push(own.finger);
        return;
      }
      // Held and played together they must lie under one hand.
      const far = over.stop.number - own.stop.number;
      if (far < 0 || far > spanAt(board, own.stop.number)) return;
    }
  });
  return waiting.map((fingers) => [...new Set(fingers)].sort());
}
