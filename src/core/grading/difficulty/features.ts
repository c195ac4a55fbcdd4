import type { Instrument } from "../../instruments";
import { barTicks, beatTicks, type Place } from "../../score";
import { midi, signature } from "../../theory";
import type { Met } from "./lined";

/** A part as it is weighed: its notes, its bars, what it is played on, seconds of a tick, and of the whole. */
export type Weighed = {
  notes: readonly Met[];
  places: readonly Place[];
  on: Instrument;
  /** Its lowest note, in the pitches of the notes. */
  lowest: number;
  tick: number;
  seconds: number;
};

/**
 * What makes a part hard: its name, and how much of it there is, from 0; more never makes a part easier. What the rated
 * parts have too little of to be fitted has points by teachers' judgement.
 */
export type Feature = { name: string; value: (part: Weighed) => number; judged?: number };

const sum = (of: readonly number[]): number => of.reduce((a, b) => a + b, 0);
const top = (n: Met): number => n.pitches.at(-1) ?? 0;
const steps = ({ notes }: Weighed): [Met, Met][] => notes.slice(1).map((n, i): [Met, Met] => [notes[i] as Met, n]);
/** How often in a second, softened: twice as often is less than twice as hard. */
const often = (count: number, { seconds }: Weighed): number => Math.sqrt(count / Math.max(1, seconds));
/** Of a speed: twice as quick is one step more. */
const doublings = (perSecond: number): number => Math.log2(1 + perSecond);

/** Notes a second in the busier half of the bars. */
function busy({ notes, places, tick }: Weighed): number {
  const counts = new Map<number, number>();
  for (const n of notes) counts.set(n.bar, (counts.get(n.bar) ?? 0) + 1);
  const all = [...counts]
    .map(([bar, count]) => {
      const place = places[bar] as Place;
      // A pickup has the whole bar before it to get ready in.
      return count / Math.max(1e-6, Math.max(place.ticks, barTicks(place.metre)) * tick);
    })
    .sort((a, b) => b - a);
  const half = all.slice(0, Math.ceil(all.length / 2));
  return half.length === 0 ? 0 : sum(half) / half.length;
}

/** Notes that are taken in one run, and how quick it is at its quickest. */
const RUN = 4;
function quickestRun({ notes }: Weighed): number {
  const runs = notes.slice(RUN).map((n, i) => RUN / Math.max(1e-6, n.at - (notes[i] as Met).at));
  return Math.max(0, ...runs);
}

/** Seconds from which a note is no longer quick, and from which a leap leaves time. */
const QUICK = 0.2;
const CALM = 0.3;
/** Semitones that are no leap yet. */
const THIRD = 4;
/** How far a leap goes beyond a third, for less where there is time. */
const leap = ([a, b]: [Met, Met]): number =>
  (Math.max(0, Math.abs(top(a) - top(b)) - THIRD) / THIRD) * Math.min(1, CALM / Math.max(1e-6, a.gap));

/** Sharps of the keys that lie best, by what is played: teachers' judgement; and how far from them a key may lie. */
const HOME: Partial<Record<Instrument["family"], number>> = { bowed: 2, wind: 2, box: 1.5, plucked: 1, keyboard: 0 };
const FIFTHS_TUNED = new Set(["mandolin", "octave mandola", "tenor banjo", "mountain dulcimer"]);
function keyFar({ places, on }: Weighed): number {
  const key = places[0]?.key;
  const home = FIFTHS_TUNED.has(on.name) ? 2 : HOME[on.family];
  // A whistle in another key has its home there.
  const moved = on.family === "wind" && on.transposition > 0 ? whistleSharps(on) : 0;
  return !key || home === undefined ? 0 : Math.max(0, Math.abs(signature(key) - home - moved) - 1);
}
/** Sharps a whistle's own scale has more than the one in D. */
function whistleSharps({ lowest }: Instrument): number {
  const fifths = (((midi(lowest) - 2) * 7) % 12) + (midi(lowest) < 2 ? 12 : 0);
  return fifths > 6 ? fifths - 12 : fifths;
}

/** Semitones above an open string of the violin family that want a trained finger, and by how much. */
const AWKWARD_BOWED: Readonly<Record<number, number>> = { 1: 1, 3: 0.35, 6: 1, 7: 0.5 };
/** Semitones above a whistle's lowest note that are half-holed or cross-fingered. */
const AWKWARD_BLOWN: Readonly<Record<number, number>> = { 1: 1, 3: 1, 6: 0.6, 8: 1, 10: 0.35 };
const FIRST_POSITION = 7;
const OCTAVE = 12;
const isBowed = ({ family }: Instrument): boolean => family === "bowed";
/** Octaves above the lowest note. */
const register = (n: Met, lowest: number): number => Math.floor((top(n) - lowest) / OCTAVE);

