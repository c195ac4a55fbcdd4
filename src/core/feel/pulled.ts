import { accentShare, shaped } from "./groove";
import type { Groove } from "./grooves";

/** Where a part of the bar is dragged to: its loudness as it is seen, 0 to 1, and its share of the beat. */
export type Pull = { part: number; weight: number; share: number };

/** Accents are kept in whole percent, and a lean in thousandths of the beat. */
const LEAST = 5;
const MOST = 100;
const FARTHEST = 500;
const within = (value: number, low: number, high: number) => Math.round(Math.min(high, Math.max(low, value)));

/**
 * What a groove's accents and lean become when a part of its bar is dragged: seen at a tempo (beats of its own bar a
 * minute) and a strength in percent, kept for the dance itself. Where nothing of the accents is heard, or of the swing,
 * they stay.
 */
export function pulledGroove(
  groove: Groove,
  { part, weight, share }: Pull,
  bpm: number,
  strength: number,
): { accents: number[]; lean: number[] } {
  const k = (accentShare(groove, bpm) * strength) / 100;
  const accents = groove.accents.map((a, i) =>
    within(i === part && k > 0 ? 100 * (1 - (1 - weight) / k) : a, LEAST, MOST),
  );
  return { accents, lean: leanTo(groove, part % groove.parts, share, bpm, strength) };
}

/** The lean that brings a part of each beat to a share of it: its neighbour before it gives, or takes. */
function leanTo(groove: Groove, part: number, share: number, bpm: number, strength: number): number[] {
  const before = Array.from({ length: groove.parts }, (_, i) => Math.round((groove.lean?.[i] ?? 0) * 1000));
  const now = shaped(groove, bpm, strength).shares;
  const at = now.slice(0, part).reduce((a, b) => a + b, 0);
  const by = part > 0 && strength > 0 ? ((share - at) * 1000 * 100) / strength : 0;
  if (by === 0) return before;
  return before.map((l, i) => {
    if (i === part - 1) return within(l + by, -FARTHEST, FARTHEST);
    return i === part ? within(l - by, -FARTHEST, FARTHEST) : l;
  });
}
