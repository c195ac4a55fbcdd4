import { FIDDLE, type Instrument } from "../instruments";
import { barTicks, isCompound, type Place, QUARTER } from "../score";
import { solved } from "../search";
import { beatsOf } from "./metre";
import {
  DIRECTIONS,
  type Direction,
  otherWay,
  type Stroke,
  type StrokeLock,
  type StrokeNote,
  type StrokePlan,
} from "./model";
import { strokeNotes } from "./notes";
import { retakesOf } from "./retakes";

/** The ways of the plectrum, each with what it is for. */
export const PLECTRUMS = [
  { name: "Pulse", says: "down on every felt beat: down-up-down twice in a jig" },
  { name: "Alternate", says: "down and up in turn along the running notes" },
] as const;
export type Plectrum = (typeof PLECTRUMS)[number]["name"];

/** What departures cost, in points: a teacher's judgement. */
export const PLECTRUM_PRICES = { offPattern: 1, inside: 0.3 } as const;

export type PlectrumRequest = {
  places: readonly Place[];
  style: Plectrum;
  instrument?: Instrument;
  locks?: readonly StrokeLock[];
};

/**
 * The hand swings on through ties and rests: each running note of the bar has its way. In dotted metres *Pulse* goes
 * down-up-down in each beat and *Alternate* in turn, beginning anew in each bar; elsewhere both go down on the beat.
 */
function swing({ place, into }: StrokeNote, style: Plectrum): Direction | undefined {
  const compound = isCompound(place.metre);
  const unit = compound ? (4 * QUARTER) / place.metre.unit : QUARTER / 2;
  if (into % unit !== 0) return undefined;
  const order = into / unit;
  const down = compound && style === "Pulse" ? order % 3 !== 1 : order % 2 === 0;
  return down ? "down" : "up";
}

/** The way each note goes by its pattern: the swing of the hand, and in turn where notes are quicker than it. */
function patternOf(notes: readonly StrokeNote[], style: Plectrum): Direction[] {
  const pattern: Direction[] = [];
  notes.forEach((note, i) => {
    const before = notes[i - 1];
    const last = pattern[i - 1];
    const alone = note.place.pickup && note.place.bar.events.length === 1 && !isCompound(note.place.metre);
    const own = alone ? "up" : swing(note, style);
    // Notes quicker than the swing go in turn until the next beat.
    const beat = turnAfter(note, style);
    const quick =
      before !== undefined && before.rest === 0 && sameBeat(before, note, beat) && isQuick(notes, i, beat, style);
    if (quick && last && note.rest === 0) pattern.push(otherWay(last));
    else pattern.push(own ?? (last ? otherWay(last) : "down"));
  });
  return pattern;
}
/** How long quick notes turn the hand: to the next beat; in dotted metres by *Alternate* to the end of the bar. */
function turnAfter({ place: { metre } }: StrokeNote, style: Plectrum): number {
  if (!isCompound(metre)) return QUARTER;
  return style === "Alternate" ? barTicks(metre) : (12 * QUARTER) / metre.unit;
}
const sameBeat = (a: StrokeNote, b: StrokeNote, beat: number) =>
  a.place.index === b.place.index && Math.floor(a.into / beat) === Math.floor(b.into / beat);
/** Whether a note's beat has notes between those of the swing, up to it. */
const isQuick = (notes: readonly StrokeNote[], i: number, beat: number, style: Plectrum): boolean => {
  const own = notes[i] as StrokeNote;
  for (let k = i; k >= 0 && sameBeat(notes[k] as StrokeNote, own, beat); k--) {
    if (swing(notes[k] as StrokeNote, style) === undefined) return true;
  }
  return false;
};

/** Plans the plectrum over a tune: every note a stroke. Every lock holds; a stated runner-up's cost is exact. */
export function planPlectrum({ places, style, instrument = FIDDLE, locks = [] }: PlectrumRequest): StrokePlan {
  const notes = strokeNotes(places, instrument);
  const pattern = patternOf(notes, style);
  const settled = new Map<number, Direction[]>();
  for (const { bar, at, direction } of locks) {
    const i = notes.findIndex((n) => n.place.index === bar && n.at - n.place.at === at);
    if (i >= 0 && direction) settled.set(i, [direction]);
  }
  const rises = (i: number) => (notes[i]?.string ?? 0) > (notes[i - 1]?.string ?? 0);
  const problem = {
    states: notes.map(() => DIRECTIONS),
    locks: settled,
    local: [
      {
        name: "off the pattern",
        at: (i: number, way: Direction) => (way === pattern[i] ? 0 : PLECTRUM_PRICES.offPattern),
      },
    ],
    moves: [
      {
        name: "between the strings",
        into: (i: number, a: Direction, b: Direction) =>
          a === "up" && b === "down" && rises(i) ? PLECTRUM_PRICES.inside : 0,
      },
    ],
  };
  const solution = solved(problem);
  const again = retakesOf(
    notes.map((note, i) => ({ direction: solution.path[i] as Direction, notes: [note] })),
    places,
  );
  const strokes = notes.map((note, i): Stroke => {
    const direction = solution.path[i] as Direction;
    const locked = settled.has(i);
    const other = otherWay(direction);
    const retake = again[i] === true;
    const cost = locked ? lockedCost(i, other) : (solution.marginals[i]?.[DIRECTIONS.indexOf(other)] ?? 0);
    return {
      place: note.place,
      at: note.at,
      ticks: note.ticks,
      notes: [note],
      direction,
      retake,
      kind: retake ? "again" : "pick",
      reason: reasonOf(note, direction, style, { locked, retake, off: direction !== pattern[i] }),
      alternatives: [{ direction: other, cost }],
      locked,
    };
  });
  const isDownbeat = (n: StrokeNote) => n.into % beatsOf(n.place.metre).full === 0;
  const all = strokes.filter((s) => isDownbeat(s.notes[0] as StrokeNote));
  const downbeats = { all: all.length, down: all.filter((s) => s.direction === "down").length };
  return { style, total: solution.cost, strokes, downbeats };

  /** What the plan would cost more were a locked note locked the other way: the same path but for it. */
  function lockedCost(i: number, way: Direction): number {
    const changed = solved({ ...problem, locks: new Map([...settled, [i, [way]]]) });
    return changed.cost - solution.cost;
  }
}

type Told = { locked: boolean; retake: boolean; off: boolean };
function reasonOf(note: StrokeNote, direction: Direction, style: Plectrum, { locked, retake, off }: Told): string {
  if (locked) return `You set this ${direction}-stroke.`;
  if (off) return `A ${direction}-stroke off the pattern, since it lies easier between the strings.`;
  const beat = isCompound(note.place.metre) ? (12 * QUARTER) / note.place.metre.unit : QUARTER;
  const on = note.into % beat === 0;
  if (on && direction === "down") return style === "Pulse" ? "Down on the beat." : "Down, where the hand swings down.";
  if (retake) return `${direction === "down" ? "Down" : "Up"} again: the hand swings through without striking.`;
  return `${direction === "down" ? "Down" : "Up"}, as the hand swings.`;
}
