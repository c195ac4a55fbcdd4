import { barTicks, type Bar, lengthOf, type Metre, type Strain } from "../score";
import { nextLetter } from "./abc/fields";
import { pairRepeats, untieStrays } from "./abc/mend";

/** Fewest full bars a double bar line closes a strain after; before that it only marks a place. */
const SHORTEST_STRAIN = 4;

/**
 * Cuts a run of bars into strains: at labels, where a repeat starts, after a repeat's last ending, and at a double bar
 * line
 * that closes four bars or more. Repeats without a start are given one; stray ties and endings go.
 */
export function strainsOf(
  bars: readonly Bar[],
  metre: Metre,
  labels: ReadonlyMap<number, string> = new Map(),
): Strain[] {
  const strains: Strain[] = [];
  let open: Bar[] = [];
  let label: string | undefined;
  const close = () => {
    if (open.length > 0)
      strains.push({ label: label ?? nextLetter(strains), ...(label ? { named: true } : {}), bars: open });
    [open, label] = [[], undefined];
  };
  bars.forEach((bar, i) => {
    const before = bars[i - 1];
    const full = open.filter((b) => lengthOf(b.events) >= barTicks(metre)).length;
    const ended =
      before !== undefined &&
      !bar.ending &&
      (before.repeatEnd !== undefined ||
        before.endingStop === true ||
        (["double", "final", "heavy"].includes(before.barline) && full >= SHORTEST_STRAIN));
    if (labels.has(i) || (full >= 1 && (bar.repeatStart || ended))) close();
    label = labels.get(i)?.slice(0, 80) || label;
    open.push(bar);
  });
  close();
  return pairRepeats(untieStrays(strains));
}
