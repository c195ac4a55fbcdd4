import { midi, type Pitch } from "../theory";
import type { Bow, Bowing, BowRequest } from "./bows";
import type { Beats } from "./metre";
import type { Direction, StrokeNote } from "./model";
import type { Joint } from "./patterns";
import { near, type Spot } from "./spots";

/** What every departure costs, in points: a teacher's judgement. */
export const PRICES = {
  upDownbeat: 8,
  upMain: 1.5,
  upMainInJigPulse: 0.4,
  upWeak: 0.1,
  slur: [0, 0, 0.6, 1, 1.8, 2.6, 3.4, 4.2, 5],
  startsOnMain: 0.3,
  coversMain: 2.5,
  coversBarLine: 4,
  coversWeak: 0.2,
  mixedLengths: 0.5,
  crossing: 0.8,
  rocking: 1,
  afterHeld: 0.5,
  hook: 2,
  hookOntoMain: 6,
  drivenHook: 0.3,
  liftAtPhrase: 1,
  liftAfterHeld: 3,
  brokenPattern: 3,
  openTriplet: 3,
  openRun: 3,
  finalUp: 0.5,
} as const;
/** Ties go to the fewest slurs, then to the earliest. */
const TIE = { slur: 1e-3, order: 1e-6 };
/** Shortest time a bow needs to leave the string and come back, and the longest one bow lasts. Seconds. */
const LIFT_TIME = 0.25;
const LONGEST_BOW = { usual: 1.6, air: 3 };
/** Most notes of one bow: slow notes, quick ones, airs. An eighth above so many seconds is slow. */
export const MOST = { slow: 3, quick: 4, air: 8, run: 8 };
const SLOW_EIGHTH = 0.3;

const interval = (a: StrokeNote, b: StrokeNote) =>
  Math.abs(midi(a.pitches.at(-1) as Pitch) - midi(b.pitches.at(-1) as Pitch));
const isTripletStart = ({ tuplet }: StrokeNote) => tuplet?.actual === 3 && tuplet.place === "first";

/** Whether notes are one triplet whose notes differ: it is slurred as one. */
function isRun(spots: readonly Spot[], i: number): boolean {
  const notes = spots.slice(i, i + 3).map((s) => s.note);
  if (notes.length < 3 || !isTripletStart(notes[0] as StrokeNote)) return false;
  return notes.slice(1).every((n, k) => n.rest === 0 && interval(n, notes[k] as StrokeNote) > 0);
}

/** Fewest notes of a run. */
const RUN = 4;

/**
 * How many notes a run from note `i` on has: four to eight equal steps one way, quicker than running notes, that lead
 * into a beat over one string or two; 0 where none begins.
 */
export function runFrom(spots: readonly Spot[], i: number): number {
  const first = spots[i] as Spot;
  if (first.note.ticks > first.beats.unit / 2 || first.note.tuplet || !spots[i + 1]) return 0;
  const way = (k: number) => midi(topOf(spots[k + 1])) - midi(topOf(spots[k]));
  const goesOn = (k: number) => {
    const [a, b] = [spots[k], spots[k + 1]];
    if (!a || !b || b.note.rest > 0 || !near(a.note.ticks, b.note.ticks) || b.note.tuplet) return false;
    return interval(a.note, b.note) <= 2 && interval(a.note, b.note) > 0 && Math.sign(way(k)) === Math.sign(way(i));
  };
  const before = spots[i - 1];
  const begun = before !== undefined && goesOn(i - 1) && Math.sign(way(i - 1)) === Math.sign(way(i));
  if (begun) return 0;
  let most = 1;
  while (most < MOST.run && goesOn(i + most - 1)) most += 1;
  for (let of = most; of >= RUN; of--) {
    const strings = spots.slice(i, i + of).map((s) => s.note.string ?? 0);
    const lands = spots[i + of];
    const narrow = Math.max(...strings) - Math.min(...strings) <= 1;
    if (narrow && lands && (lands.main || lands.weak) && lands.note.rest === 0) return of;
  }
  return 0;
}
const topOf = (spot: Spot | undefined): Pitch => spot?.note.pitches.at(-1) as Pitch;

/** A triplet that leads into a downbeat. */
const isLeadIn = (spots: readonly Spot[], i: number) => isRun(spots, i) && spots[i + 3]?.downbeat === true;

