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
import { type AlikeTables, isConflict, type Problem, priceOf, type Solution, solve } from "../search";
import { inKey, keyName, midi, parseChord, pitchName, spell } from "../theory";
import { type Board, boardOf } from "./board";
import { arrangeReason } from "./arrangeReasons";
import { fillsUnder } from "./fills";
import { type Grip, gripName, type GripNote, gripsOf, stopsOf } from "./grips";
import type { ArrangedNote, ArrangedStroke, Moment } from "./moments";
import { gripPriceAt, gripPrices } from "./gripPrices";
import { keptDown } from "./keptDown";

/** What can be made of a tune for one who plays strings. */
export const KINDS = ["melody", "double stops", "melody with chords", "roll"] as const;
export type Kind = (typeof KINDS)[number];

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
const topOf = ({ pitches }: LineNote): number => midi(pitches[pitches.length - 1] as LineNote["pitches"][number]);

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

/**
 * Grips of each moment, no more of them than matter: the cheapest of each place of the melody note. Moments that are
 * alike share one list, so that the moves between them are priced once.
 */
function statesOf(board: Board, kind: Kind, moments: readonly Moment[]): (readonly Grip[])[] {
  const known = knownOf(board);
  const alike = ({ noteNumber, wanted, chord, note: { place } }: Moment) =>
    wanted === 0 ? `${noteNumber}` : `${kind} ${noteNumber} ${wanted} ${chord?.symbol ?? keyName(place.key)}`;
  const bare = moments.map((m) => {
    const found = known.grips.get(alike(m)) ?? waysOf(board, kind, m);
    known.grips.set(alike(m), found);
    return found;
  });
  // An open string leaves the hand wherever it is.
  const places = [...new Set([...new Set(bare)].flat().map((g) => g.place))].filter((p) => p > 0).sort((a, b) => a - b);
  return moments.map((m, i) => {
    const name = `${alike(m)} @ ${places.join()}`;
    const own = bare[i] as readonly Grip[];
    const found =
      known.placed.get(name) ??
      own.flatMap((g) => (g.place > 0 || places.length === 0 ? [g] : places.map((place) => ({ ...g, place }))));
    known.placed.set(name, found);
    return found;
  });
}

/** What is known of a board already, which never changes: grips by moment, with places of the hand, and moves. */
type KnownBoard = {
  grips: Map<string, readonly Grip[]>;
  placed: Map<string, readonly Grip[]>;
  moves: AlikeTables<Grip>;
};
const boards = new WeakMap<Board, KnownBoard>();
/** Lists of grips that are kept for a board: some thirty tunes of different keys. */
const KEPT = 1200;

function knownOf(board: Board): KnownBoard {
  const found = boards.get(board);
  if (found && found.placed.size < KEPT) return found;
  const fresh: KnownBoard = { grips: new Map(), placed: new Map(), moves: new Map() };
  boards.set(board, fresh);
  return fresh;
}

/** Grips of one moment: the melody note wherever it lies, alone or over its neighbours. */
function waysOf(board: Board, kind: Kind, moment: Moment): Grip[] {
  const { noteNumber, wanted } = moment;
  const priced = gripPriceAt(board, moment);
  const grips = stopsOf(board, noteNumber).flatMap(({ string, stop }) => {
    const melody = { string, stop, noteNumber, role: "melody" as const };
    const alone = gripsOf(board, [melody]);
    if (wanted === 0) return alone;
    const over = kind === "double stops" ? doubled(board, moment, melody) : chorded(board, moment, melody);
    const company = over.flatMap((notes) => gripsOf(board, [melody, ...notes]));
    const ranked = company.map((grip) => ({ grip, price: priced(grip) }));
    return [
      ...alone,
      ...ranked
        .sort((a, b) => a.price - b.price)
        .slice(0, MOST_GRIPS)
        .map((p) => p.grip),
    ];
  });
  const known = new Map(grips.map((g) => [gripName(g), g]));
  return [...known.values()];
}
/** Grips of one place of a melody note that are weighed. */
const MOST_GRIPS = 6;

type Bare = Omit<GripNote, "finger">;

