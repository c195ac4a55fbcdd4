import { type Metre, metreName, strength } from "../../score";
import { type Key, midi, semitoneOf } from "../../theory";
import { BUILDS, ROLES, SPOTS, STARTS, TABLES } from "./labels";
import type { Heard, Segment } from "../segments";

/** What the network notices around a beat, each a list of twelve degrees above the tonic. */
export const CHANNELS = [
  "downbeat",
  "beat",
  "off the beat",
  "first moment",
  "last note",
  "held in",
  "long",
  "leapt both ways",
  "stepped",
  "lowest",
  "highest",
  "two beats before",
  "beat before",
  "beat after",
  "two beats after",
  "next first moment",
  "last note before",
  "half bar",
  "bar",
  "bar before",
  "bar after",
  "next downbeat",
  "eight beats around",
  "strain",
  "strain's last note",
  "phrase's last note",
  "phrase's first moment",
  ...ROLES,
] as const;
/** Equal parts of a beat at which the network asks which note degrees, in the beat before, this one and the next. */
const MOMENTS = 6;
/** Twelve degrees for every channel and moment. */
export const INPUTS = (CHANNELS.length + MOMENTS * 3) * 12;
const BARS = 8;
const BEATS = 4;
/**
 * Metres that move alike, the pace of a tune in notes to a beat, and how much of it is dotted: what tells a reel from
 * an air.
 */
const METRES: readonly (readonly string[])[] = [
  ["2/4"],
  ["3/4", "3/8", "3/2"],
  ["4/4"],
  ["2/2"],
  ["6/8", "6/4"],
  ["9/8"],
  [],
];
const PACES = [1.5, 2.4, 3.2];
const DOTTED = [0.12, 0.4];
const WIDTHS = [
  STARTS.length,
  SPOTS.length,
  BUILDS.length,
  TABLES,
  BARS,
  BEATS,
  METRES.length,
  PACES.length + 1,
  DOTTED.length + 1,
];
/**
 * Where a beat stands: in bar and phrase, how the bar is built, mode, bar of the strain (by eights), beat of the bar,
 * metre, pace, dots.
 */
export const STANDINGS = WIDTHS.reduce((a, b) => a + b, 0);
/** Where each list of standings begins. */
const FROM = WIDTHS.map((_, n) => WIDTHS.slice(0, n).reduce((a, b) => a + b, 0));
/** What is heard at one beat: inputs with their strengths, and the standings that hold. */
export type Impression = { index: Int32Array; value: Float64Array; standings: number[]; table: number };

const twelve = () => new Float64Array(12);
const add = (to: Float64Array, from: Float64Array | undefined, share = 1) => {
  if (from) for (let s = 0; s < 12; s++) to[s]! += (from[s] as number) * share;
};
const only = (degree: number | undefined) => {
  const one = twelve();
  if (degree !== undefined) one[degree] = 1;
  return one;
};
const height = (heard: Heard) => midi(heard.timed.event.pitches[heard.timed.event.pitches.length - 1] as never);

type Channel = (typeof CHANNELS)[number];
/** A beat by itself: channels of its own, all its notes, its first and last, the degree of each moment. */
type Bare = {
  lists: Map<string, Float64Array>;
  all: Float64Array;
  lead: Float64Array;
  last: Float64Array;
  moments: (number | undefined)[];
};

/** One beat by itself, in degrees above the tonic. */
function bare(segment: Segment, tonic: number, leaps: ReadonlyMap<unknown, number>): Bare {
  const start = segment.place.at + segment.at;
  const lists = new Map<string, Float64Array>();
  const list = (name: Channel) => {
    const known = lists.get(name) ?? twelve();
    lists.set(name, known);
    return known;
  };
  const above = (heard: Heard) => (heard.pitchClass - tonic + 12) % 12;
  const { notes } = segment;
  const all = twelve();
  for (const note of notes) {
    const degree = above(note);
    const from = Math.max(note.timed.at, start);
    const stress = strength(segment.place, from);
    const leap = leaps.get(note.timed.event) ?? 0;
    const weaker = stress > 0 ? "beat" : "off the beat";
    list(stress === 3 ? "downbeat" : weaker)[degree]! += note.beats;
    list(note.outside)[degree]! += note.beats;
    if (note.timed.at < start) list("held in")[degree]! += note.beats;
    if (note.timed.event.ticks >= segment.ticks) list("long")[degree]! += note.beats;
    if (leap === 2) list("leapt both ways")[degree]! += note.beats;
    if (leap === 0) list("stepped")[degree]! += note.beats;
    all[degree]! += note.beats;
  }
  const [first, last] = [notes[0], notes[notes.length - 1]];
  const lead = first && first.timed.at <= start ? above(first) : undefined;
  const ordered = [...notes].sort((a, b) => height(a) - height(b));
  const moments = Array.from({ length: MOMENTS }, (_, m) => {
    const at = start + ((m + 0.01) * segment.ticks) / MOMENTS;
    const note = notes.findLast((n) => n.timed.at <= at);
    return note && above(note);
  });
  lists.set("first moment", only(lead));
  lists.set("last note", only(last && above(last)));
  lists.set("lowest", only(ordered[0] && above(ordered[0])));
  lists.set("highest", only(ordered.length ? above(ordered[ordered.length - 1] as Heard) : undefined));
  return { lists, all, lead: only(lead), last: only(last && above(last)), moments };
}

/** Of every note: 2 where it is leapt both ways, 1 where one side leaps, 0 where the line moves by step. */
function leapsOf(cut: readonly Segment[]): Map<unknown, number> {
  const line = [...new Map(cut.flatMap((s) => s.notes).map((n) => [n.timed.event, height(n)]))];
  return new Map(
    line.map(([event, here], i) => {
      const sides = [line[i - 1], line[i + 1]].flatMap((side) => (side ? [Math.abs(side[1] - here) > 2] : []));
      const one = sides.some(Boolean) ? 1 : 0;
      return [event, sides.length > 0 && sides.every(Boolean) ? 2 : one];
    }),
  );
}