/** Strings crossed in a slur, the fourth finger for an open string where that saves one; Infinity for a skip. */
function crossings(notes: readonly StrokeNote[]): { count: number; rocking: boolean } {
  const crossed = notes.slice(1).map((b, i) => {
    const a = notes[i] as StrokeNote;
    const step = (b.string ?? 0) - (a.string ?? 0);
    if ((step === 1 && b.open) || (step === -1 && a.open)) return 0;
    return step;
  });
  if (crossed.some((s) => Math.abs(s) > 1)) return { count: Number.POSITIVE_INFINITY, rocking: false };
  const moves = crossed.filter((s) => s !== 0);
  return { count: moves.length, rocking: moves.some((s, i) => i > 0 && s === -(moves[i - 1] as number)) };
}

export type Ground = { spots: readonly Spot[]; request: BowRequest; most: number };

/** What the slur of `of` notes from note `i` on costs; Infinity where it cannot be. */
function slurPrice({ spots, request, most }: Ground, i: number, of: number): number {
  if (of === 1) return 0;
  if (request.style === "Separate") return Number.POSITIVE_INFINITY;
  const own = spots.slice(i, i + of);
  const [first] = own as [Spot];
  const notes = own.map((s) => s.note);
  const seconds = own.reduce((sum, s) => sum + s.seconds, 0);
  const limit = first.seconds > SLOW_EIGHTH && !request.air ? MOST.slow : most;
  const longest = request.air ? LONGEST_BOW.air : LONGEST_BOW.usual;
  const leadIn = request.style === "Slurred threes" && isLeadIn(spots, i);
  if (request.runs && runFrom(spots, i) === of) return PRICES.slur[1] as number;
  if (own.length < of || of > limit + (isRun(spots, i) ? 1 : 0) || (seconds > longest && of > 2 && !leadIn))
    return Number.POSITIVE_INFINITY;
  const joined = of > 3 && !leadIn && notes.some((n) => n.tuplet?.actual === 3);
  // A slur over the same note again would be a tie.
  const again = notes.slice(1).some((n, k) => interval(n, notes[k] as StrokeNote) === 0);
  if (
    joined ||
    again ||
    notes.slice(1).some((n) => n.rest > 0) ||
    splitsTriplet(notes) ||
    hasDottedPair(notes, first.beats)
  ) {
    return Number.POSITIVE_INFINITY;
  }
  const { count, rocking } = crossings(notes);
  const threes = request.style === "Slurred threes";
  const inside = own.slice(1).reduce((sum, s) => {
    if (s.downbeat) return sum + (threes ? 0 : PRICES.coversBarLine);
    if (s.main) return sum + PRICES.coversMain;
    return sum + (s.weak ? PRICES.coversWeak : 0);
  }, 0);
  const { unit } = first.beats;
  const mixed = notes.some((n) => n.ticks >= 2 * unit) && notes.some((n) => n.ticks <= unit);
  return (
    (PRICES.slur[of] as number) +
    (first.main ? PRICES.startsOnMain : 0) +
    inside +
    (mixed ? PRICES.mixedLengths : 0) +
    count * PRICES.crossing +
    (rocking ? PRICES.rocking : 0) +
    TIE.slur +
    i * TIE.order
  );
}

/** A slur that takes a part of a triplet, and not all of it. */
function splitsTriplet(notes: readonly StrokeNote[]): boolean {
  const places = notes.map((n) => n.tuplet?.place);
  const starts = places.filter((p) => p === "first").length;
  const ends = places.filter((p) => p === "last").length;
  return places.some((p) => p !== undefined) && (starts !== ends || places[0] === "inner" || places[0] === "last");
}
/** Long-short of three to one: it is hooked, never slurred. */
const hasDottedPair = (notes: readonly StrokeNote[], { unit }: Beats) =>
  notes.slice(1).some((b, i) => isDotted(notes[i] as StrokeNote, b, unit));
const isDotted = (a: StrokeNote, b: StrokeNote, unit: number) => near(a.ticks, 1.5 * unit) && near(b.ticks, 0.5 * unit);

/** What it costs that a stroke begins on a note this way. */
function wayPrice({ downbeat, main, weak, leads, dotted }: Spot, way: Direction, style: Bowing): number {
  if (way === "down") return 0;
  // Separate bows alternate through odd bars: they only begin well.
  if (style === "Separate") return leads ? PRICES.upDownbeat : 0;
  if (downbeat) return PRICES.upDownbeat;
  if (main) return style === "Jig pulse" && dotted ? PRICES.upMainInJigPulse : PRICES.upMain;
  return weak ? PRICES.upWeak : 0;
}

