import type { Instrument } from "../instruments";
import { barTicks, beatTicks, type Place, type SheetChord } from "../score";
import { solved } from "../search";
import { type Shape, shapesFor } from "../technique";
import { banjoStrokes } from "./banjo";
import type { Direction, Stroke, StrokeLock, StrokePlan } from "./model";
import { strokeNotes } from "./notes";
import { isFine } from "./spots";
import { type OwnStroke, type StrumStroke, struckStrings } from "./struck";
import { plainGrid, SIGNS, type Strum, strumsFor } from "./strums";

const UNFIT = 3;

export type StrumRequest = {
  places: readonly Place[];
  instrument: Instrument;
  /** The chords that are strummed, each from its place on. */
  chords?: readonly SheetChord[];
  /** A strum by its name; the first that fits where none is asked for. */
  style?: string | undefined;
  /** A grid of one's own, in the place of the library's. */
  grid?: string | undefined;
  /** Small figures under notes the melody holds. */
  fills?: boolean;
  /** Whether a banjo's thumb drops to melody notes between the strokes; without it they are left out. */
  thumb?: boolean;
  locks?: readonly StrokeLock[];
};

/** A stretch under a held note of the melody where a fill has room. Ticks from the start of the tune. */
export type Fill = { place: Place; at: number; ticks: number };

export type StrumPlan = Omit<StrokePlan, "strokes"> & {
  strokes: (Stroke & StrumStroke)[];
  /** Where fills have room, whether they are played or not. */
  room: Fill[];
  /** What of the melody the strum has no place for, in words. */
  leftOut: string[];
};

/**
 * A strum over every bar of a tune, each filled exactly. A pickup has the end of the pattern. Where chords and frets
 * are given, each stroke says which strings it strikes.
 */
export function planStrum(request: StrumRequest): StrumPlan {
  const { places, instrument, style, fills = false, locks = [] } = request;
  const fine = isFine(places);
  const strums = places.map((place) => strumOf(place, fine, request));
  const room = fillRoom(request);
  const plain = withBareStart(
    places.flatMap((place, i) => gridOf(place, strums[i] as Strum)),
    request,
  );
  const filled = fills ? plain.map((s) => withFill(s, room)) : plain;
  const { grid, leftOut } = sounding(filled, strums, request);
  const settled = new Map<number, (Direction | null)[]>();
  for (const { bar, at, direction } of locks) {
    const i = grid.findIndex((s) => s.place.index === bar && s.at - s.place.at === at);
    if (i >= 0 && direction) settled.set(i, [direction]);
  }
  const own = (i: number): Direction | null => wayOf(grid[i] as StrumStroke);
  const ways: readonly (Direction | null)[] = ["down", "up"];
  const solution = solved<Direction | null>({
    states: grid.map((_, i) => (own(i) === null ? [null] : ways)),
    locks: settled,
    local: [{ name: "against the hand", at: (i, way) => (way === own(i) ? 0 : UNFIT) }],
    moves: [],
  });
  const price = (i: number, way: Direction | null) => (way === own(i) ? 0 : UNFIT);
  const strokes = grid.map((here, i): Stroke & StrumStroke => {
    const direction = solution.path[i] ?? null;
    const others = ways.filter((w): w is Direction => w !== null && w !== direction && own(i) !== null);
    const pluck = here.own?.pluck;
    return {
      ...here,
      notes: [],
      direction,
      ...(pluck ? { pluck } : {}),
      retake: false,
      kind: kindOf(here),
      reason: settled.has(i) ? "You set this stroke." : reasonOf(here),
      alternatives: others.map((other) => ({ direction: other, cost: price(i, other) - price(i, direction) })),
      locked: settled.has(i),
    };
  });
  const name = strums.find((s) => s.name === style)?.name ?? strums[0]?.name ?? PLAIN;
  return { style: name, total: solution.cost, strokes, room, leftOut, downbeats: downsOf(strokes) };

  /** The strings of each stroke, and the melody where the strum carries it. */
  function sounding(all: StrumStroke[], by: readonly Strum[], { chords = [], thumb = true }: StrumRequest) {
    const shapes = chordsAt(all, chords, instrument);
    const carried = by.some((s) => s.school) && !request.grid;
    if (!carried) {
      const struck = all.map((s, i) => ({ ...s, struck: struckStrings(s.sign, shapes[i] ?? null, instrument) }));
      return { grid: struck, leftOut: [] };
    }
    const school = by.find((s) => s.school)?.school ?? "down-stroke";
    return banjoStrokes(all, shapes, strokeNotes(places, instrument), instrument, { school, thumb });
  }
}

const PLAIN = "plain brush";
/** The strum of a bar: one's own, the one that was asked for, or the first of its metre. */
function strumOf(place: Place, fine: boolean, { instrument, style, grid }: StrumRequest): Strum {
  const strums = strumsFor(place.metre, instrument.name, fine);
  const own = { name: PLAIN, metre: "", instruments: [], level: 1 };
  if (grid) return { ...own, name: "your own", grid };
  return strums.find((s) => s.name === style) ?? strums[0] ?? { ...own, grid: plainGrid(place.metre) };
}

