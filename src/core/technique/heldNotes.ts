import type { Instrument } from "../instruments";
import { chord, chordNoteName, midi, parseClass, type Pitch, pitchName } from "../theory";
import { firstPosition, type Placement } from "./hand";
import type { Planner } from "./planner";

/**
 * A chord to be held under the tune: its symbol, whether its notes are too quick to change, and for how long it
 * lasts.
 */
export type HeldMoment = { symbol: string; hurried: boolean };

/** A note under the hand, or a rest where the instrument has none of the chord's notes in first position. */
export type HeldNote = { pitch: Pitch; placement: Placement } | null;

/**
 * Points for what a beginner must do. Open strings are free, the first finger is nearly so, later fingers only where
 * nothing else fits.
 */
const FINGER = [0, 0.35, 4, 6, 9];
const LOW_FIRST = 1.2;
const CHORD_NOTE: ReadonlyMap<string, number> = new Map([
  ["root", 0],
  ["fifth", 0.25],
  ["third", 0.45],
]);
const OTHER_NOTE = 1.5;
const CROSSING = 0.3;
const JUMP = 0.9;
/** A new note for less than half a bar: too quick, where the chords have a note in common. */
const HURRY = 1.6;
/** More than any note in reach can cost. */
const REST = 40;
const OCTAVES = [1, 2, 3, 4, 5, 6];

/** Every chord note that lies in first position, or on an instrument without strings in range. */
function reachable(symbol: string, on: Instrument): HeldNote[] {
  const tones = chord(symbol).tones.map(parseClass);
  return OCTAVES.flatMap((octave) => tones.map((tone): Pitch => ({ ...tone, octave }))).flatMap((pitch) => {
    const number = midi(pitch);
    const inRange = number >= midi(on.lowest) && number <= midi(on.highest);
    const placement = on.strings.length > 0 ? firstPosition(on, number) : { string: 0, finger: 0, low: false };
    return inRange && placement ? [{ pitch, placement }] : [];
  });
}

const fingerPoints = ({ finger, low }: Placement) => (FINGER[finger] as number) + (finger === 1 && low ? LOW_FIRST : 0);
const crossing = (strings: number) => CROSSING * strings + (strings > 1 ? JUMP : 0);

/**
 * One long note to each chord for someone in their first weeks: open strings or first finger wherever the chord has
 * one, as few string crossings as can be, and a note that quick chords share held through them.
 */
export const HELD_NOTES: Planner<HeldMoment, HeldNote> = {
  name: "held notes",
  ways: ({ symbol }, on) => [...reachable(symbol, on), null],
  wayName: (note) => (note ? pitchName(note.pitch) : "rest"),
  costs: (moments) => [
    { name: "a rest", at: (_, note) => (note ? 0 : REST) },
    { name: "finger", at: (_, note) => (note ? fingerPoints(note.placement) : 0) },
    {
      name: "chord note",
      at: (i, note) => {
        const name = note && chordNoteName(chord(moments[i]?.symbol as string), midi(note.pitch));
        return note ? (CHORD_NOTE.get(name ?? "") ?? OTHER_NOTE) : 0;
      },
    },
  ],
  moves: (moments) => [
    {
      name: "string crossing",
      into: (_, a, b) => (a && b ? crossing(Math.abs(a.placement.string - b.placement.string)) : 0),
    },
    {
      name: "hurry",
      into: (i, a, b) => (a && b && midi(a.pitch) !== midi(b.pitch) && moments[i]?.hurried ? HURRY : 0),
    },
  ],
};
