import { chordFingers, type Fret, type Instrument, type Level, spacingOf } from "../instruments";
import { solved } from "../search";
import { type Chord, midi, parseChord, semitoneOf } from "../theory";

/** One string of a chord shape as it is held: its order from the player's lowest course, its fret, what it sounds. */
export type HeldString = { string: number; fret: Fret; noteNumber: number };
/**
 * A chord as a hand holds it: the strings that sound, from the lowest course; what is left out is silent. How many
 * fingers it takes, and over how many strings the first one lies across, 0 where it does not.
 */
export type Shape = { held: HeldString[]; fingers: number; barre: number; cost: number };

/** What makes a shape harder or poorer, in points: teachers' judgement. */
export const SHAPE_PRICES = {
  fret: 0.2,
  finger: 0.5,
  stretch: 0.4,
  silent: 0.8,
  silentFew: 1.7,
  silentTop: 3,
  inner: 6,
  /** Another chord note in the bass, on six strings; where there are fewer the bass is somebody else's. */
  otherBass: 2,
  otherBassFew: 0.4,
  foreignBass: 6,
  thirdMissing: 4,
  fifthMissing: 1,
  seventhMissing: 2.5,
  doubledThird: 0.2,
  barre: 2,
} as const;

/** Semitones up the neck a shape may lie, by how far apart the frets are; and most fingers of a hand. */
const HIGHEST = { long: 4, middle: 4, short: 5, diatonic: 8 };
const MOST_FINGERS = 4;
/** Widest stretch between the lowest and the highest finger, in semitones. */
const WIDEST = 3;
const SIX = 6;
/** Shapes of a chord that are worth choosing between. */
const KEPT = 8;

/** Strings a brush goes over: a short drone string is the thumb's. */
const brushed = (on: Instrument) => on.strings.flatMap((s, string) => (s.shortFrom ? [] : [{ ...s, string }]));

/** Fingers a shape takes: one for each fretted string, or a barre of the first over those on its lowest fret. */
function fingersOf(held: readonly HeldString[]): Pick<Shape, "fingers" | "barre"> {
  const fretted = held.filter((h) => h.fret.semitones > 0);
  const lowest = Math.min(...fretted.map((h) => h.fret.semitones));
  const low = fretted.filter((h) => h.fret.semitones === lowest);
  const [first, last] = [low[0]?.string ?? 0, low.at(-1)?.string ?? 0];
  // A barre stops what lies under it: no open string between.
  const open = held.some((h) => h.string > first && h.string < last && h.fret.semitones === 0);
  const barre = low.length > 1 && !open && fretted.length > MOST_FINGERS;
  if (!barre) return { fingers: fretted.length, barre: 0 };
  return { fingers: fretted.length - low.length + 1, barre: last - first + 1 };
}

/** What a shape costs; Infinity where no hand holds it. */
function shapePrice(held: readonly HeldString[], chord: Chord, over: readonly number[]): number {
  const prices = SHAPE_PRICES;
  const strings = over.length;
  const top = held.some((h) => h.string === over.at(-1));
  const fretted = held.filter((h) => h.fret.semitones > 0).map((h) => h.fret.semitones);
  const stretch = fretted.length > 0 ? Math.max(...fretted) - Math.min(...fretted) : 0;
  const { fingers, barre } = fingersOf(held);
  if (fingers > MOST_FINGERS || stretch > WIDEST || held.length < Math.min(2, strings)) return Number.POSITIVE_INFINITY;
  const sounding = held.map((h) => h.noteNumber % 12);
  const root = semitoneOf(chord.root);
  const [third, fifth, ...more] = chord.classes.filter((c) => c !== root);
  const missing = (c: number | undefined, price: number) => (c === undefined || sounding.includes(c) ? 0 : price);
  const bass = Math.min(...held.map((h) => h.noteNumber)) % 12;
  const wanted = semitoneOf(chord.bass ?? chord.root);
  const gaps = (held.at(-1)?.string ?? 0) - (held[0]?.string ?? 0) + 1 - held.length;
  return (
    fretted.reduce((sum, f) => sum + f, 0) * prices.fret +
    fingers * prices.finger +
    stretch * prices.stretch +
    (strings - held.length) * (strings < SIX ? prices.silentFew : prices.silent) +
    (top ? 0 : prices.silentTop) +
    gaps * prices.inner +
    (bass === wanted ? 0 : bassPrice(bass, chord, strings)) +
    missing(root, prices.thirdMissing) +
    missing(third, prices.thirdMissing) +
    missing(fifth, prices.fifthMissing) +
    more.reduce((sum, c) => sum + missing(c, prices.seventhMissing), 0) +
    (sounding.filter((c) => c === third).length > 1 ? prices.doubledThird : 0) +
    (barre > 0 ? prices.barre : 0)
  );
}
function bassPrice(bass: number, { bass: asked, classes }: Chord, strings: number): number {
  if (strings < SIX) return SHAPE_PRICES.otherBassFew;
  return asked || !classes.includes(bass) ? SHAPE_PRICES.foreignBass : SHAPE_PRICES.otherBass;
}

