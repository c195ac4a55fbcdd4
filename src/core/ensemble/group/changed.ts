import { breaches, isWithin, type Limits, type PartNote } from "../../grading";
import type { EveningRequest } from "./model";

// A part after it was written: room that was made in it, bars written by hand, and what is taken out again.

/** A part with what was changed in it to make room: bars it rests in, or plays in another octave where it has that. */
export function withChanges(
  notes: readonly PartNote[],
  name: string,
  limits: Limits,
  changes: NonNullable<EveningRequest["changes"]>,
): PartNote[] {
  const own = new Map(changes.filter((c) => c.name === name).map((c) => [c.bar, c.what]));
  if (own.size === 0) return [...notes];
  return notes.flatMap((n): PartNote[] => {
    const what = own.get(n.bar);
    if (what === undefined) return [n];
    if (what === "rest") return [];
    const by = what === "octave higher" ? 12 : -12;
    const pitches = n.pitches.map((p) => p + by);
    const { strings: _s, frets: _f, fingers: _n, ...free } = n;
    return pitches.every((p) => isWithin(limits, p)) ? [{ ...free, pitches }] : [n];
  });
}

/** A part with the bars that were written by hand in the place of its own. */
export function byHand(notes: readonly PartNote[], edits: NonNullable<EveningRequest["edits"]>): PartNote[] {
  if (edits.length === 0) return [...notes];
  const bars = new Map(edits.map((e) => [e.bar, e.notes.map((n): PartNote => ({ ...n, bar: e.bar }))]));
  const others = notes.filter((n) => !bars.has(n.bar));
  return [...others, ...[...bars.values()].flat()].sort((a, b) => a.bar - b.bar || a.at - b.at);
}

/** Notes that are taken out at most until nothing is broken. */
const MENDS = 60;

/**
 * A part without the notes that break a limit, since one between them is no longer there: what rubbed has gone, and its
 * neighbours may be too far apart or too soon.
 */
export function mended(part: Parameters<typeof breaches>[0], hands: ReadonlySet<number>): PartNote[] {
  let notes = [...part.notes];
  for (let i = 0; i < MENDS; i++) {
    // What was written by hand stands, whatever it breaks.
    const worst = breaches({ ...part, notes }).find((b) => !hands.has(b.bar));
    if (!worst) return notes;
    const { leap } = part.limits;
    const far = notes.findIndex((n, k) => {
      const [a, b] = [notes[k - 1]?.pitches[0], n.pitches[0]];
      return n.bar === worst.bar && a !== undefined && b !== undefined && leap !== null && Math.abs(a - b) > leap;
    });
    const out = worst.limit === "leap" && far >= 0 ? far : notes.findIndex((n) => n.bar === worst.bar);
    if (out < 0) return notes;
    notes = notes.filter((_, k) => k !== out);
  }
  return notes;
}
