import { type Bar, type Event, type Metre, QUARTER, type Tune } from "./model";
import { barTicks, beatTicks, isCompound, places } from "./time";

// Lay: the one place that cuts and spells time. Every reader, writer and planner that makes notes of a length, or
// cuts them at bar lines, beats or chord changes, does it here.

/** Note types from long to short with their ticks. */
export const NOTE_TYPES: readonly [string, number][] = [
  ["long", 16 * QUARTER],
  ["breve", 8 * QUARTER],
  ["whole", 4 * QUARTER],
  ["half", 2 * QUARTER],
  ["quarter", QUARTER],
  ["eighth", QUARTER / 2],
  ["16th", QUARTER / 4],
  ["32nd", QUARTER / 8],
  ["64th", QUARTER / 16],
  ["128th", QUARTER / 32],
];
const SHORTEST = QUARTER / 32;

/** So many notes in the time of so many. */
export type Ratio = { actual: number; normal: number };
/** A length that one note head can show: its type and dots, as written and, in a tuplet, with its ratio. */
export type Shape = { type: string; dots: number; ticks: number; ratio?: Ratio };

const SHAPES: readonly Shape[] = NOTE_TYPES.flatMap(([type, ticks]) =>
  [0, 1, 2].map((dots) => ({ type, dots, ticks: ticks * (2 - 0.5 ** dots) })),
)
  .filter((s) => Number.isInteger(s.ticks))
  .sort((a, b) => b.ticks - a.ticks);
const LONGEST_SHAPE = (SHAPES[0] as Shape).ticks;
/** Longer than any note of a tune: what a broken file may claim is left as it is. */
const ENDLESS = 256 * QUARTER;
const byTicks = new Map(SHAPES.map((s) => [s.ticks, s]));
const plainByTicks = new Map(SHAPES.filter((s) => s.dots < 2).map((s) => [s.ticks, s]));

/** The note head of a length, at most two dots; undefined where there is none. */
export const shapeOf = (ticks: number): Shape | undefined => byTicks.get(ticks);

/** Ratios in which a length that fits no plain grid is looked for, likeliest first. */
const RATIOS: readonly Ratio[] = [
  { actual: 3, normal: 2 },
  { actual: 5, normal: 4 },
  { actual: 7, normal: 4 },
  { actual: 6, normal: 4 },
  { actual: 7, normal: 8 },
  { actual: 9, normal: 8 },
];

/** How a piece is written: its ratio is the tuplet's, or one that its length asks for. */
export function writtenShape({ ticks, tuplet }: Pick<Event, "ticks" | "tuplet">): Shape | undefined {
  if (tuplet) {
    const shape = byTicks.get((ticks * tuplet.actual) / tuplet.normal);
    return shape && { ...shape, ratio: { actual: tuplet.actual, normal: tuplet.normal } };
  }
  const plain = byTicks.get(ticks);
  if (plain || ticks % SHORTEST === 0) return plain;
  for (const ratio of RATIOS) {
    const shape = plainByTicks.get((ticks * ratio.actual) / ratio.normal);
    if (shape) return { ...shape, ratio };
  }
  return undefined;
}

/** Lengths with one head each that add up to a length, long ones first. What is left over goes to the last. */
function decomposed(ticks: number): number[] {
  const lengths: number[] = [];
  let left = ticks;
  while (left >= SHORTEST) {
    const next = SHAPES.find((s) => s.dots < 2 && s.ticks <= left) as Shape;
    lengths.push(next.ticks);
    left -= next.ticks;
  }
  if (left > 0 && lengths.length > 0) lengths[lengths.length - 1]! += left;
  return lengths.length > 0 ? lengths : [ticks];
}

/** The most felt beats, up to `most`, that one head can show. */
function beatsInOne(beat: number, most: number): number {
  for (let n = Math.min(most, Math.floor(LONGEST_SHAPE / beat)); n > 1; n--) if (plainByTicks.has(n * beat)) return n;
  return 1;
}

/**
 * Lengths that exist for a length that begins `into` ticks after the bar line: split where the felt beats fall, and
 * inside a beat long before short, or short before long where it leads to one. `lengthsFor(5 eighths, 0, 6/8) // =>
 * [dotted quarter, quarter]`
 */
function lengthsFor(ticks: number, into: number, metre: Metre): number[] {
  const beat = beatTicks(metre);
  const lengths: number[] = [];
  const end = into + ticks;
  for (let at = into; at < end; ) {
    const off = at % beat;
    const left = end - at;
    if (off === 0 && left >= beat) {
      const whole = beatsInOne(beat, Math.floor(left / beat)) * beat;
      lengths.push(...(plainByTicks.has(whole) ? [whole] : decomposed(whole)));
      at += whole;
      continue;
    }
    const piece = Math.min(left, beat - off);
    const within = exists(piece) ? [piece] : decomposed(piece);
    lengths.push(...(off === 0 ? within : within.reverse()));
    at += piece;
  }
  return lengths;
}

const exists = (ticks: number): boolean => {
  const shape = writtenShape({ ticks });
  return shape !== undefined && shape.dots < 2;
};