/** The strokes of one bar: equal steps of its grid, those of a pickup from the end. */
function gridOf(place: Place, { grid, fingers }: Strum): StrumStroke[] {
  const full = barTicks(place.metre) || place.ticks;
  const step = full / grid.length;
  const strokes: StrumStroke[] = [];
  for (let at = 0; at < place.ticks; ) {
    const order = Math.floor((place.offset + at) / step + 1e-9);
    const end = Math.min(place.ticks, Math.round((order + 1) * step) - place.offset);
    const sign = grid[order % grid.length] ?? ".";
    const finger = fingers?.[order % grid.length];
    const own: OwnStroke | undefined = finger ? { kind: "pluck", pluck: finger } : undefined;
    strokes.push({ place, at: place.at + at, ticks: end - at, sign, struck: [], ...(own ? { own } : {}) });
    at = end;
  }
  return strokes;
}

/** The grid without strokes before the first chord: a pickup stays bare. */
function withBareStart(grid: readonly StrumStroke[], { chords = [] }: StrumRequest): StrumStroke[] {
  const first = [...chords].sort((a, b) => a.bar - b.bar || a.at - b.at)[0];
  const before = ({ place, at }: StrumStroke) =>
    first !== undefined && (place.index < first.bar || (place.index === first.bar && at - place.at < first.at));
  return grid.map((s) => (before(s) ? { place: s.place, at: s.at, ticks: s.ticks, sign: ".", struck: [] } : s));
}

/** Times that tell a fill: how long a note is held for one, when it begins and when it stops. Beats. */
const HELD = 1.5;
const FILL = { after: 1, before: 0.5 };

/** Where the melody holds longer than a beat and a half: a beat after it begins, to half a beat before it goes on. */
function fillRoom({ places, instrument }: StrumRequest): Fill[] {
  return strokeNotes(places, instrument).flatMap((note) => {
    const beat = beatTicks(note.place.metre);
    if (note.ticks <= HELD * beat) return [];
    const ticks = note.ticks - (FILL.after + FILL.before) * beat;
    const at = note.at + FILL.after * beat;
    const place = places.findLast((p) => p.at <= at) ?? note.place;
    return ticks > 0 ? [{ place, at, ticks }] : [];
  });
}

/** Most strokes of a fill. */
const MOST = 4;
/** A place of the grid as a fill has it: light, down on the beat and up off it. */
function withFill(stroke: StrumStroke, room: readonly Fill[]): StrumStroke {
  const { place, at, ticks } = stroke;
  const own = room.find((r) => at >= r.at && at + ticks <= r.at + r.ticks && at < r.at + MOST * ticks);
  if (!own) return stroke;
  const order = Math.round((place.offset + at - place.at) / ticks);
  return { ...stroke, sign: order % 2 === 0 ? "d" : "u", fill: true };
}

/** The shape held at each stroke: the hand moves as little as it can from chord to chord. */
function chordsAt(grid: readonly StrumStroke[], chords: readonly SheetChord[], on: Instrument): (Shape | null)[] {
  const order = [...chords].sort((a, b) => a.bar - b.bar || a.at - b.at);
  const shapes = shapesFor(
    on,
    order.map((c) => c.symbol),
  );
  return grid.map(({ place, at }) => {
    const i = order.findLastIndex((c) => c.bar < place.index || (c.bar === place.index && c.at <= at - place.at));
    return shapes[i] ?? null;
  });
}

const isRoll = (sign: string) => /\d/.test(sign);
/** The way the hand goes: by the sign, or by the finger that strikes. */
function wayOf({ sign, own }: StrumStroke): Direction | null {
  if (own?.direction !== undefined) return own.direction;
  if (isRoll(sign)) return own?.pluck === "T" ? "down" : "up";
  return SIGNS[sign]?.direction ?? null;
}
const kindOf = ({ sign, own }: StrumStroke): string => own?.kind ?? SIGNS[sign]?.kind ?? "rest";
/** A brush that is played lightly: by its sign, or because it fills. */
export const isLight = ({ sign, fill }: StrumStroke): boolean => fill === true || SIGNS[sign]?.light === true;

const REASONS: Readonly<Record<string, string>> = {
  bass: "The bass note carries the beat.",
  brush: "A brush over the chord.",
  chop: "A short chop off the beat, to lift the dance.",
  melody: "The melody has this place.",
  thumb: "The thumb string rings between the beats.",
  pluck: "A string of the roll, each finger in its turn.",
  rest: "The hand swings through without striking.",
};
function reasonOf(stroke: StrumStroke): string {
  if (stroke.fill) return "A light fill while the melody holds.";
  return stroke.own?.reason ?? REASONS[stroke.own?.kind ?? ""] ?? REASONS[SIGNS[stroke.sign]?.kind ?? ""] ?? "";
}

/** Downbeats with a stroke, and how many of those go down. */
function downsOf(strokes: readonly Stroke[]) {
  const own = strokes.filter(({ direction, place, at }) => direction !== null && at === place.at && place.offset === 0);
  return { all: own.length, down: own.filter((s) => s.direction === "down").length };
}
