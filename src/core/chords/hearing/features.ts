import { barTicks, strength } from "../../score";
import { type Key, semitoneOf } from "../../theory";
import { type Impression, impressions } from "./impression";
import { buildOf, ROLES, SPOTS, STARTS, TABLE_OF } from "./labels";
import type { Segment } from "../segments";

/**
 * What the model hears at one beat: shares of its time by degree, in semitones above the tonic, and where it stands.
 */
export type Beat = {
  /** By degree (12) and stress (downbeat, beat, off): length as a share of half a bar. */
  own: Float64Array;
  /** The same by foreign role (7) and degree. */
  roles: Float64Array;
  before: Float64Array;
  after: Float64Array;
  bar: Float64Array;
  /** Degree of the note its first moment carries, or -1. */
  lead: number;
  table: number;
  start: number;
  spot: number;
  build: number;
  /** A phrase begins here. */
  phrase: boolean;
  /** Length in ticks. */
  ticks: number;
  /** What the network takes in. */
  heard: Impression;
};

/**
 * Everything the model reads off the melody, beat by beat. `starts` are the first bars of phrases (indexes), `keys` the
 * key of each strain.
 */
export function beatsOf(cut: readonly Segment[], keys: readonly Key[], starts: ReadonlySet<number>): Beat[] {
  const bare = cut.map((segment, i): Omit<Beat, "heard"> => {
    const key = keys[segment.place.strain] ?? (keys[0] as Key);
    const tonic = semitoneOf(key.tonic);
    const half = (barTicks(segment.place.metre) || segment.ticks * 2) / 2;
    const own = new Float64Array(36);
    const roles = new Float64Array(84);
    const beat = segment.ticks || 1;
    const first = segment.notes[0];
    const lead = first && first.timed.at <= segment.place.at + segment.at ? (first.pitchClass - tonic + 12) % 12 : -1;
    for (const note of segment.notes) {
      const degree = (note.pitchClass - tonic + 12) % 12;
      const from = Math.max(note.timed.at, segment.place.at + segment.at);
      const weight = strength(segment.place, from);
      const share = (note.beats * beatOf(segment, beat)) / half;
      const stress = weight > 0 ? 1 : 2;
      own[degree * 3 + (weight === 3 ? 0 : stress)]! += share;
      roles[ROLES.indexOf(note.outside) * 12 + degree]! += share;
    }
    return {
      own,
      roles,
      before: EMPTY,
      after: EMPTY,
      bar: EMPTY,
      lead,
      table: TABLE_OF[key.mode],
      start: STARTS.indexOf(segment.start),
      spot: spotOf(cut, i, starts),
      build: buildOf(segment.place.metre),
      phrase: segment.at === 0 && starts.has(segment.place.index),
      ticks: segment.ticks,
    };
  });
  const flat = bare.map((b) => {
    const sum = new Float64Array(12);
    for (let s = 0; s < 12; s++)
      sum[s] = (b.own[s * 3] as number) + (b.own[s * 3 + 1] as number) + (b.own[s * 3 + 2] as number);
    return sum;
  });
  let from = 0;
  cut.forEach((segment, i) => {
    if (cut[from]?.place !== segment.place) from = i;
    const beat = bare[i] as Omit<Beat, "heard">;
    beat.before = flat[i - 1] ?? EMPTY;
    beat.after = flat[i + 1] ?? EMPTY;
    beat.bar = new Float64Array(12);
    for (let k = from; k < cut.length && cut[k]?.place === segment.place; k++)
      for (let s = 0; s < 12; s++) beat.bar[s]! += flat[k]?.[s] as number;
  });
  const heard = impressions(cut, keys, bare, starts);
  return bare.map((beat, i) => ({ ...beat, heard: heard[i] as Impression }));
}

const EMPTY = new Float64Array(12);
/** Note lengths come in felt beats. */
const beatOf = (segment: Segment, fallback: number): number => {
  const { metre } = segment.place;
  return metre.symbol === "free" ? fallback : (metre.unit >= 8 && metre.beats % 3 === 0 ? 3 : 1) * (13440 / metre.unit);
};

function spotOf(cut: readonly Segment[], i: number, starts: ReadonlySet<number>): number {
  const { place, at } = cut[i] as Segment;
  const name = (spot: (typeof SPOTS)[number]) => SPOTS.indexOf(spot);
  const lastOfStrain = !cut.slice(i + 1, i + 8).some((s) => s.place.strain === place.strain);
  if (lastOfStrain) return name("end");
  if (cut[i]?.phraseEnd) return name("last beat");
  const ahead = barsTo(cut, i, (s) => s.phraseEnd);
  if (starts.has(place.index) && at === 0)
    return cut[i - 1]?.place.strain === place.strain ? name("phrase start") : name("opening");
  if (ahead === 0) return name("close");
  if (ahead === 1) return name(at === 0 ? "before the close" : "later before the close");
  return name(ahead === 2 ? "half close" : "inside");
}

/** Full bars from a beat to the next that passes a test, up to three. */
function barsTo(cut: readonly Segment[], i: number, test: (segment: Segment) => boolean): number {
  let bars = 0;
  for (let k = i; k < cut.length && bars < 4; k++) {
    if (k > i && cut[k]?.place !== cut[k - 1]?.place) bars += 1;
    if (test(cut[k] as Segment)) return bars;
  }
  return 3;
}