/** Notes of the chord on the strings next under the melody's, one to a string, never above it. */
function chorded(board: Board, { chord, noteNumber, wanted }: Moment, melody: Bare): Bare[][] {
  if (!chord) return [];
  const classes = new Set(chord.classes);
  const made: Bare[][] = [];
  let open: Bare[][] = [[]];
  for (let string = melody.string - 1; string >= 0 && made.length < MOST_SHAPES && open.length > 0; string--) {
    const own = board.strings[string];
    if (!own || own.short) break;
    const ways = own.stops
      .map((stop): Bare => ({ string, stop, noteNumber: own.open + stop.semitones, role: "chord" }))
      .filter((n) => classes.has(n.noteNumber % 12) && n.noteNumber <= noteNumber && noteNumber - n.noteNumber !== 1)
      .filter((n) => n.stop.number === 0 || near(n, melody));
    open = open.flatMap((notes) => ways.map((way) => [...notes, way])).slice(0, MOST_SHAPES);
    made.push(...open);
    if (melody.string - string >= wanted) break;
  }
  // The lowest of several is the bass.
  return made.map((notes) => notes.map((n, i): Bare => (i > 0 && i === notes.length - 1 ? { ...n, role: "bass" } : n)));
}
const MOST_SHAPES = 60;
/** Frets a hand can be expected to reach from the melody note. */
const REACH = 6;
const near = (n: Bare, melody: Bare): boolean =>
  melody.stop.number === 0 ? n.stop.number <= REACH : Math.abs(n.stop.number - melody.stop.number) <= REACH;

/** Intervals that sound well together, in semitones: thirds, the fourth and fifth, sixths, the octave, and unisons. */
const SWEET: ReadonlySet<number> = new Set([0, 3, 4, 5, 7, 8, 9, 12, 15, 16]);

/** One note beside the melody's on a neighbouring string: an open string, or one of the chord or the key under it. */
function doubled(board: Board, { chord, noteNumber, note }: Moment, melody: Bare): Bare[][] {
  const inChord = (n: number) => chord?.classes.includes(n % 12) ?? false;
  return [melody.string - 1, melody.string + 1].flatMap((string) => {
    const own = board.strings[string];
    if (!own || own.short) return [];
    return own.stops.flatMap((stop): Bare[][] => {
      const sounding = own.open + stop.semitones;
      const open = stop.number === 0;
      const off = Math.abs(noteNumber - sounding);
      const fits = SWEET.has(off) && (chord ? inChord(sounding) : inScale(note, sounding));
      const below = sounding <= noteNumber;
      // An open string may ring above the melody; a stopped one is a harmony under it.
      if (!fits || (!open && !below) || (!open && !near({ string, stop, noteNumber: sounding, role: "chord" }, melody)))
        return [];
      return [[{ string, stop, noteNumber: sounding, role: open ? "drone" : "chord" }]];
    });
  });
}
const inScale = ({ place }: LineNote, noteNumber: number): boolean => inKey(spell(noteNumber, place.key), place.key);

/** What of a tune an instrument does not have, with a way out, in one sentence for each pitch. */
export function missingWords(board: Board, notes: readonly LineNote[], shift: number): string[] {
  const missing = new Map<number, LineNote[]>();
  for (const n of notes) {
    const sounding = topOf(n) + shift;
    if (stopsOf(board, sounding).length === 0) missing.set(sounding, [...(missing.get(sounding) ?? []), n]);
  }
  return [...missing].map(([sounding, own]) => {
    const first = own[0] as LineNote;
    const bars = [...new Set(own.map((n) => (n.place.pickup ? "the pickup" : `bar ${barLabel(n.place)}`)))];
    const name = pitchName(spell(sounding, first.place.key));
    return `${name} in ${bars.join(", ")} is not played: ${wayOut(board, sounding)}`;
  });
}

/** Half frets that some dulcimers have. Semitones above the open string. */
const HALF_FRETS = [
  { label: "1+", semitones: 3 },
  { label: "8+", semitones: 15 },
];
function wayOut(board: Board, sounding: number): string {
  const { on, level } = board;
  const other = on.tunings.find((t) => {
    const retuned = boardOf({ ...on, strings: t.strings }, level);
    return retuned !== undefined && stopsOf(retuned, sounding).length > 0;
  });
  const half = HALF_FRETS.find((f) => board.fromAbove && board.strings.some((s) => s.open + f.semitones === sounding));
  if (half) return `a fret ${half.label}${other ? ` or the tuning ${other.name}` : ""} has it; so may another key.`;
  if (other) return `the tuning ${other.name} has it; so may another key.`;
  const higher = LEVELS.find((l) => {
    const further = boardOf(on, l);
    return further !== undefined && stopsOf(further, sounding).length > 0;
  });
  if (higher && higher !== level) return `it lies within reach at the level ${higher}; so may another key.`;
  return `the ${on.name} does not have it. Take another key, or the note an octave away.`;
}
