import { type Place, strength, type Timed, timeline } from "../score";
import { midi } from "../theory";

/** Twelve shares, one per semitone above C, that sum to 1 (or to 0 when there is nothing to count). */
export type Shares = readonly number[];

/** What the notes say about the tonic, each as shares of the twelve sounds. */
export const EVIDENCE = [
  "duration", "strong", "final", "strainEnd", "phraseEnd", "barEnd", "opening", "upSemitone", "upTone", "downStep", "held", "lowest", "present",
] as const;
export type Evidence = Record<(typeof EVIDENCE)[number], Shares>;

const normal = (counts: number[]): Shares => {
  const sum = counts.reduce((a, b) => a + b, 0);
  return sum > 0 ? counts.map((c) => c / sum) : counts;
};

const soundOf = (timed: Timed) => midi(timed.event.pitches[timed.event.pitches.length - 1] as never) % 12;

/** Gathers the evidence from bars of a tune (all of it, or one strain). Works on sounds alone, so that no spelling or signature leaks in. */
export function gather(from: readonly Place[]): Evidence {
  const notes = timeline(from).filter((t) => t.event.pitches.length > 0);
  const counts = Object.fromEntries(EVIDENCE.map((name) => [name, new Array<number>(12).fill(0)])) as Record<keyof Evidence, number[]>;
  const add = (name: keyof Evidence, timed: Timed | undefined, weight: number) => {
    if (timed) (counts[name] as number[])[soundOf(timed)]! += weight;
  };
  const lowest = Math.min(...notes.map((n) => midi(n.event.pitches[0] as never)));
  notes.forEach((n, i) => {
    const weight = strength(n.place, n.at);
    add("duration", n, n.event.ticks);
    if (weight >= 1) add("strong", n, n.event.ticks * weight);
    if (n.event.ticks >= 3360) add("held", n, n.event.ticks);
    if (midi(n.event.pitches[0] as never) === lowest) add("lowest", n, 1);
    const before = notes[i - 1];
    if (!before) return;
    const move = midi(n.event.pitches[0] as never) - midi(before.event.pitches[0] as never);
    const stress = 1 + weight;
    if (move === 1) add("upSemitone", n, stress);
    else if (move === 2) add("upTone", n, stress);
    else if (move === -1 || move === -2) add("downStep", n, stress);
  });
  const full = from.filter((p) => !p.pickup);
  const lastStrong = (place: Place | undefined) => {
    const inside = notes.filter((n) => n.place === place);
    return inside.findLast((n) => strength(n.place, n.at) >= 1) ?? inside[inside.length - 1];
  };
  const strains = [...new Set(full.map((p) => p.strain))].map((s) => full.filter((p) => p.strain === s));
  for (const bars of strains) {
    bars.forEach((place, i) => {
      if ((i + 1) % 4 === 0) add("phraseEnd", lastStrong(place), 1);
      if ((i + 1) % 2 === 0) add("barEnd", lastStrong(place), 1);
    });
    add("strainEnd", lastStrong(bars[bars.length - 1]), 1);
    add("opening", notes.find((n) => n.place === bars[0]), 1);
  }
  add("final", lastStrong(full[full.length - 1]) ?? notes[notes.length - 1], 1);
  const shares = Object.fromEntries(EVIDENCE.map((name) => [name, normal(counts[name] as number[])])) as Evidence;
  return { ...shares, present: shares.duration.map((share) => Math.min(1, Math.sqrt(share * 8))) };
}
