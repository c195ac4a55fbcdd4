import { type Instrument, LEVELS, type Level } from "../instruments";
import {
  barLabel,
  barTicks,
  beatTicks,
  isCompound,
  type LineNote,
  lineNotes,
  type Place,
  QUARTER,
  type SheetChord,
} from "../score";
import { isConflict, type Problem, priceOf, type Solution, solve } from "../search";
import { parseChord } from "../theory";
import { type Board, boardOf } from "./board";
import { arrangeReason } from "./arrangeReasons";
import { fillsUnder } from "./fills";
import { type Grip, type GripNote, stopsOf } from "./grips";
import type { ArrangedNote, ArrangedStroke, Kind, Moment } from "./moments";
import { gripPrices } from "./gripPrices";
import { keptDown } from "./keptDown";
import { missingWords, topOf } from "./missing";
import { knownOf, statesOf } from "./ways";

/** How many notes have a double stop: the first of a bar; beats, never two running; all that the hand can give. */
export const DOUBLINGS = ["single", "alternating", "full"] as const;
export type Doubling = (typeof DOUBLINGS)[number];

/** A note a teacher has settled: what starts `at` ticks into bar `bar` (an index) lies on this string and fret. */
export type FingeringLock = { bar: number; at: number; string: number; fret: string };

export type ArrangeRequest = {
  places: readonly Place[];
  instrument: Instrument;
  kind: Kind;
  level: Level;
  chords?: readonly SheetChord[];
  /** Felt beats a minute. */
  bpm: number;
  locks?: readonly FingeringLock[];
  /** Of double stops; alternating where nothing is said. */
  doubling?: Doubling | undefined;
};

export type Arrangement = {
  /** Semitones the whole sounds off the tune as written: octaves only. */
  shift: number;
  total: number;
  strokes: ArrangedStroke[];
  /** What is not played, each in a sentence with a way out. */
  leftOut: string[];
  /** What else is to be known of it. */
  remarks: string[];
  board: Board;
};

/** Octaves that are tried, the instrument's own first. */
const OCTAVES = [0, 12, -12, 24, -24];

/** The shift by octaves at which an instrument has most of a tune, its own octave before others. */
export function shiftFor(board: Board, notes: readonly LineNote[]): number {
  const own = board.on.transposition;
  const missing = (shift: number) => notes.filter((n) => stopsOf(board, topOf(n) + shift).length === 0).length;
  const tries = OCTAVES.map((o) => own + o);
  return tries.reduce((a, b) => (missing(b) < missing(a) ? b : a));
}

/**
 * A tune arranged for one strung instrument: its notes alone, with double stops, or with chords under them. The melody
 * is complete, on time, and the highest note of every stroke that carries it; what cannot be played is named. Every
 * lock holds; a stated runner-up's cost is exact. Undefined for an instrument without strings.
 */
export function arrange(request: ArrangeRequest): Arrangement | undefined {
  const { instrument, level, places, locks = [] } = request;
  const board = boardOf(instrument, level);
  if (!board) return undefined;
  const all = lineNotes(places);
  const shift = shiftFor(board, all);
  const playable = all.filter((n) => stopsOf(board, topOf(n) + shift).length > 0);
  const wanted = doubledNotes(request, playable);
  const moments = playable.map((note, i) => momentOf(request, note, topOf(note) + shift, playable[i + 1], wanted[i]));
  const leftOut = missingWords(board, all, shift);
  if (moments.length === 0) return { shift, total: 0, strokes: [], leftOut, remarks: [], board };
  const states = statesOf(board, request.kind, moments);
  const settled = new Map(
    locks.flatMap((lock): [number, readonly Grip[]][] => {
      const i = moments.findIndex(({ note }) => note.place.index === lock.bar && note.at - note.place.at === lock.at);
      const own = states[i]?.filter((g) => liesOn(board, g, lock));
      return own && own.length > 0 ? [[i, own]] : [];
    }),
  );
  const { local, moves } = gripPrices(board, moments);
  const problem: Problem<Grip> = {
    states,
    locks: settled,
    local,
    moves,
    alike: { name: (i) => Number((moments[i] as Moment).note.rest > 0), made: knownOf(board).moves },
  };
  const solution = solve(problem);
  if (isConflict(solution)) return { shift, total: 0, strokes: [], leftOut, remarks: [], board };
  const waiting = keptDown(board, solution.path);
  const strokes = moments.flatMap((moment, i): ArrangedStroke[] => {
    const grip = solution.path[i] as Grip;
    const before = solution.path[i - 1];
    const { note } = moment;
    const own: ArrangedStroke = {
      place: note.place,
      at: note.at,
      ticks: note.ticks,
      notes: grip.notes.map((n) => played(board, n)),
      hold: [...new Set([...heldOver(before, grip), ...(waiting[i] ?? [])])].sort(),
      move: moveInto(before, grip),
      reason: arrangeReason(board, moment, grip, before, {
        locked: settled.has(i),
        keep: grip.notes.some((n) => waiting[i + 1]?.includes(n.finger) && !waiting[i]?.includes(n.finger)),
      }),
      locked: settled.has(i),
      alternatives: othersOf(solution, i, grip),
    };
    const fills = request.kind === "melody with chords" ? fillsUnder(board, moment, grip, level) : [];
    return [own, ...fills];
  });
  const remarks = request.kind === "double stops" ? bareWords(moments, solution.path) : [];
  return { shift, total: solution.cost, strokes, leftOut, remarks, board };

  /** Every other place of the melody note, at its exact price. */
  function othersOf(found: Solution<Grip>, i: number, grip: Grip): ArrangedStroke["alternatives"] {
    const open = states[i] as readonly Grip[];
    const own = placeName(grip);
    const lies = new Map<string, { grips: Grip[]; least: number }>();
    open.forEach((state, k) => {
      const name = placeName(state);
      if (name === own) return;
      const known = lies.get(name) ?? { grips: [], least: Number.POSITIVE_INFINITY };
      const price = settled.has(i) ? known.least : (found.marginals[i]?.[k] ?? known.least);
      lies.set(name, { grips: [...known.grips, state], least: Math.min(known.least, price) });
    });
    return [...lies.values()]
      .flatMap(({ grips, least }) => {
        const cost = settled.has(i) ? priceOf(problem, found, i, i, () => grips) : least;
        const [m] = (grips[0] as Grip).notes as [GripNote];
        const { number = 0 } = board?.strings[m.string] ?? {};
        return Number.isFinite(cost) ? [{ string: number, fret: m.stop.label, cost }] : [];
      })
      .sort((a, b) => a.cost - b.cost);
  }
}