function awkward({ on, lowest }: Weighed, n: Met): number {
  if (isBowed(on)) return AWKWARD_BOWED[n.above] ?? 0;
  if (on.family !== "wind") return 0;
  return AWKWARD_BLOWN[(((top(n) - lowest) % OCTAVE) + OCTAVE) % OCTAVE] ?? 0;
}

/** Strings crossed, each skipped one half as much again; of what is blown, registers. */
function crossings(part: Weighed): number {
  const { on, lowest } = part;
  if (on.strings.length > 0)
    return sum(
      steps(part).map(([a, b]) => {
        const strings = Math.abs(a.string - b.string);
        return strings > 1 ? 1 + (strings - 1) * 1.5 : strings;
      }),
    );
  if (on.family !== "wind") return 0;
  return steps(part).filter(([a, b]) => register(a, lowest) !== register(b, lowest)).length;
}

/** Notes that begin between beats and sound over the next one. */
const syncopated = ({ notes, places }: Weighed): number =>
  notes.filter((n) => {
    const beat = beatTicks((places[n.bar] as Place).metre);
    const into = n.into % beat;
    return into > 0 && into + n.ticks > beat;
  }).length;

/** Short notes on a beat before one of more than twice their length. */
const SNAP = 2.5;
const snaps = (part: Weighed): number =>
  steps(part).filter(([a, b]) => {
    const beat = beatTicks((part.places[a.bar] as Place).metre);
    return a.bar === b.bar && a.into % beat === 0 && b.ticks >= SNAP * a.ticks;
  }).length;

/** Ornaments a second beyond which more matter little. */
const MANY = 0.5;
function ornaments(part: Weighed): number {
  const rate = sum(part.notes.map((n) => n.graces + n.marks)) / Math.max(1, part.seconds);
  return rate / (rate + MANY);
}

/** Octaves from the lowest to the highest note. */
function range({ notes }: Weighed): number {
  const all = notes.flatMap((n) => n.pitches);
  return all.length > 0 ? (Math.max(...all) - Math.min(...all)) / OCTAVE : 0;
}

/** Strums that hold another chord than the one before. */
const changes = (part: Weighed): number =>
  steps(part).filter(([a, b]) => b.pitches.length > 2 && a.pitches.join() !== b.pitches.join()).length;

/** Every feature, in the order they are told. */
export const FEATURES: readonly Feature[] = [
  { name: "speed", value: (part) => doublings(busy(part)) },
  { name: "quickest run", value: (part) => doublings(quickestRun(part)) },
  { name: "quick notes", value: (part) => often(part.notes.filter((n) => n.gap < QUICK).length, part) },
  { name: "range", value: range },
  { name: "leaps", value: (part) => often(sum(steps(part).map(leap)), part) },
  { name: "key", value: keyFar },
  { name: "snaps", value: (part) => often(snaps(part), part) },
  { name: "tuplets", value: (part) => often(part.notes.filter((n) => n.tuplet).length, part) },
  { name: "ornaments", value: ornaments },
  {
    name: "pitches",
    judged: 0.7,
    value: ({ notes }) => Math.log2(1 + new Set(notes.flatMap((n) => n.pitches)).size),
  },
  { name: "crossings", judged: 1, value: (part) => often(crossings(part), part) },
  {
    name: "fingers",
    judged: 1,
    value: (part) => often(sum(part.notes.map((n) => awkward(part, n))), part),
  },
  {
    name: "positions",
    judged: 12,
    value: ({ notes, on }) => (isBowed(on) ? Math.max(0, ...notes.map((n) => n.above - FIRST_POSITION)) / THIRD : 0),
  },
  { name: "off the beat", judged: 3, value: (part) => often(syncopated(part), part) },
  { name: "slurs", judged: 0.7, value: (part) => often(part.notes.filter((n) => n.slurred).length, part) },
  {
    name: "double stops",
    judged: 10,
    value: (part) => often(part.notes.filter((n) => n.pitches.length === 2).length, part),
  },
  { name: "chord changes", judged: 12, value: (part) => often(changes(part), part) },
];
