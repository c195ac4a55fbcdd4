import type { Instrument } from "../instruments";
import { barLabel } from "../score";
import type { Shape } from "../technique";
import { midi, type Pitch } from "../theory";
import type { Direction, StrokeNote } from "./model";
import {
  type LeftHand,
  type OwnStroke,
  rolled,
  type Struck,
  type StrumStroke,
  struckStrings,
  thumbString,
} from "./struck";

type School = "down-stroke" | "up-picking";
/** How the banjo is played: the hand of the school, and whether its thumb drops to the melody. */
type Banjo = { school: School; thumb: boolean };
/** The fingers of each school: which strikes the melody and which way, and which brushes. */
const FINGERS: Readonly<Record<School, { melody: string; way: Direction; brush: string }>> = {
  "down-stroke": { melody: "index", way: "down", brush: "index" },
  "up-picking": { melody: "I", way: "up", brush: "M" },
};

/** Highest fret of the melody in the basic strum; of a dropped thumb, and how far it is from the hand; of a slide. */
const HIGHEST = 12;
const THUMB = { highest: 5, reach: 4 };
const SLIDE = 2;
const HAMMER = 3;
/** A bend wants a string that gives: from this fret on. */
const BEND_FROM = 3;

type Fretted = Struck & { semitones: number };

/** A pitch on each string of the four long ones, from the lowest fret up. The banjo sounds an octave under the page. */
function waysOf(pitch: Pitch, on: Instrument): Fretted[] {
  const sounding = midi(pitch) + on.transposition;
  return on.strings
    .flatMap(({ number, open, shortFrom }): Fretted[] => {
      const semitones = sounding - midi(open);
      const fret = on.frets?.find((f) => f.semitones === semitones);
      if (shortFrom || !fret || semitones > HIGHEST) return [];
      return [{ string: number, fret: fret.label, noteNumber: sounding, semitones }];
    })
    .sort((a, b) => a.semitones - b.semitones);
}

/** What the left hand can do to go on to a pitch on the string that sounds; undefined where it cannot. */
function leftHand(from: Fretted | undefined, pitch: Pitch, on: Instrument): (Fretted & { move: LeftHand }) | undefined {
  const to = from && waysOf(pitch, on).find((w) => w.string === from.string);
  if (!from || !to || to.semitones === from.semitones) return undefined;
  const up = to.semitones - from.semitones;
  if (up < 0) return to.semitones === 0 ? { ...to, move: "pull-off" } : undefined;
  if (from.semitones === 0) return up <= HAMMER ? { ...to, move: "hammer-on" } : undefined;
  if (up === 1 && from.semitones >= BEND_FROM) return { ...to, move: "bend" };
  return up <= SLIDE ? { ...to, move: "slide" } : undefined;
}
const MOVES: Readonly<Record<LeftHand, string>> = {
  slide: "The left hand slides into the note, and the right one rests.",
  "hammer-on": "A left finger hammers the note on, and the right hand rests.",
  "pull-off": "A left finger pulls off to the open string, and the right hand rests.",
  bend: "The string is bent up to the note, and the right hand rests.",
};

type Slot = { stroke: StrumStroke; shape: Shape | null; melody: StrokeNote | undefined };

/**
 * The banjo's basic strum with the melody in it: struck where the pattern has a melody note, in the place of the brush
 * where one begins on it, by the left hand where it follows on the same string, by the thumb otherwise. What has no
 * place is named.
 */
export function banjoStrokes(
  grid: readonly StrumStroke[],
  shapes: readonly (Shape | null)[],
  notes: readonly StrokeNote[],
  on: Instrument,
  { school, thumb }: Banjo,
): { grid: StrumStroke[]; leftOut: string[] } {
  const starts = new Map(notes.map((n) => [n.at, n]));
  const placed = new Set<StrokeNote>();
  let before: Fretted | undefined;
  const struck = grid.map((stroke, i): StrumStroke => {
    const melody = starts.get(stroke.at);
    const made = slotOf({ stroke, shape: shapes[i] ?? null, melody }, before, on, { school, thumb });
    if (melody && made.played) placed.add(melody);
    if (made.played) before = made.played;
    return { ...stroke, struck: made.struck, own: made.own };
  });
  const out = notes.filter((n) => !placed.has(n));
  return { grid: struck, leftOut: leftOutWords(out) };
}

type Made = { struck: readonly Struck[]; own: OwnStroke; played?: Fretted };

function slotOf(slot: Slot, before: Fretted | undefined, on: Instrument, { school, thumb }: Banjo): Made {
  const { stroke, melody } = slot;
  const top = melody?.pitches.at(-1);
  const struckByHand = stroke.sign === "m" || stroke.sign === "D" || stroke.fill === true;
  if (!top) return patternOf(slot, on, school);
  if (struckByHand) return pickedOf(top, on, school) ?? patternOf(slot, on, school);
  const left = leftHand(before, top, on);
  if (left)
    return {
      struck: [left],
      own: { kind: "melody", move: left.move, direction: null, reason: MOVES[left.move] },
      played: left,
    };
  return (thumb ? thumbedOf(top, before, on) : undefined) ?? patternOf(slot, on, school);
}

/** The melody under the finger of the school. */
function pickedOf(pitch: Pitch, on: Instrument, school: School): Made | undefined {
  const [own] = waysOf(pitch, on);
  const { melody, way } = FINGERS[school];
  return own && { struck: [own], own: { kind: "melody", pluck: melody, direction: way }, played: own };
}

/** The thumb dropped to a string under the first, for a melody note between the fingers. */
function thumbedOf(pitch: Pitch, before: Fretted | undefined, on: Instrument): Made | undefined {
  const hand = before?.semitones ?? 0;
  const reached = ({ string, semitones }: Fretted) =>
    string > 1 && (semitones === 0 || (semitones <= THUMB.highest && Math.abs(semitones - hand) <= THUMB.reach));
  const own = waysOf(pitch, on).find(reached);
  const reason = "The thumb drops to the melody between the strokes.";
  return own && { struck: [own], own: { kind: "melody", pluck: "T", direction: "down", reason }, played: own };
}

/** A place without a note of the melody: as the pattern has it, the low string where it wanted one. */
function patternOf({ stroke, shape }: Slot, on: Instrument, school: School): Made {
  const { brush, way, melody } = FINGERS[school];
  const { sign } = stroke;
  if (sign === "m") {
    const low = shape?.held[0];
    const number = low ? (on.strings[low.string]?.number ?? 4) : 4;
    const reason = "The melody holds: the low string keeps the beat.";
    return { struck: rolled(number, shape, on), own: { kind: "bass", pluck: melody, direction: way, reason } };
  }
  if (sign === "T") {
    const thumb = thumbString(on);
    return { struck: thumb ? [thumb] : [], own: { kind: "thumb", pluck: "T", direction: "down" } };
  }
  if (sign === ".") return { struck: [], own: { kind: "rest", direction: null } };
  const closed = struckStrings("U", shape, on);
  return { struck: closed, own: { kind: "brush", pluck: brush, direction: "down" } };
}

/** Bars whose notes the strum has no place for, in one sentence. */
function leftOutWords(out: readonly StrokeNote[]): string[] {
  if (out.length === 0) return [];
  const bars = [...new Set(out.map((n) => barLabel(n.place)))];
  const many = out.length === 1 ? "One melody note is" : `${out.length} melody notes are`;
  return [`${many} between the strokes or out of reach, and left out: bar ${bars.join(", ")}.`];
}
