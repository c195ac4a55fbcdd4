import { barLabel, barTicks, type LineNote, lineNotes, type Place, QUARTER } from "../score";
import { type Problem, priceOf, type Solution, solved } from "../search";
import { midi } from "../theory";
import { type Arrangement, type ArrangeRequest, shiftFor } from "./arrange";
import { missingWords } from "./missing";
import { type Board, boardOf } from "./board";
import { stopsOf } from "./grips";
import type { ArrangedStroke } from "./moments";
import { PLUCKS, ROLLS } from "./rolls";
import { type Shape, shapesFor } from "./shapes";

/** One place of the roll: a note of the melody, or a string between. */
type Slot = {
  place: Place;
  at: number;
  ticks: number;
  note: LineNote | undefined;
  wanted: number;
  shape: Shape | null;
};
/** A string plucked by a finger of the right hand. */
type Pluck = { string: number; fret: string; number: number; noteNumber: number; pluck: string };

/** What departures of a roll cost, in points: teachers' judgement. */
export const ROLL_PRICES = { height: 0.12, otherString: 0.5, againString: 1, cutsMelody: 3, otherFinger: 0.2 } as const;

const EIGHTH = QUARTER / 2;
/** The roll a bar of so many eighths goes by. */
const rollFor = (eighths: number) =>
  ROLLS.find((r) => r.strings.length === eighths) ?? (ROLLS[0] as (typeof ROLLS)[number]);

/**
 * A tune as a roll on the five-string banjo: a string on every eighth, the melody where its notes begin, the others
 * between, by the pattern where they can be; no finger twice running, and no string cut that the melody rings on. Notes
 * between the eighths are named. Undefined for an instrument without a short string.
 */
export function rolled(request: ArrangeRequest): Arrangement | undefined {
  const { places, instrument, level, chords = [], locks = [] } = request;
  const board = boardOf(instrument, level);
  if (!board?.strings.some((s) => s.short)) return undefined;
  const all = lineNotes(places);
  const shift = shiftFor(board, all);
  const slots = slotsOf(board, places, all, shift, chords);
  const states = slots.map((slot) => plucksOf(board, slot, shift));
  const ringing = ringingAt(slots, states);
  const settled = new Map(
    locks.flatMap((lock): [number, readonly Pluck[]][] => {
      const i = slots.findIndex((s) => s.note && s.place.index === lock.bar && s.at - s.place.at === lock.at);
      const own = states[i]?.filter((p) => board.strings[p.string]?.number === lock.string && p.fret === lock.fret);
      return own && own.length > 0 ? [[i, own]] : [];
    }),
  );
  const problem: Problem<Pluck> = {
    states,
    locks: settled,
    local: [
      { name: "height", at: (i, p) => (slots[i]?.note ? p.number * ROLL_PRICES.height : 0) },
      { name: "off the roll", at: (i, p) => offRoll(board, slots[i] as Slot, p) },
      {
        name: "the melody cut",
        at: (i, p) => (!slots[i]?.note && ringing[i]?.has(p.string) ? ROLL_PRICES.cutsMelody : 0),
      },
    ],
    moves: [{ name: "the string again", into: (_, a, b) => (a.string === b.string ? ROLL_PRICES.againString : 0) }],
    moveLimits: [{ name: "a finger twice running", broken: (_, a, b) => a.pluck === b.pluck }],
  };
  const solution = solved(problem);
  const strokes = slots.map((slot, i) => strokeOf(board, slot, solution.path[i] as Pluck, settled.has(i), others(i)));
  const placed = new Set(slots.flatMap((s) => s.note ?? []));
  const between = all.filter((n) => !placed.has(n) && stopsOf(board, topOf(n) + shift).length > 0);
  const leftOut = [...missingWords(board, all, shift), ...betweenWords(between)];
  return { shift, total: solution.cost, strokes, leftOut, remarks: [], board };

  /** Other places of a melody note, at their exact price. */
  function others(i: number): ArrangedStroke["alternatives"] {
    if (!slots[i]?.note) return [];
    const own = solution.path[i] as Pluck;
    return otherPlaces(board as Board, problem, solution, i, own);
  }
}

function otherPlaces(
  board: Board,
  problem: Problem<Pluck>,
  solution: Solution<Pluck>,
  i: number,
  own: Pluck,
): ArrangedStroke["alternatives"] {
  const open = problem.states[i] as readonly Pluck[];
  const names = new Set(open.map((p) => p.string).filter((s) => s !== own.string));
  return [...names]
    .map((string) => {
      const plucks = open.filter((p) => p.string === string);
      const cost = priceOf(problem, solution, i, i, () => plucks);
      return { string: board.strings[string]?.number ?? 0, fret: plucks[0]?.fret ?? "0", cost };
    })
    .filter((a) => Number.isFinite(a.cost))
    .sort((a, b) => a.cost - b.cost);
}