type Run = { first: number; last: number };

/** The run of like members each member is in. */
function runsOf<T>(list: readonly T[], by: (item: T) => unknown): Run[] {
  let open: Run | undefined;
  return list.map((item, i) => {
    if (open && by(list[open.first] as T) === by(item)) open.last = i;
    else open = { first: i, last: i };
    return open;
  });
}

/** Where a beat stands, as indexes into the lists of `labels.ts`. */
type Standing = { start: number; spot: number; build: number; table: number };

/**
 * Everything the network takes in, beat by beat. `standing` says where each stands, `starts` are the first bars of
 * phrases (indexes).
 */
export function impressions(
  cut: readonly Segment[],
  keys: readonly Key[],
  standing: readonly Standing[],
  starts: ReadonlySet<number>,
): Impression[] {
  const leaps = leapsOf(cut);
  const beats = cut.map((segment) =>
    bare(segment, semitoneOf((keys[segment.place.strain] ?? (keys[0] as Key)).tonic), leaps),
  );
  let phrase = 0;
  const phraseAt = cut.map((s, i) => (s.place !== cut[i - 1]?.place && starts.has(s.place.index) ? ++phrase : phrase));
  const [bars, strains, phrases, halves] = [
    runsOf(cut, (s) => s.place),
    runsOf(cut, (s) => s.place.strain),
    runsOf(phraseAt, (p) => p),
    runsOf(cut, (s) => `${s.place.index}${s.at < s.place.ticks / 2}`),
  ];
  const gait = gaitOf(cut);
  const known = new Map<Run, Float64Array>();
  /** The notes of a run, as they degree in a beat of it on average. */
  const mean = (run: Run) => {
    const made = known.get(run) ?? twelve();
    if (!known.has(run))
      for (let i = run.first; i <= run.last; i++) add(made, beats[i]?.all, 1 / (run.last - run.first + 1));
    known.set(run, made);
    return made;
  };
  const shares = new Map(
    [...new Set(strains)].map((run) => {
      const own = mean(run);
      const sum = own.reduce((x, y) => x + y, 0) || 1;
      return [run, own.map((v) => v / sum)];
    }),
  );
  return cut.map((segment, i) => {
    const [beat, bar, strain, own, half] = [beats[i], bars[i], strains[i], phrases[i], halves[i]] as [
      Bare,
      Run,
      Run,
      Run,
      Run,
    ];
    const [barBefore, barAfter] = [bars[bar.first - 1], bars[bar.last + 1]];
    const around: Partial<Record<Channel, Float64Array | undefined>> = {
      "two beats before": beats[i - 2]?.all,
      "beat before": beats[i - 1]?.all,
      "beat after": beats[i + 1]?.all,
      "two beats after": beats[i + 2]?.all,
      "next first moment": beats[i + 1]?.lead,
      "last note before": beats[i - 1]?.last,
      "half bar": mean(half),
      bar: mean(bar),
      "bar before": barBefore && mean(barBefore),
      "bar after": barAfter && mean(barAfter),
      "next downbeat": barAfter && beats[barAfter.first]?.lead,
      "eight beats around": mean({ first: Math.max(0, i - 8), last: Math.min(cut.length - 1, i + 8) }),
      strain: shares.get(strain),
      "strain's last note": beats[strain.last]?.last,
      "phrase's last note": beats[own.last]?.last,
      "phrase's first moment": beats[own.first]?.lead,
    };
    const [index, value]: [number[], number[]] = [[], []];
    const hear = (row: number, degree: number, v: number) => {
      if (v) {
        index.push(row * 12 + degree);
        value.push(v);
      }
    };
    CHANNELS.forEach((name, c) => {
      (around[name] ?? beat.lists.get(name))?.forEach((v, s) => {
        hear(c, s, v);
      });
    });
    [beats[i - 1], beat, beats[i + 1]].forEach((near, k) => {
      near?.moments.forEach((degree, m) => {
        if (degree !== undefined) hear(CHANNELS.length + k * MOMENTS + m, degree, 1);
      });
    });
    const { start, spot, build, table } = standing[i] as Standing;
    const holds = [
      start,
      spot,
      build,
      table,
      (segment.place.index - (cut[strain.first] as Segment).place.index) % BARS,
      Math.min(BEATS - 1, i - bar.first),
      metreKind(segment.place.metre),
      ...gait,
    ];
    return {
      index: Int32Array.from(index),
      value: Float64Array.from(value),
      standings: holds.map((h, n) => h + (FROM[n] as number)),
      table,
    };
  });
}

const metreKind = (metre: Metre): number => {
  const found = METRES.findIndex((names) => names.includes(metreName(metre)));
  return found < 0 ? METRES.length - 1 : found;
};

/** Which pace and which share of dots a tune has: beats with two neighbouring notes of three to one. */
function gaitOf(cut: readonly Segment[]): [number, number] {
  const struck = cut.map((s) => s.notes.filter((n) => n.timed.at >= s.place.at + s.at).map((n) => n.timed.event.ticks));
  const pace = struck.reduce((sum, s) => sum + s.length, 0) / cut.length;
  const dotted =
    struck.filter((s) => s.some((ticks, i) => i > 0 && (ticks === 3 * (s[i - 1] as number) || s[i - 1] === 3 * ticks)))
      .length / cut.length;
  return [PACES.filter((p) => p <= pace).length, DOTTED.filter((d) => d <= dotted).length];
}
