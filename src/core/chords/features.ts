import { barTicks, strength } from "../score";
import { type Key, semitoneOf } from "../theory";
import { type Impression, impressions } from "./impression";
import { BUILDS, buildOf, LABELS, ROLES, SPOTS, STARTS, TABLE_OF, TABLES } from "./labels";
import type { Segment } from "./segments";

const CLOSING = SPOTS.indexOf("close");

/** What the model hears at one beat: shares of its time by sound above the tonic, and where it stands. */
export type Beat = {
  /** By sound (12) and stress (downbeat, beat, off): length as a share of half a bar. */
  own: Float64Array;
  /** The same by foreign role (7) and sound. */
  roles: Float64Array;
  before: Float64Array;
  after: Float64Array;
  bar: Float64Array;
  /** Sound of the note its first moment carries, or -1. */
  lead: number;
  table: number;
  start: number;
  spot: number;
  build: number;
  /** A phrase begins here. */
  phrase: boolean;
  /** Length in ticks. */
  ticks: number;
  /** What the ear takes in. */
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
    const lead = first && first.timed.at <= segment.place.at + segment.at ? (first.sound - tonic + 12) % 12 : -1;
    for (const note of segment.notes) {
      const sound = (note.sound - tonic + 12) % 12;
      const from = Math.max(note.timed.at, segment.place.at + segment.at);
      const weight = strength(segment.place, from);
      const share = (note.beats * beatOf(segment, beat)) / half;
      own[sound * 3 + (weight === 3 ? 0 : weight > 0 ? 1 : 2)]! += share;
      roles[ROLES.indexOf(note.outside) * 12 + sound]! += share;
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
  return ahead === 0
    ? name("close")
    : ahead === 1
      ? name(at === 0 ? "before the close" : "later before the close")
      : ahead === 2
        ? name("half close")
        : name("inside");
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

/** Kinds of evidence, each a block of weights, in the order they lie in one long list. */
export const BLOCKS = {
  note: 2 * 12 * 3,
  bar: 2 * 12 * 3,
  before: 2 * 12 * 3,
  after: 2 * 12 * 3,
  spelled: 2 * 4 * 3,
  spelledBar: 2 * 4 * 3,
  lead: 2 * 12 * 3,
  outside: ROLES.length * 3,
  place: TABLES * LABELS * STARTS.length,
  spot: TABLES * LABELS * SPOTS.length,
  degree: TABLES * 12 * LABELS,
  degreeDown: TABLES * 12 * LABELS,
  move: 2 * LABELS * LABELS,
  cadence: 2 * LABELS * LABELS,
  change: BUILDS.length * STARTS.length,
  changeSpot: STARTS.length * SPOTS.length,
  phraseChange: 1,
} as const;
export type Block = keyof typeof BLOCKS;
const names = Object.keys(BLOCKS) as Block[];
/** Where each block begins in the list, and how long the list is. */
export const OFFSETS = Object.fromEntries(
  names.map((name, i) => [name, names.slice(0, i).reduce((sum, n) => sum + BLOCKS[n], 0)]),
) as Record<Block, number>;
export const SIZE = names.reduce((sum, n) => sum + BLOCKS[n], 0);

/** Whether a sound is in a major or minor triad, by semitones above its root. */
export const inTriad = (minor: number, above: number): boolean =>
  above === 0 || above === 7 || above === (minor ? 3 : 4);

/** Calls back with the weight and value of everything a chord gathers at a beat, block by block. */
export function gather(beat: Beat, label: number, take: (block: Block, index: number, value: number) => void): void {
  const [root, minor] = [label >> 1, label & 1];
  let [chordNotes, barNotes] = [0, 0];
  for (let sound = 0; sound < 12; sound++) {
    const above = (sound - root + 12) % 12;
    const cell = minor * 12 + above;
    const [down, on, off] = [
      beat.own[sound * 3] as number,
      beat.own[sound * 3 + 1] as number,
      beat.own[sound * 3 + 2] as number,
    ];
    if (down) take("note", cell * 3, down);
    if (on) take("note", cell * 3 + 1, on);
    if (off) take("note", cell * 3 + 2, off);
    const stressed = 2 * down + 1.5 * on + off;
    if (stressed) take("degree", (beat.table * 12 + sound) * LABELS + label, stressed);
    if (beat.lead === sound) take("degreeDown", (beat.table * 12 + sound) * LABELS + label, beat.start === 0 ? 1 : 0.6);
    const [bar, before, after] = [beat.bar[sound] as number, beat.before[sound] as number, beat.after[sound] as number];
    if (bar) take("bar", cell * 3 + beat.start, bar);
    if (before) take("before", cell * 3 + beat.start, before);
    if (after) take("after", cell * 3 + beat.start, after);
    if (above === 0 || above === 7 || above === (minor ? 3 : 4)) {
      if (down || on || off) chordNotes += 1;
      if (bar) barNotes += 1;
    }
    if (!inTriad(minor, above) && (down || on || off)) {
      const kind = above === 10 || above === 11 ? 1 : above === (minor ? 4 : 3) ? 2 : 0;
      for (let role = 0; role < ROLES.length; role++) {
        const share = beat.roles[role * 12 + sound] as number;
        if (share) take("outside", role * 3 + kind, share);
      }
    }
  }
  take("spelled", (minor * 4 + chordNotes) * 3 + beat.start, 1);
  take("spelledBar", (minor * 4 + barNotes) * 3 + beat.start, 1);
  if (beat.lead >= 0) take("lead", (minor * 12 + ((beat.lead - root + 12) % 12)) * 3 + beat.start, 1);
  take("place", (beat.table * LABELS + label) * STARTS.length + beat.start, 1);
  take("spot", (beat.table * LABELS + label) * SPOTS.length + beat.spot, 1);
}

/** The same for going from one chord to another; staying gathers nothing. */
export function gatherMove(
  beat: Beat,
  from: number,
  to: number,
  take: (block: Block, index: number, value: number) => void,
): void {
  if (from === to) return;
  take("move", ((beat.table > 1 ? 1 : 0) * LABELS + from) * LABELS + to, 1);
  if (beat.spot >= CLOSING) take("cadence", ((beat.table > 1 ? 1 : 0) * LABELS + from) * LABELS + to, 1);
  take("change", beat.build * STARTS.length + beat.start, 1);
  take("changeSpot", beat.start * SPOTS.length + beat.spot, 1);
  if (beat.phrase) take("phraseChange", 0, 1);
}
