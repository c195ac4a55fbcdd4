import { barTicks, type Metre, metreName, type Place, QUARTER } from "../score";
import { solved } from "../search";
import type { Direction, Stroke, StrokeLock, StrokePlan } from "./model";

/**
 * A strum: a grid over one bar, each sign an eighth of the bar as named. B bass, b the fifth of the chord, D and U
 * brushes, d and u light ones, x a chop, m the melody, T the thumb string, . nothing.
 */
export type Strum = { name: string; grid: string; metre: string; instruments: readonly string[]; level: number };

const strum = (grid: string, metre: string, name: string, instruments: string, level: number): Strum => ({
  name,
  grid,
  metre,
  instruments: instruments ? instruments.split(", ") : [],
  level,
});

/** The library, by teachers' judgement; an empty list of instruments is for any of them. */
export const STRUMS: readonly Strum[] = [
  strum("B.D.", "2/4", "bass and brush", "guitar", 1),
  strum("B.D.b.D.", "4/4", "song bass", "guitar", 2),
  strum("B.DUb.DU", "4/4", "reel bass", "guitar", 3),
  strum("D.DU.UDU", "4/4", "island", "ukulele, four-string lute", 3),
  strum("DudUduDu", "4/4", "three-three-two", "", 4),
  strum("..x...x.", "4/4", "off-beat chop", "mandolin, octave mandola, tenor banjo", 2),
  strum("D.DUD.DU", "4/4", "dulcimer reel", "mountain dulcimer", 1),
  strum("m.DTm.DT", "4/4", "basic strum", "five-string banjo", 1),
  strum("B.D.D.", "3/4", "waltz bass", "guitar", 1),
  strum("B.DUDU", "3/4", "rolling waltz", "", 3),
  strum("m.DTDT", "3/4", "three-time basic strum", "five-string banjo", 1),
  strum("B...D.", "3/4", "ring dance", "", 2),
  strum("B.db.d", "6/8", "jig bass", "guitar", 2),
  strum("DudDud", "6/8", "jig brush", "", 3),
  strum("D.dD.dD.d", "9/8", "slip jig brush", "", 2),
  strum("D.DU", "2/4", "polka brush", "", 1),
  strum("D.D.D.D.", "4/4", "plain brush", "", 1),
  strum("D.D.D.", "3/4", "plain waltz", "", 1),
  strum("D.dD.d", "6/8", "plain jig", "", 1),
  strum("D.dD.dD.dD.d", "12/8", "slide brush", "", 2),
];

/** What each sign is: its kind and the way the hand goes. */
const SIGNS: Readonly<Record<string, { kind: string; direction: Direction | null; light?: true }>> = {
  B: { kind: "bass", direction: "down" },
  b: { kind: "bass", direction: "down" },
  D: { kind: "brush", direction: "down" },
  U: { kind: "brush", direction: "up" },
  d: { kind: "brush", direction: "down", light: true },
  u: { kind: "brush", direction: "up", light: true },
  x: { kind: "chop", direction: "down" },
  m: { kind: "melody", direction: "down" },
  T: { kind: "thumb", direction: "down" },
  ".": { kind: "rest", direction: null },
};

const NAMED: Readonly<Record<string, string>> = { "2/2": "4/4", "3/8": "6/8" };
/** The metre a bar is strummed as: by its name, or by what its beats divide into. */
const strummedAs = (metre: Metre): string => NAMED[metreName(metre)] ?? metreName(metre);

/** Strums of a metre for an instrument, those made for it first, then the easiest. */
export function strumsFor(metre: Metre, instrument: string): Strum[] {
  const own = STRUMS.filter((s) => s.metre === strummedAs(metre));
  const made = (s: Strum) => s.instruments.some((i) => instrument.includes(i));
  return own
    .filter((s) => s.instruments.length === 0 || made(s))
    .sort((a, b) => Number(made(b)) - Number(made(a)) || a.level - b.level);
}

/** A bar of plain down-brushes on its beats, for metres the library has no strum for. */
function plainGrid(ticks: number): string {
  const eighths = Math.max(1, Math.ceil(ticks / (QUARTER / 2)));
  return Array.from({ length: eighths }, (_, i) => (i % 2 === 0 ? "D" : ".")).join("");
}

