import { barTicks, beatTicks, isCompound, type Metre, QUARTER } from "../score";
import { type Groove, PAIR_RATIO, PURPOSES, type Purpose } from "./grooves";

/** How much of a dance's accents are played, by what its tempo is for. */
const ACCENTED: Record<Purpose, number> = { practice: 0.5, session: 0.8, dancing: 1 };

const middle = ([low, high]: readonly [number, number]): number => (low + high) / 2;

/** A value for each purpose, between their middle tempos in proportion, and held beyond them. */
export function atTempo({ tempo }: Groove, bpm: number, of: (purpose: Purpose) => number): number {
  const points = PURPOSES.flatMap((purpose) => {
    const range = tempo[purpose];
    return range ? [{ at: middle(range), value: of(purpose) }] : [];
  });
  const after = points.findIndex((p) => p.at >= bpm);
  const [first, last] = [points[0] as Point, points[points.length - 1] as Point];
  if (after < 0) return last.value;
  if (after === 0) return first.value;
  const [a, b] = [points[after - 1] as Point, points[after] as Point];
  return a.value + ((b.value - a.value) * (bpm - a.at)) / (b.at - a.at);
}
type Point = { at: number; value: number };

/** Ticks of the beat a groove's numbers are for: its bar laid over a bar of the metre. */
const grooveBeat = ({ beats }: Groove, metre: Metre): number => {
  const full = barTicks(metre);
  return full > 0 ? full / beats : QUARTER;
};

/** Whether a groove can be laid over a metre: its beats fall on written notes, and divide as the metre does. */
export const fitsMetre = (groove: Groove, metre: Metre): boolean => {
  const beat = grooveBeat(groove, metre);
  return Number.isInteger(beat / groove.parts) && (groove.parts === 3) === isCompound(metre);
};

/** Felt beats a minute of a tune, as beats of the groove's bar a minute; and back. */
export const grooveTempo = (groove: Groove, metre: Metre, bpm: number): number =>
  (bpm * beatTicks(metre)) / grooveBeat(groove, metre);
export const feltTempo = (groove: Groove, metre: Metre, bpm: number): number =>
  (bpm * grooveBeat(groove, metre)) / beatTicks(metre);

/** The tempo in the middle of a dance's range for a purpose, in felt beats of a metre; of an air, its session's. */
export function usualTempo(groove: Groove, metre: Metre, purpose: Purpose): number {
  const range = groove.tempo[purpose] ?? groove.tempo.session ?? [60, 60];
  return feltTempo(groove, metre, middle(range));
}

/** A groove as it is at a tempo and a strength, ready to be laid over bars of a metre. */
export type Shaped = {
  groove: Groove;
  /** Shares of one beat of the groove's bar. */
  shares: readonly number[];
  /** Weight of each part of the bar, 0 to 1. */
  weights: readonly number[];
  /** Share of its length a note sounds, and a short one. */
  length: number;
  short: number;
  strength: number;
  /** Share of its beat that the long note of a dotted pair has. */
  long: number;
};

/** Least share a part of the beat can be dragged to, and the shortest a snapped note may be. Seconds. */
const LEAST_SHARE = 0.12;
const SHORTEST = 0.07;

/** How much of its accents a groove has at a tempo (beats of its own bar a minute), 0 to 1. */
export const accentShare = (groove: Groove, bpm: number): number =>
  atTempo(groove, bpm, (purpose) => ACCENTED[purpose]);

/** Shares with none too small, that make one beat. */
function asBeat(shares: readonly number[]): number[] {
  const least = shares.map((s) => Math.max(LEAST_SHARE, s));
  const sum = least.reduce((a, b) => a + b, 0);
  return least.map((s) => s / sum);
}

/**
 * A groove at a tempo (beats of its own bar a minute) and a strength in percent. Strength scales the accents and what
 * the swing has over even notes; 0 is exactly straight and even. Swing never grows with tempo; slow is milder.
 */
export function shaped(groove: Groove, bpm: number, strength = 100): Shaped {
  const s = Math.max(0, strength) / 100;
  const even = 1 / groove.parts;
  const played = Array.from({ length: groove.parts }, (_, i) => {
    const share = atTempo(groove, bpm, (purpose) => groove.shares[purpose][i] as number);
    return even + s * (share + (groove.lean?.[i] ?? 0) - even);
  });
  const shares = groove.lean ? asBeat(played) : played;
  const k = accentShare(groove, bpm) * s;
  const weights = groove.accents.map((percent) => Math.max(0.05, 1 - k * (1 - percent / 100)));
  const { length } = groove;
  return {
    groove,
    shares,
    weights,
    length,
    short: groove.short ?? length,
    strength: s,
    long: longShare(groove, bpm, s),
  };
}

/** What the long note of a pair takes of its beat: as written, or as tight as it is wanted and can be played. */
function longShare({ tight = PAIR_RATIO.written }: Groove, bpm: number, strength: number): number {
  const ratio = PAIR_RATIO.written + (tight - PAIR_RATIO.written) * Math.min(1, strength);
  const most = Math.max(DOT, 1 - (SHORTEST * bpm) / 60);
  return Math.min(ratio / (ratio + 1), most);
}

/** A groove as a teacher has moved it: its accents in percent, what its parts lean, how tight its pairs are. */
export type Moved = { accents?: readonly number[]; lean?: readonly number[]; tight?: number };
export const movedGroove = (groove: Groove, { accents, lean, tight }: Moved): Groove => ({
  ...groove,
  ...(accents?.length === groove.accents.length ? { accents } : {}),
  ...(lean?.length === groove.parts ? { lean } : {}),
  ...(tight === undefined ? {} : { tight }),
});

/** The middle of a dotted pair: three quarters of its beat for long-short. */
const DOT = 3 / 4;
/** Whether a beat of a melody is a dotted pair, by the shares of the beat at which notes start. */
export const isDottedPair = (starts: readonly number[]): boolean =>
  starts.length === 2 && starts[0] === 0 && (starts[1] === DOT || starts[1] === 1 - DOT);

/**
 * Where in its beat a moment is played: `share` as written to the share as played. `starts` are where the melody's
 * notes begin in this beat: a dotted pair is played by the swing or left as it is, never both.
 */
export function warped({ groove, shares, strength, long }: Shaped, share: number, starts: readonly number[]): number {
  const pair = groove.parts === 2 && isDottedPair(starts);
  if (pair && (groove.pairs === "written" || starts[1] !== DOT)) {
    const [written, played] = starts[1] === DOT ? [DOT, long] : [1 - DOT, 1 - long];
    return share <= written ? (share * played) / written : 1 - ((1 - share) * (1 - played)) / (1 - written);
  }
  // Knots of the written and the played beat; between them all moves in proportion.
  const ends = shares.map((_, i) => shares.slice(0, i + 1).reduce((a, b) => a + b, 0));
  const written = pair ? [DOT, 1] : shares.map((_, i) => (i + 1) / shares.length);
  const played = pair ? [DOT + Math.min(1, strength) * ((ends[0] as number) - DOT), 1] : [...ends.slice(0, -1), 1];
  let [from, to] = [0, 0];
  for (let i = 0; i < written.length; i++) {
    const [w, p] = [written[i] as number, played[i] as number];
    if (share <= w) return to + ((p - to) * (share - from)) / (w - from);
    [from, to] = [w, p];
  }
  return share;
}
