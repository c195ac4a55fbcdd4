import { barTicks, type Bar, lengthOf, type Metre, type Strain } from "../score";
import { midi } from "../theory";

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
  /** Full bars of the open strain. */
  let full = 0;
  const close = () => {
    if (open.length > 0)
      strains.push({ label: label ?? nextLetter(strains), ...(label ? { named: true } : {}), bars: open });
    [open, label, full] = [[], undefined, 0];
  };
  bars.forEach((bar, i) => {
    const before = bars[i - 1];
    const ended =
      before !== undefined &&
      !bar.ending &&
      (before.repeatEnd !== undefined ||
        before.endingStop === true ||
        (["double", "final", "heavy"].includes(before.barline) && full >= SHORTEST_STRAIN));
    if (labels.has(i) || (full >= 1 && (bar.repeatStart || ended))) close();
    label = labels.get(i)?.slice(0, 80) || label;
    open.push(bar);
    if (lengthOf(bar.events) >= barTicks(metre)) full += 1;
  });
  close();
  return pairRepeats(untieStrays(strains));
}

/** A, B, ... Z, A2, B2 ... for strains the source does not name. */
const strainLetter = (order: number): string =>
  String.fromCharCode(65 + (order % 26)) + (order >= 26 ? String(Math.floor(order / 26) + 1) : "");

/** The letter of the next strain: the first that none has; what stands before, between and after the tune has none. */
export function nextLetter(before: readonly { label: string }[]): string {
  const taken = new Set(before.map((s) => s.label));
  let order = before.filter((s) => !/^(intro|vamp|tag)/i.test(s.label)).length;
  while (taken.has(strainLetter(order))) order += 1;
  return strainLetter(order);
}

/** Takes off ties that lead to no note of the same pitch, as sloppy sources write slurs with the tie's sign. */
export function untieStrays(strains: Strain[]): Strain[] {
  const events = strains.flatMap((s) => s.bars.flatMap((b) => b.events));
  events.forEach((event, i) => {
    const next = events[i + 1];
    if (event.tie && !event.pitches.some((p) => next?.pitches.some((q) => midi(p) === midi(q)))) delete event.tie;
  });
  return strains;
}

/**
 * Makes repeats explicit. An end without a start goes back to the latest strain or repeat end (ABC 2.1, 4.8), and gets
 * its start
 * there; a start that nothing ends is taken off, and so is an ending of nothing that repeats.
 */
export function pairRepeats(strains: Strain[]): Strain[] {
  const bars = strains.flatMap((s) => s.bars.map((bar, i) => ({ bar, opens: i === 0 })));
  let from = 0;
  let start: number | undefined;
  bars.forEach(({ bar, opens }, i) => {
    if (bar.repeatStart) {
      if (start !== undefined) delete bars[start]?.bar.repeatStart;
      [from, start] = [i, i];
    } else if (opens && start === undefined && !bar.ending) from = i;
    const next = bars[i + 1]?.bar;
    const more = next?.ending !== undefined && !next.repeatStart;
    if (bar.repeatEnd && start === undefined && from > 0) (bars[from] as (typeof bars)[number]).bar.repeatStart = true;
    if (bar.repeatEnd) start = more ? from : undefined;
    if ((bar.repeatEnd && !more) || (bar.endingStop && !more)) [from, start] = [i + 1, undefined];
  });
  if (start !== undefined) delete bars[start]?.bar.repeatStart;
  // From the end back, so that the next end and the next start are always known.
  let [end, fresh] = [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY];
  for (let i = bars.length - 1; i >= 0; i--) {
    const { bar } = bars[i] as (typeof bars)[number];
    if (bar.repeatEnd !== undefined) end = i;
    const repeated = (end < Number.POSITIVE_INFINITY && end < fresh) || bars[i - 1]?.bar.repeatEnd !== undefined;
    if (bar.ending && !repeated) delete bar.ending;
    if (bar.repeatStart) fresh = i;
  }
  let open = false;
  for (const { bar } of bars) {
    open ||= bar.ending !== undefined;
    if (bar.endingStop && !open) delete bar.endingStop;
    if (bar.endingStop) open = false;
  }
  return strains;
}