const UNFIT = 3;

type StrumRequest = {
  places: readonly Place[];
  instrument: string;
  /** A strum by its name; the first that fits where none is asked for. */
  style?: string | undefined;
  locks?: readonly StrokeLock[];
};

/** One stroke of a strum: ticks from the start of the tune, and its sign. */
export type StrumStroke = { place: Place; at: number; ticks: number; sign: string };

/** A strum over every bar of a tune, each filled exactly. A pickup has the end of the pattern. */
export function planStrum(request: StrumRequest): StrokePlan & { grid: StrumStroke[] } {
  const { places, instrument, style, locks = [] } = request;
  const grid = places.flatMap((place) => gridOf(place, instrument, style));
  const settled = new Map<number, (Direction | null)[]>();
  for (const { bar, at, direction } of locks) {
    const i = grid.findIndex((s) => s.place.index === bar && s.at - s.place.at === at);
    if (i >= 0) settled.set(i, [direction]);
  }
  const own = (i: number) => SIGNS[(grid[i] as StrumStroke).sign] as (typeof SIGNS)[string];
  const ways: readonly (Direction | null)[] = ["down", "up"];
  const problem = {
    states: grid.map((_, i) => (own(i).direction === null ? [null] : ways)),
    locks: settled,
    local: [
      { name: "against the hand", at: (i: number, way: Direction | null) => (way === own(i).direction ? 0 : UNFIT) },
    ],
    moves: [],
  };
  const solution = solved<Direction | null>(problem);
  const strokes = grid.map((_, i): Stroke => {
    const direction = solution.path[i] ?? null;
    const { kind, light } = own(i);
    const others = ways.filter((w): w is Direction => w !== null && w !== direction && own(i).direction !== null);
    const pluck = /banjo/.test(instrument) ? PLUCKS[kind] : undefined;
    return {
      notes: [],
      direction,
      ...(pluck ? { pluck } : {}),
      retake: false,
      kind: light ? `light ${kind}` : kind,
      reason: settled.has(i) ? "You set this stroke." : (REASONS[kind] ?? ""),
      alternatives: others.map((other) => ({
        direction: other,
        cost: (other === own(i).direction ? 0 : UNFIT) - (direction === own(i).direction ? 0 : UNFIT),
      })),
      locked: settled.has(i),
    };
  });
  const name =
    style ?? (places[0] ? (strumsFor(places[0].metre, instrument)[0]?.name ?? "plain brush") : "plain brush");
  return { style: name, total: solution.cost, strokes, grid, downbeats: { down: 0, all: 0 } };
}

/** The finger that strikes on a banjo, in the down-stroke school: the nail of the index, and the thumb. */
const PLUCKS: Readonly<Record<string, string>> = { melody: "index", brush: "index", thumb: "T" };

const REASONS: Readonly<Record<string, string>> = {
  bass: "The bass note carries the beat.",
  brush: "A brush over the chord.",
  chop: "A short chop off the beat, to lift the dance.",
  melody: "The melody has this place.",
  thumb: "The thumb string rings between the beats.",
  rest: "The hand swings through without striking.",
};

/** The strokes of one bar: equal steps of its grid, those of a pickup from the end. */
function gridOf(place: Place, instrument: string, style: string | undefined): StrumStroke[] {
  const strums = strumsFor(place.metre, instrument);
  const chosen = strums.find((s) => s.name === style) ?? strums[0];
  const full = barTicks(place.metre) || place.ticks;
  const grid = chosen?.grid ?? plainGrid(full);
  const step = full / grid.length;
  const strokes: StrumStroke[] = [];
  for (let at = 0; at < place.ticks; ) {
    const into = place.offset + at;
    const order = Math.floor(into / step + 1e-9);
    const end = Math.min(place.ticks, (order + 1) * step - place.offset);
    strokes.push({ place, at: place.at + at, ticks: end - at, sign: grid[order % grid.length] ?? "." });
    at = end;
  }
  return strokes;
}