const topOf = ({ pitches }: LineNote): number => midi(pitches.at(-1) as LineNote["pitches"][number]);

function slotsOf(
  board: Board,
  places: readonly Place[],
  notes: readonly LineNote[],
  shift: number,
  chords: NonNullable<ArrangeRequest["chords"]>,
): Slot[] {
  const starts = new Map(notes.filter((n) => stopsOf(board, topOf(n) + shift).length > 0).map((n) => [n.at, n]));
  const order = [...chords].sort((a, b) => a.bar - b.bar || a.at - b.at);
  const shapes = shapesFor(
    board.on,
    order.map((c) => c.symbol),
  );
  return places.flatMap((place) => {
    const full = barTicks(place.metre) || place.ticks;
    const { strings } = rollFor(Math.round(full / EIGHTH));
    const slots: Slot[] = [];
    for (let at = 0; at < place.ticks; ) {
      const into = place.offset + at;
      const next = Math.min(place.ticks, (Math.floor(into / EIGHTH) + 1) * EIGHTH - place.offset);
      const chord = order.findLastIndex((c) => c.bar < place.index || (c.bar === place.index && c.at <= at));
      const wanted = Number(strings[Math.floor(into / EIGHTH) % strings.length]);
      const note = starts.get(place.at + at);
      slots.push({ place, at: place.at + at, ticks: next - at, note, wanted, shape: shapes[chord] ?? null });
      at = next;
    }
    return slots;
  });
}

/** Every string and finger a slot can be plucked with. */
function plucksOf(board: Board, { note, shape }: Slot, shift: number): Pluck[] {
  const fingers = (string: number) => PLUCKS[board.strings[string]?.number ?? 0] ?? ["T", "I"];
  if (note) {
    const noteNumber = topOf(note) + shift;
    return stopsOf(board, noteNumber).flatMap(({ string, stop }) =>
      fingers(string).map((pluck) => ({ string, fret: stop.label, number: stop.number, noteNumber, pluck })),
    );
  }
  return board.strings.flatMap(({ open, short }, string) => {
    const held = short ? undefined : shape?.held.find((h) => h.string === string);
    const [fret, number] = held ? [held.fret.label, held.fret.semitones] : ["0", 0];
    return fingers(string).map((pluck) => ({ string, fret, number, noteNumber: open + number, pluck }));
  });
}

/** The string the melody note before a slot may ring on, where it is still held. */
function ringingAt(slots: readonly Slot[], states: readonly (readonly Pluck[])[]): ReadonlySet<number>[] {
  let last: { until: number; strings: ReadonlySet<number> } = { until: -1, strings: new Set() };
  return slots.map((slot, i) => {
    if (slot.note) {
      const lowest = [...(states[i] ?? [])].sort((a, b) => a.number - b.number)[0];
      last = { until: slot.at + slot.note.ticks, strings: new Set(lowest ? [lowest.string] : []) };
    }
    return slot.at < last.until ? last.strings : new Set<number>();
  });
}

function offRoll(board: Board, { note, wanted }: Slot, { string, pluck }: Pluck): number {
  const { number = 0 } = board.strings[string] ?? {};
  const usual = PLUCKS[number]?.[0];
  const finger = usual === undefined || usual === pluck ? 0 : ROLL_PRICES.otherFinger;
  return finger + (note || number === wanted ? 0 : ROLL_PRICES.otherString);
}

/** Left fingers by fret in first position; farther up the first finger leads. */
const leftFinger = (number: number): number => (number <= 4 ? number : 1);

function strokeOf(
  board: Board,
  { place, at, ticks, note }: Slot,
  { string, fret, number, noteNumber, pluck }: Pluck,
  locked: boolean,
  alternatives: ArrangedStroke["alternatives"],
): ArrangedStroke {
  const own = board.strings[string];
  const between = own?.short ? "drone" : "fill";
  const role = note ? "melody" : between;
  const who = { T: "thumb", I: "index finger", M: "middle finger" }[pluck] ?? pluck;
  const what = note ? "The melody has this place" : "A string of the roll";
  return {
    place,
    at,
    ticks,
    notes: [{ string: own?.number ?? 0, fret, finger: leftFinger(number), noteNumber, role }],
    hold: [],
    move: null,
    pluck,
    reason: `${locked ? "You set this. " : ""}${what}, under the ${who}.`,
    locked,
    alternatives,
  };
}

function betweenWords(notes: readonly LineNote[]): string[] {
  if (notes.length === 0) return [];
  const bars = [...new Set(notes.map((n) => (n.place.pickup ? "the pickup" : `bar ${barLabel(n.place)}`)))];
  const many = notes.length === 1 ? "One note falls" : `${notes.length} notes fall`;
  return [`${many} between the eighths of the roll, in ${bars.join(", ")}: play them plainly, or take another kind.`];
}
