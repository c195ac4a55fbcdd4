import { LEVELS } from "../instruments";
import type { LocalCost, MoveCost } from "../search";
import { semitoneOf } from "../theory";
import type { Board } from "./board";
import type { Grip, GripNote } from "./grips";
import type { Moment } from "./moments";

/** What fingering costs, in points: teachers' judgement. */
export const FINGERING_PRICES = {
  shift: 4,
  shiftPerFret: 1,
  /** While an open string sounds, or in a rest. */
  shiftFree: 1.5,
  hop: 3,
  stretch: 2,
  slide: [0, 1.5, 2.5],
  littleFinger: 1,
  crossing: 0.5,
  skipped: 0.7,
  openString: -0.5,
  openBySemitone: 1,
  /** Each fret up the string, where frets lie far apart and close; each fret of the hand beyond first position. */
  height: { far: 0.2, close: 0.12 },
  place: 0.25,
  /** The melody on one of the lowest two strings; off the first course of a dulcimer; on a re-entrant string. */
  lowString: 0.6,
  offCourse: 2,
  reentrant: 1.5,
  /** Strings that are wanted under the melody and are not there: the first two, and the others; one too many. */
  bare: 1.6,
  thin: 0.6,
  /** A note that is to have a double stop and has none. */
  single: 5,
  crowded: 1,
  otherBass: 1.6,
  thirdMissing: 0.7,
  rootMissing: 0.4,
  /** A finger that comes down anew beside the melody's, and one that jumps from string to string. */
  placed: 0.35,
  jumped: 0.5,
  heldDouble: 0.6,
  /** The melody's own pitch once more beside it. */
  unison: 0.5,
} as const;

/** Levels whose little finger is weak, and those that like open strings. */
const WEAK = 2;
const OPEN = 3;

/** What grips cost by themselves at a moment, all in all. */
export function gripPriceAt(board: Board, moment: Moment): (grip: Grip) => number {
  const { local } = gripPrices(board, [moment]);
  return (grip) => local.reduce((sum, c) => sum + c.at(0, grip), 0);
}

/** The named costs of grips over the moments of a tune. */
export function gripPrices(
  board: Board,
  moments: readonly Moment[],
): { local: LocalCost<Grip>[]; moves: MoveCost<Grip>[] } {
  const level = LEVELS.indexOf(board.level) + 1;
  const prices = FINGERING_PRICES;
  const little = board.fromAbove ? 1 : 4;
  const chords = moments.some((m) => m.wanted > 1);
  return {
    local: [
      { name: "stretch", at: (_, { stretch }) => stretch * prices.stretch },
      {
        name: "little finger",
        at: (_, { notes }) => (level <= WEAK && notes.some((n) => n.finger === little) ? prices.littleFinger : 0),
      },
      {
        name: "open string",
        at: (_, { notes }) => (level <= OPEN && notes[0]?.finger === 0 ? prices.openString : 0),
      },
      { name: "height", at: (_, grip) => heightPrice(board, grip) },
      { name: "place of the melody", at: (_, { notes }) => stringPrice(board, chords, notes[0]) },
      { name: "strings under the melody", at: (i, grip) => companyPrice(moments[i] as Moment, grip) },
      { name: "chord", at: (i, grip) => chordPrice(board, moments[i] as Moment, grip) },
    ],
    moves: [
      { name: "shift", into: (i, a, b) => shiftPrice(a, b, (moments[i] as Moment).note.rest > 0) },
      { name: "crossing", into: (_, a, b) => crossingPrice(a, b) },
      { name: "open string by a semitone", into: (_, a, b) => semitonePrice(a, b) },
      { name: "fingers", into: (_, a, b) => fingerPrice(a, b) },
    ],
  };
}

function companyPrice({ wanted, doubled }: Moment, { notes }: Grip): number {
  const company = notes.length - 1;
  if (doubled && company === 0) return FINGERING_PRICES.single;
  const bare = Math.max(0, Math.min(wanted, ENOUGH) - company);
  const thin = Math.max(0, Math.min(wanted, FULL) - Math.max(ENOUGH, company));
  const crowded = Math.max(0, company - wanted);
  return bare * FINGERING_PRICES.bare + thin * FINGERING_PRICES.thin + crowded * FINGERING_PRICES.crowded;
}
/** Strings under the melody that make a chord, and a full one. */
const ENOUGH = 2;
const FULL = 4;

/** Instruments of so many strings have the bass in hand. */
const BASSES = 6;