/** Lengths of the notes an event is written with: its own where it exists, otherwise several to be tied. */
function pieceLengths({ ticks, tuplet }: Event, into: number, metre: Metre): number[] {
  const shape = writtenShape({ ticks, ...(tuplet ? { tuplet } : {}) });
  // Two dots are read where beats divide in two; in compound time they hide them.
  if (shape && (shape.dots < 2 || (!isCompound(metre) && metre.symbol !== "free"))) return [ticks];
  if (ticks > ENDLESS) return [ticks];
  if (tuplet) {
    const written = decomposed((ticks * tuplet.actual) / tuplet.normal);
    return written.map((w) => (w * tuplet.normal) / tuplet.actual);
  }
  return barTicks(metre) === 0 ? decomposed(ticks) : lengthsFor(ticks, into, metre);
}

/**
 * An event in pieces of the given lengths, tied. Signs and words stay with its first piece, what ends there with its
 * last.
 */
export function cutEvent(event: Event, lengths: readonly number[]): Event[] {
  if (lengths.length < 2) return [event];
  const { slurs, tie, tuplet, ticks: _, grace, graceSlash, marks, words, lyrics, ...kept } = event;
  const sounds = event.pitches.length > 0;
  return lengths.map((ticks, i): Event => {
    const [first, last] = [i === 0, i === lengths.length - 1];
    const held = sounds && (!last || tie) ? { tie: true } : {};
    const open = first ? (slurs?.open ?? 0) : 0;
    const close = last ? (slurs?.close ?? 0) : 0;
    const head = { grace, graceSlash, marks, words, lyrics };
    const signs = Object.fromEntries(Object.entries(head).filter(([, value]) => value !== undefined));
    return {
      ...kept,
      ticks,
      ...held,
      ...(tuplet ? { tuplet: { ...tuplet, place: pieceOfTuplet(tuplet.place, first, last) } } : {}),
      ...(first ? signs : {}),
      ...(open || close ? { slurs: { open, close } } : {}),
    };
  });
}

type TupletPlace = NonNullable<Event["tuplet"]>["place"];
function pieceOfTuplet(place: TupletPlace, first: boolean, last: boolean): TupletPlace {
  if (place === "first" && first) return "first";
  return place === "last" && last ? "last" : "inner";
}

/** A piece of a bar as it is written, with the order of the event it came from. */
export type Laid = { event: Event; from: number; first: boolean };

/**
 * A bar's events as notes that exist, tied where one became several. `into` is how far into its bar the first event
 * begins. Lengths add up exactly.
 */
export function laid(events: readonly Event[], metre: Metre, into = 0): Laid[] {
  let at = into;
  return events.flatMap((event, from) => {
    const pieces = cutEvent(event, pieceLengths(event, at, metre));
    at += event.ticks;
    return pieces.map((piece, i) => ({ event: piece, from, first: i === 0 }));
  });
}

/** A bar's events with every length one that exists. */
export const laidEvents = (events: readonly Event[], metre: Metre, into = 0): Event[] =>
  laid(events, metre, into).map((l) => l.event);

/** An event cut at moments inside it (ticks from its start), tied over the cuts. A note of a tuplet stays whole. */
export function cutAt(event: Event, moments: readonly number[]): Event[] {
  const inside = event.tuplet
    ? []
    : [...new Set(moments.filter((m) => m > 0 && m < event.ticks))].sort((a, b) => a - b);
  const edges = [0, ...inside, event.ticks];
  return cutEvent(
    event,
    edges.slice(1).map((edge, i) => edge - (edges[i] as number)),
  );
}

/**
 * Events laid out in bars of the given lengths (the last repeats), notes over a bar line tied; a cut takes a note out
 * of its tuplet.
 */
export function barred(events: readonly Event[], lengths: readonly number[]): Event[][] {
  const bars: Event[][] = [];
  const lengthOf = (bar: number) => lengths[Math.min(bar, lengths.length - 1)] as number;
  let [open, room] = [[] as Event[], lengthOf(0)];
  for (const event of events) {
    const parts: number[] = [];
    for (let [left, space, bar] = [event.ticks, room, bars.length]; left > 0; bar++, space = lengthOf(bar)) {
      parts.push(Math.min(left, space));
      left -= parts[parts.length - 1] as number;
    }
    const { tuplet, ...plain } = event;
    for (const piece of cutEvent(parts.length > 1 ? plain : event, parts)) {
      open.push(piece);
      room -= piece.ticks;
      if (room > 0) continue;
      bars.push(open);
      [open, room] = [[], lengthOf(bars.length)];
    }
  }
  return open.length > 0 ? [...bars, open] : bars;
}

/** A tune whose every length exists: what readers give. */
export function laidTune(tune: Tune): Tune {
  const bars = new Map(places(tune).map((p) => [p.bar, laidEvents(p.bar.events, p.metre, p.offset)]));
  const laidBar = (bar: Bar): Bar => ({ ...bar, events: bars.get(bar) ?? bar.events });
  return { ...tune, strains: tune.strains.map((s) => ({ ...s, bars: s.bars.map(laidBar) })) };
}

/** Where a note stands in its tuplet, by its order among so many. */
export const tupletPlace = (order: number, count: number): "first" | "inner" | "last" => {
  if (order === 0) return "first";
  return order === count - 1 ? "last" : "inner";
};