/** What it costs to begin the same way again on a note: stopped on the string, or lifted; Infinity where neither is. */
function kindPrice(ground: Ground, i: number, { kind, of, way }: Bow): number {
  if (kind === "plain") return 0;
  const { spots, request } = ground;
  const [spot, before] = [spots[i] as Spot, spots[i - 1]];
  if (!before) return Number.POSITIVE_INFINITY;
  const free = spot.note.rest >= spot.beats.unit && spot.note.rest > 0;
  if (kind === "lift") {
    if (free) return 0;
    if (before.seconds < LIFT_TIME || request.style === "Separate") return Number.POSITIVE_INFINITY;
    if (spot.phrase) return PRICES.liftAtPhrase;
    return before.note.ticks >= 2 * spot.beats.unit ? PRICES.liftAfterHeld : Number.POSITIVE_INFINITY;
  }
  if (spot.note.rest > 0 || request.style === "Separate") return Number.POSITIVE_INFINITY;
  if (isDotted(before.note, spot.note, spot.beats.unit) && of === 1)
    return (PRICES.slur[2] as number) + (before.main ? PRICES.startsOnMain : 0) + TIE.slur + i * TIE.order;
  const last = spots[i + of - 1]?.note;
  // Driven bows go up, off the beat, into the beat they lead to.
  const leads = last !== undefined && near((last.into + last.ticks) % spot.beats.main, 0) && !spot.main;
  if (request.style === "Driven up-bows" && leads && way === "up") return PRICES.drivenHook;
  return spot.main ? PRICES.hookOntoMain : PRICES.hook;
}

/** What a note's bow costs by itself. */
export function herePrice(ground: Ground, i: number, bow: Bow): number {
  const { spots, request } = ground;
  const spot = spots[i] as Spot;
  if (bow.order > 0) return 0;
  const { style } = request;
  const before = spots[i - 1];
  const alone = bow.of === 1 && style !== "Separate" && spot.note.rest === 0 && spot.note.ticks <= spot.beats.unit;
  const held = before !== undefined && before.note.ticks >= 4 * spot.beats.unit;
  const leadIn = style === "Slurred threes" && isLeadIn(spots, i);
  const triplet = isRun(spots, i) && style !== "Separate" && bow.of !== (leadIn ? 4 : 3);
  return (
    slurPrice(ground, i, bow.of) +
    wayPrice(spot, bow.way, style) +
    kindPrice(ground, i, bow) +
    (alone && held ? PRICES.afterHeld : 0) +
    (triplet ? PRICES.openTriplet : 0) +
    (opensRun(ground, i, bow) ? PRICES.openRun : 0) +
    // A lead-in that is slurred into its downbeat takes the downbeat's bow.
    (leadIn && bow.of > 3 && bow.way === "up" ? PRICES.upDownbeat : 0) +
    (i + bow.of === spots.length && bow.way === "up" && style !== "Separate" ? PRICES.finalUp : 0)
  );
}

/** A run that is not taken in one up-bow. */
function opensRun({ spots, request }: Ground, i: number, { of, way }: Bow): boolean {
  const run = request.runs && request.style !== "Separate" ? runFrom(spots, i) : 0;
  return run > 0 && (of !== run || way !== "up");
}

const jointOf = ({ order, kind }: Bow): Joint => {
  if (order > 0) return "slur";
  return kind === "plain" ? "change" : "hook";
};

/** What going from one note's bow to the next one's costs: Infinity for what no bow does. */
export function movePrice({ opens, wanted }: Pick<Spot, "opens" | "wanted">, a: Bow, b: Bow): number {
  const goesOn = b.order > 0;
  const fits = goesOn
    ? a.of === b.of && a.order === b.order - 1 && a.way === b.way
    : a.order === a.of - 1 && (b.kind === "plain") === (a.way !== b.way);
  if (!fits) return Number.POSITIVE_INFINITY;
  const before = opens ? false : a.broke;
  const broke = before || (wanted !== undefined && wanted !== jointOf(b));
  if (broke !== b.broke) return Number.POSITIVE_INFINITY;
  return broke && !before ? PRICES.brokenPattern : 0;
}