/** How far up the strings a grip lies. */
function heightPrice({ perFinger, hand }: Board, { notes, place }: Grip): number {
  const each = perFinger > 1 ? FINGERING_PRICES.height.close : FINGERING_PRICES.height.far;
  const first = hand === "frets" ? 1 : 0;
  const beside = notes.slice(1).reduce((sum, n) => sum + n.stop.number, 0) / 2;
  return ((notes[0]?.stop.number ?? 0) + beside) * each + Math.max(0, place - first) * FINGERING_PRICES.place;
}

/** What it costs that the melody lies on a string with little under it, or off a dulcimer's first course. */
function stringPrice({ strings, fromAbove }: Board, chords: boolean, melody: GripNote | undefined): number {
  if (!melody) return 0;
  const above = strings[melody.string + 1];
  // A string that is tuned over its neighbour is there to ring.
  const reentrant = above !== undefined && above.open < (strings[melody.string]?.open ?? 0);
  if (reentrant && !fromAbove) return FINGERING_PRICES.reentrant;
  if (fromAbove) return (strings.length - 1 - melody.string) * FINGERING_PRICES.offCourse;
  return chords && melody.string < 2 ? FINGERING_PRICES.lowString : 0;
}

function chordPrice(board: Board, { chord }: Moment, { notes }: Grip): number {
  if (!chord || notes.length < 2) return 0;
  const sounding = notes.map((n) => n.noteNumber % 12);
  const third = chord.classes[1];
  const lowest = Math.min(...notes.map((n) => n.noteNumber));
  const drone = notes.length === 2 && notes[1]?.finger !== 0;
  return (
    (third === undefined || sounding.includes(third) ? 0 : FINGERING_PRICES.thirdMissing) +
    (sounding.includes(semitoneOf(chord.root)) ? 0 : FINGERING_PRICES.rootMissing) +
    (board.strings.length >= BASSES && notes.length > 2 && lowest % 12 !== semitoneOf(chord.bass ?? chord.root)
      ? FINGERING_PRICES.otherBass
      : 0) +
    (drone ? FINGERING_PRICES.heldDouble : 0) +
    (notes.slice(1).some((n) => n.noteNumber === notes[0]?.noteNumber) ? FINGERING_PRICES.unison : 0)
  );
}

/** A grip without fingers down: its melody note is open, and whatever sounds with it. */
function isOpen({ notes }: Grip): boolean {
  for (let i = 0; i < notes.length; i++) if ((notes[i] as GripNote).finger > 0) return false;
  return true;
}

function shiftPrice(a: Grip, b: Grip, rest: boolean): number {
  if (a.place === b.place) return 0;
  if (isOpen(a) || rest) return FINGERING_PRICES.shiftFree;
  const [from, to] = [a.notes[0], b.notes[0]] as [GripNote, GripNote];
  const frets = Math.abs(from.stop.number - to.stop.number);
  const slides = from.string === to.string && from.finger === to.finger && from.finger > 0;
  const slide = FINGERING_PRICES.slide[frets];
  if (slides && slide !== undefined) return slide;
  return FINGERING_PRICES.shift + Math.abs(a.place - b.place) * FINGERING_PRICES.shiftPerFret;
}

function crossingPrice(a: Grip, b: Grip): number {
  const strings = Math.abs((a.notes[0]?.string ?? 0) - (b.notes[0]?.string ?? 0));
  return strings === 0 ? 0 : FINGERING_PRICES.crossing + (strings - 1) * FINGERING_PRICES.skipped;
}

function semitonePrice(a: Grip, b: Grip): number {
  const [from, to] = [a.notes[0], b.notes[0]] as [GripNote, GripNote];
  const one = Math.abs(from.noteNumber - to.noteNumber) === 1;
  return one && (from.finger === 0) !== (to.finger === 0) ? FINGERING_PRICES.openBySemitone : 0;
}

/** Fingers that hop to another string and fret, and those that come down beside the melody's. */
function fingerPrice(a: Grip, b: Grip): number {
  let sum = 0;
  for (let i = 0; i < b.notes.length; i++) {
    const n = b.notes[i] as GripNote;
    if (n.finger === 0) continue;
    let [stays, hops] = [false, false];
    for (let k = 0; k < a.notes.length; k++) {
      const o = a.notes[k] as GripNote;
      if (o.finger !== n.finger) continue;
      if (o.string === n.string && o.stop.number === n.stop.number) stays = true;
      else if (o.string !== n.string && o.stop.number !== n.stop.number) hops = true;
    }
    if (stays) continue;
    if (i === 0) sum += hops ? FINGERING_PRICES.hop : 0;
    else sum += hops ? FINGERING_PRICES.jumped : FINGERING_PRICES.placed;
  }
  return sum;
}
