import type { LineNote } from "../score";
import type { AlikeTables } from "../search";
import { inKey, keyName, spell } from "../theory";
import type { Board } from "./board";
import { gripPriceAt } from "./gripPrices";
import { type Grip, gripName, type GripNote, gripsOf, stopsOf } from "./grips";
import type { Kind, Moment } from "./moments";

// Every way a hand can take a moment: the melody note wherever it lies, alone, over its neighbours, or over a chord.

/**
 * Grips of each moment, no more of them than matter: the cheapest of each place of the melody note. Moments that are
 * alike share one list, so that the moves between them are priced once.
 */
export function statesOf(board: Board, kind: Kind, moments: readonly Moment[]): (readonly Grip[])[] {
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

export function knownOf(board: Board): KnownBoard {
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
