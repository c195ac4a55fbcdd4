import { barTicks, beatTicks, isCompound, type Place, strength, type Timed, timeline } from "../score";
import { midi } from "../theory";

/** Twelve shares, one per semitone above C, that sum to 1 (or to 0 when there is nothing to count). */
export type Shares = readonly number[];

/** What the notes say about the tonic, each as shares of the twelve sounds. */
export const EVIDENCE = [
  "duration",
  "strong",
  "final",
  "strainEnd",
  "phraseEnd",
  "barEnd",
  "opening",
  "upSemitone",
  "upTone",
  "downStep",
  "held",
  "lowest",
  "present",
  "majorChord",
  "minorChord",
  "closingMajor",
  "closingMinor",
  "openingMajor",
  "openingMinor",
  "preferred",
  "used",
  "leaning",
] as const;
export type Evidence = Record<(typeof EVIDENCE)[number], Shares>;

const normal = (counts: number[]): Shares => {
  const sum = counts.reduce((a, b) => a + b, 0);
  return sum > 0 ? counts.map((c) => c / sum) : counts;
};

const soundOf = (timed: Timed) => midi(timed.event.pitches[timed.event.pitches.length - 1] as never) % 12;

/**
 * Gathers the evidence from bars of a tune (all of it, or one strain). Works on sounds alone, so that no spelling or
 * signature leaks in.
 */
export function gather(from: readonly Place[]): Evidence {
  const notes = timeline(from).filter((t) => t.event.pitches.length > 0);
  const counts = Object.fromEntries(EVIDENCE.map((name) => [name, new Array<number>(12).fill(0)])) as Record<
    keyof Evidence,
    number[]
  >;
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
  chords(from, counts);
  const inBar = new Map<Place, Timed[]>();
  for (const n of notes) {
    const bar = inBar.get(n.place);
    if (bar) bar.push(n);
    else inBar.set(n.place, [n]);
  }
  const lastStrong = (place: Place | undefined) => {
    const inside = (place && inBar.get(place)) ?? [];
    return inside.findLast((n) => strength(n.place, n.at) >= 1) ?? inside[inside.length - 1];
  };
  const strains = [...new Set(full.map((p) => p.strain))].map((s) => full.filter((p) => p.strain === s));
  for (const bars of strains) {
    bars.forEach((place, i) => {
      if ((i + 1) % 4 === 0) add("phraseEnd", lastStrong(place), 1);
      if ((i + 1) % 2 === 0) add("barEnd", lastStrong(place), 1);
    });
    add("strainEnd", lastStrong(bars[bars.length - 1]), 1);
    add("opening", bars[0] && inBar.get(bars[0])?.[0], 1);
  }
  add("final", lastStrong(full[full.length - 1]) ?? notes[notes.length - 1], 1);
  const shares = Object.fromEntries(EVIDENCE.map((name) => [name, normal(counts[name] as number[])])) as Evidence;
  const heard = (pitchClass: number) => shares.duration[(pitchClass + 12) % 12] as number;
  return {
    ...shares,
    present: shares.duration.map((share) => Math.min(1, Math.sqrt(share * 8))),
    // Which of two neighbouring semitones the tune means (C or C sharp), and whether it means any, however seldom.
    preferred: shares.duration.map(
      (share, pitchClass) => share / (share + heard(pitchClass - 1) + heard(pitchClass + 1) + 0.01),
    ),
    used: shares.duration.map((share) => share / (share + 0.02)),
    // Each against the semitone above it, as the ear compares: by ratio.
    leaning: shares.duration.map((share, pitchClass) => leaning(share, heard(pitchClass + 1))),
  };
}

/** How much more one share is than another, as a logarithm, from -1 to 1 (a factor of e cubed either way). */
const leaning = (a: number, b: number) => Math.max(-3, Math.min(3, Math.log((a + FAINT) / (b + FAINT)))) / 3;
/** A share too small to be sure of. */
const FAINT = 0.01;

/** Sharpness with which a stretch of the tune decides for one triad. */
const DECIDES = 5;

/** A stretch of a bar: where it stands in it, how long its notes are, and which triads it spells. */
type Stretch = { slot: number; size: number; ticks: number; triads: Float64Array };
/** Stretches of bars that were heard before, as long as they live: a strain need not hear them again. */
const stretched = new WeakMap<Place, Stretch[]>();

/** A bar in stretches that mostly keep one chord. */
function stretchesOf(place: Place): Stretch[] {
  const known = stretched.get(place);
  if (known) return known;
  const size = stretchTicks(place);
  const bySlot = new Map<number, { ticks: number; weights: Float64Array }>();
  let at = place.at;
  for (const { pitches, ticks } of place.bar.events) {
    const top = pitches[pitches.length - 1];
    if (top) {
      const slot = Math.floor((place.offset + at - place.at) / size);
      const open = bySlot.get(slot) ?? { ticks: 0, weights: new Float64Array(12) };
      open.weights[midi(top) % 12]! += ticks * (1 + 0.35 * strength(place, at));
      open.ticks += ticks;
      bySlot.set(slot, open);
    }
    at += ticks;
  }
  const made = [...bySlot].map(([slot, { ticks, weights }]) => ({ slot, size, ticks, triads: triadShares(weights) }));
  stretched.set(place, made);
  return made;
}

/** The two triads on every root, minor ones first, by how well they suit a stretch; they share 1. */
function triadShares(weights: Float64Array): Float64Array {
  const total = weights.reduce((a, b) => a + b, 0) || 1;
  const fits = new Float64Array(24);
  let sum = 0;
  for (let k = 0; k < 24; k++) {
    const [root, third] = [k % 12, k < 12 ? 3 : 4];
    const at = (above: number) => weights[(root + above) % 12] as number;
    sum += fits[k] = Math.exp((DECIDES * (at(0) * 1.1 + at(third) + at(7) * 0.95)) / total);
  }
  return fits.map((f) => f / sum);
}

/**
 * Major and minor triads that stretches of the tune spell: over all of it, at the ends of strains and phrases, and at
 * openings.
 */
function chords(from: readonly Place[], counts: Record<keyof Evidence, number[]>) {
  const full = from.filter((p) => !p.pickup);
  const order = new Map(full.map((p, i) => [p, i]));
  for (const place of from) {
    const bar = order.get(place) ?? -1;
    const strainEnds = full[bar + 1]?.strain !== place.strain;
    const strainOpens = bar === 0 || full[bar - 1]?.strain !== place.strain;
    for (const { slot, size, ticks, triads } of stretchesOf(place)) {
      const last = slot === Math.ceil((place.offset + place.ticks) / size) - 1;
      const closes = last && bar >= 0 && (strainEnds || (bar + 1) % 4 === 0);
      const opens = slot === 0 && strainOpens;
      for (let k = 0; k < 24; k++) {
        const [root, share] = [k % 12, (triads[k] as number) * ticks];
        counts[k < 12 ? "minorChord" : "majorChord"][root]! += share;
        if (closes) counts[k < 12 ? "closingMinor" : "closingMajor"][root]! += share * (strainEnds ? 2 : 1);
        if (opens) counts[k < 12 ? "openingMinor" : "openingMajor"][root]! += share;
      }
    }
  }
}

/** A stretch that mostly keeps one chord: half an even bar, a beat of three compound ones, a bar of three. */
const stretchTicks = (place: Place): number => {
  const bar = barTicks(place.metre) || beatTicks(place.metre) * 2;
  const beats = Math.round(bar / beatTicks(place.metre));
  if (beats % 2 === 0) return bar / 2;
  return isCompound(place.metre) && beats === 3 ? bar / 3 : bar;
};
