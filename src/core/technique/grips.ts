import { chordFingers } from "../instruments";
import { type Board, BOWED_FINGERS, bowedPlaces, spanAt, type Stop } from "./board";

export const ROLES = ["melody", "chord", "bass", "fill", "drone"] as const;
export type NoteRole = (typeof ROLES)[number];

/** One string of a grip: its order from the player's lowest course, where it is stopped, by which finger (0 open). */
export type GripNote = { string: number; stop: Stop; finger: number; noteNumber: number; role: NoteRole };
/**
 * What a hand holds for one stroke: the melody note first, then what sounds with it; where the hand lies (the fret of
 * its first finger), and by how much its fingers leave their own frets.
 */
export type Grip = { notes: readonly GripNote[]; place: number; stretch: number };

type Bare = Omit<GripNote, "finger">;

/** The finger that looks after a fret when the first one is on `place`, from 1; and how far it has to leave its own. */
function naturalFinger({ hand, perFinger }: Board, number: number, place: number): { finger: number; off: number } {
  if (hand === "frets") {
    const own = Math.floor((number - place) / perFinger) + 1;
    return { finger: Math.min(4, own), off: Math.max(0, (own - 4) * perFinger) };
  }
  const own = BOWED_FINGERS[hand][number - place];
  return own === undefined ? { finger: 4, off: Number.POSITIVE_INFINITY } : { finger: own, off: 0 };
}
/** Where the first finger may lie for a stopped note, lowest first. */
function placesFor(board: Board, { number }: Stop): number[] {
  if (board.hand !== "frets") {
    const reach = BOWED_FINGERS[board.hand].length;
    return bowedPlaces(board.level).filter((p) => number - p >= 1 && number - p < reach);
  }
  const widest = 4 * board.perFinger;
  const all = Array.from({ length: widest + 1 }, (_, i) => Math.floor(number) - i);
  return all.filter((p) => (board.fromAbove ? p >= 1 : PLACES.has(p)));
}
/** Frets the first finger settles on: those of first position, then where necks are marked and scales turn. */
const PLACES: ReadonlySet<number> = new Set([1, 2, 3, 4, 5, 7, 9, 10, 12, 14]);

/** Fingers for stopped notes with the hand at a place: in the order of their frets; undefined where none fit. */
function fingered(board: Board, notes: readonly Bare[], place: number): Grip | undefined {
  const stopped = notes.filter((n) => n.stop.number > 0);
  const numbers = stopped.map((n) => n.stop.number);
  const [low, high] = [Math.min(...numbers), Math.max(...numbers)];
  if (stopped.length > 0 && (low < place || high - low > spanAt(board, low))) return undefined;
  const { fingers: most, barre } = chordFingers(board.level);
  // Of two on one fret the higher-pitched string has the higher finger.
  const order = [...stopped].sort((a, b) => a.stop.number - b.stop.number || a.noteNumber - b.noteNumber);
  const taken = new Map<Bare, number>();
  let [last, stretch] = [0, 0];
  for (const [i, note] of order.entries()) {
    const { finger, off } = naturalFinger(board, note.stop.number, place);
    const before = order[i - 1];
    const across = before !== undefined && canLieAcross(board, before, note, notes, barre === "full");
    const own = across && last === finger ? last : Math.max(finger, last + 1);
    const left = order.slice(i + 1).filter((n) => n.stop.number > note.stop.number).length;
    const fits = Math.min(own, Math.max(last + (across ? 0 : 1), 4 - left));
    if (fits > 4 || off === Number.POSITIVE_INFINITY) return undefined;
    stretch += off;
    taken.set(note, fits);
    last = fits;
  }
  if (new Set(taken.values()).size > most) return undefined;
  const named = notes.map((n): GripNote => ({ ...n, finger: turned(board, taken.get(n) ?? 0) }));
  return { notes: named, place: stopped.length > 0 ? place : 0, stretch };
}
/** Over a dulcimer the hand comes from above: its fingers run the other way. */
const turned = ({ fromAbove }: Board, finger: number): number => (fromAbove && finger > 0 ? 5 - finger : finger);

/** Whether one finger stops two strings: neighbours on one fret, nothing open between. */
function canLieAcross(board: Board, a: Bare, b: Bare, all: readonly Bare[], barre: boolean): boolean {
  const same = a.stop.number === b.stop.number;
  const neighbours = Math.abs(a.string - b.string) === 1;
  const lowest = all.every((n) => n.stop.number === 0 || n.stop.number >= a.stop.number);
  return same && neighbours && (barre ? lowest : board.perFinger > 1 && lowest);
}

/** Every way to stop a pitch: string and fret, lowest fret first. */
export function stopsOf({ strings }: Board, noteNumber: number): { string: number; stop: Stop }[] {
  return strings
    .flatMap(({ open, stops, melody }, string) => {
      const stop = !melody ? undefined : stops.find((s) => s.semitones === noteNumber - open);
      return stop ? [{ string, stop }] : [];
    })
    .sort((a, b) => a.stop.number - b.stop.number);
}

/** Every grip for notes on strings that are known: one for each place of the hand that can hold them. */
export function gripsOf(board: Board, notes: readonly Bare[]): Grip[] {
  const stopped = notes.filter((n) => n.stop.number > 0);
  const [lowest] = [...stopped].sort((a, b) => a.stop.number - b.stop.number);
  if (!lowest) return [{ notes: notes.map((n) => ({ ...n, finger: 0 })), place: 0, stretch: 0 }];
  return placesFor(board, lowest.stop).flatMap((place) => fingered(board, notes, place) ?? []);
}

/** What a grip is called, to lock it and to tell it from others: its melody's string and fret, and all it holds. */
export const gripName = ({ notes, place }: Grip): string =>
  `${notes.map((n) => `${n.string}:${n.stop.label}:${n.finger}`).join(" ")} @${place}`;