/** Where a grip's melody note lies. */
const placeName = ({ notes }: Grip): string => `${notes[0]?.string}:${notes[0]?.stop.label}`;

const liesOn = ({ strings }: Board, { notes }: Grip, { string, fret }: FingeringLock): boolean =>
  strings[notes[0]?.string ?? -1]?.number === string && notes[0]?.stop.label === fret;

const played = ({ strings }: Board, { string, stop, finger, noteNumber, role }: GripNote): ArrangedNote => ({
  string: strings[string]?.number ?? 0,
  fret: stop.label,
  finger,
  noteNumber,
  role,
});

/** Fingers that are on the same string and fret as before. */
function heldOver(before: Grip | undefined, { notes }: Grip): number[] {
  const stays = (n: GripNote) =>
    before?.notes.some((b) => b.string === n.string && b.stop.label === n.stop.label && b.finger === n.finger);
  return [...new Set(notes.filter((n) => n.finger > 0 && stays(n)).map((n) => n.finger))].sort();
}

/** What the hand does between two grips. */
function moveInto(before: Grip | undefined, grip: Grip): ArrangedStroke["move"] {
  if (!before || before.place === 0 || grip.place === 0 || before.place === grip.place) return null;
  const [a, b] = [before.notes[0], grip.notes[0]] as [GripNote, GripNote];
  const slides = a.string === b.string && a.finger === b.finger && a.finger > 0;
  return slides && Math.abs(a.stop.number - b.stop.number) <= SLIDE ? "slide" : "shift";
}
const SLIDE = 2;

/** Onsets quicker than this have two notes at most. Seconds between them. */
const QUICK = 1 / 3;
/** Strings under the melody, by level: how many, on which beats. */
const DENSITY: readonly { strings: number; on: "bar" | "half" | "beat" }[] = [
  { strings: 1, on: "bar" },
  { strings: 1, on: "half" },
  { strings: 2, on: "beat" },
  { strings: 5, on: "beat" },
  { strings: 5, on: "beat" },
];

function momentOf(
  { kind, level, chords = [], bpm, places }: ArrangeRequest,
  note: LineNote,
  noteNumber: number,
  next: LineNote | undefined,
  doubled: boolean | undefined,
): Moment {
  const metre = note.place.metre;
  const second = (bpm * beatTicks(places[0]?.metre ?? metre)) / 60;
  const seconds = ((next?.at ?? note.at + note.ticks) - note.at) / second;
  const into = note.at - note.place.at;
  const symbol = chords.findLast(
    (c) => c.bar < note.place.index || (c.bar === note.place.index && c.at <= into),
  )?.symbol;
  const chord = symbol === undefined ? undefined : (parseChord(symbol) ?? undefined);
  const beat = isCompound(metre) ? beatTicks(metre) : QUARTER;
  const { strings, on } = DENSITY[LEVELS.indexOf(level)] as (typeof DENSITY)[number];
  const every = { bar: barTicks(metre), half: isCompound(metre) ? beat : Math.max(beat, barTicks(metre) / 2), beat }[
    on
  ];
  const falls = every > 0 && note.into % every === 0;
  const most = seconds < QUICK ? 1 : strings;
  // A passing note stands alone.
  const inChord = chord?.classes.includes(noteNumber % 12) === true;
  const wanted = {
    melody: 0,
    "double stops": doubled ? 1 : 0,
    "melody with chords": falls && inChord ? most : 0,
    roll: 0,
  }[kind];
  return { note, noteNumber, chord, wanted, seconds, doubled: doubled === true };
}

/** The notes that are to have a double stop. */
function doubledNotes({ kind, doubling = "alternating" }: ArrangeRequest, notes: readonly LineNote[]): boolean[] {
  let before = false;
  return notes.map(({ place, into }, i) => {
    const beat = isCompound(place.metre) ? beatTicks(place.metre) : QUARTER;
    const wanted = {
      single: into === 0 || (i === 0 && !place.pickup),
      alternating: into % beat === 0 && !before,
      full: true,
    }[doubling];
    before = kind === "double stops" && wanted;
    return before;
  });
}

/** The bars with notes that were to have a double stop and have none under this hand. */
function bareWords(moments: readonly Moment[], path: readonly Grip[]): string[] {
  const bare = moments.filter((m, i) => m.doubled && path[i]?.notes.length === 1).map((m) => m.note.place);
  const bars = [...new Set(bare.map((p) => (p.pickup ? "the pickup" : `bar ${barLabel(p)}`)))];
  if (bars.length === 0) return [];
  const few = bare.length === 1 ? "One note stays single" : `${bare.length} notes stay single`;
  return [`${few}, with nothing beside it that sounds well and lies under the hand: ${bars.join(", ")}.`];
}