/** Shapes known already, by their frets, strings and chord: they never change. */
const known = new WeakMap<object, Map<string, Shape[]>>();

/** Strings a half barre lies across at most. */
const HALF = 3;
/** Whether a level's hand holds a shape: fingers enough, and a barre it has learned. */
function isWithin({ fingers, barre }: Shape, level: Level): boolean {
  const most = chordFingers(level);
  const across = { none: 0, half: HALF, full: Number.POSITIVE_INFINITY }[most.barre];
  return fingers <= most.fingers && barre <= across;
}

/**
 * The shapes of a chord on a fretted instrument as it is tuned, worked out from its strings: cheapest first, the
 * eight best that a level holds. Empty where it has no frets, or nothing of the chord lies under the hand.
 */
export function shapesOf(on: Instrument, symbol: string, level: Level = "Leading"): Shape[] {
  const chord = parseChord(symbol);
  if (!chord || !on.frets) return [];
  const own = known.get(on.frets) ?? new Map<string, Shape[]>();
  known.set(on.frets, own);
  const name = `${on.strings.map((s) => `${midi(s.open)}${s.shortFrom ? "s" : ""}`).join(" ")} ${symbol} ${level}`;
  const found = own.get(name) ?? made(on, chord, level);
  own.set(name, found);
  return found;
}

function made(on: Instrument, chord: Chord, level: Level): Shape[] {
  const strings = brushed(on);
  const classes = new Set([...chord.classes, semitoneOf(chord.bass ?? chord.root)]);
  const frets = (on.frets ?? []).filter((f) => f.semitones <= HIGHEST[spacingOf(on)]);
  const ways = strings.map(({ open, string }): (HeldString | null)[] => [
    ...frets.flatMap((fret) => {
      const noteNumber = midi(open) + fret.semitones;
      return classes.has(noteNumber % 12) ? [{ string, fret, noteNumber }] : [];
    }),
    null,
  ]);
  const order = strings.map((s) => s.string);
  let all: HeldString[][] = [[]];
  for (const own of ways) all = all.flatMap((held) => own.map((way) => (way ? [...held, way] : held)));
  return all
    .filter((held) => held.length > 0)
    .map((held): Shape => ({ held, ...fingersOf(held), cost: shapePrice(held, chord, order) }))
    .filter((s) => Number.isFinite(s.cost) && isWithin(s, level))
    .sort((a, b) => a.cost - b.cost)
    .slice(0, KEPT);
}
/** What it costs to change from one shape to another: every finger that comes down anew, and the hand that moves. */
function change(a: Shape, b: Shape): number {
  const at = new Map(a.held.map((h) => [h.string, h.fret.semitones]));
  const placed = b.held.filter((h) => h.fret.semitones > 0 && at.get(h.string) !== h.fret.semitones);
  return placed.length * 0.25;
}

/** A shape for each chord, so that the hand moves as little as it can; null where the instrument has none of it. */
export function shapesFor(on: Instrument, symbols: readonly string[], level?: Level): (Shape | null)[] {
  const states = symbols.map((symbol): (Shape | null)[] => {
    const own = shapesOf(on, symbol, level);
    return own.length > 0 ? own : [null];
  });
  return solved<Shape | null>({
    states,
    local: [{ name: "shape", at: (_, shape) => shape?.cost ?? 0 }],
    moves: [{ name: "change", into: (_, a, b) => (a && b ? change(a, b) : 0) }],
  }).path;
}
