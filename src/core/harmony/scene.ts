import type { ChordPlan } from "../chords";
import { beatTicks, type Place, type Timed, timeline } from "../score";
import { type Chord, diatonic, midi, parseChord, type Pitch } from "../theory";
import type { Scene } from "./schools";

/** A melody note with its ties joined, and all the schools want to know about it. */
export type MelodyNote = Scene & {
  first: Timed;
  events: readonly Timed[];
  at: number;
  ticks: number;
  /** MIDI number and staff position of the melody. */
  sound: number;
  position: number;
  /** Sounds on a felt beat, at its start or held over it. */
  onBeat: boolean;
};

/** Joins tied notes; rests come as lists of one with no melody. */
export function joined(from: readonly Place[]): Timed[][] {
  const groups: Timed[][] = [];
  for (const timed of timeline(from)) {
    const last = groups[groups.length - 1];
    if (last?.[last.length - 1]?.event.tie && timed.event.pitches.length > 0) last.push(timed);
    else groups.push([timed]);
  }
  return groups;
}

/** The chord in force at each moment of the tune, by a plan. */
export function chordAt(plan: ChordPlan, from: readonly Place[]): (at: number) => Chord | null {
  const spans = plan.chords.map((c) => ({ at: (from[c.bar] as Place).at + c.at, ticks: c.ticks, chord: parseChord(c.symbol) }));
  return (at) => {
    let [low, high] = [0, spans.length - 1];
    while (low <= high) {
      const middle = (low + high) >> 1;
      const span = spans[middle] as (typeof spans)[number];
      if (at < span.at) high = middle - 1;
      else if (at >= span.at + span.ticks) low = middle + 1;
      else return span.chord;
    }
    return null;
  };
}

/** Every melody note as the schools see it. The highest note of a double stop is the melody. */
export function melodyNotes(from: readonly Place[], plan: ChordPlan, side: Scene["side"], phraseEnds: ReadonlySet<number>): MelodyNote[] {
  const chords = chordAt(plan, from);
  const notes = joined(from).filter((g) => (g[0] as Timed).event.pitches.length > 0);
  return notes.map((events, i) => {
    const first = events[0] as Timed;
    const { place, at } = first;
    const beat = beatTicks(place.metre);
    const ticks = events.reduce((sum, e) => sum + e.event.ticks, 0);
    const intoBeat = (place.offset + at - place.at) % beat;
    const onBeat = intoBeat === 0 || intoBeat + ticks > beat;
    const next = notes[i + 1]?.[0];
    const cadence = phraseEnds.has(place.index) && (next === undefined || next.place.index !== place.index);
    const before = notes[i - 1]?.[0];
    const steps = [before, next].some((n) => n && Math.abs(diatonic(topOf(n)) - diatonic(topOf(first))) <= 1);
    const melody = side === "below" ? lowestOf(first.event.pitches) : highestOf(first.event.pitches);
    return { first, events, at, ticks, onBeat, melody, sound: midi(melody), position: diatonic(melody), key: place.key, chord: chords(at), side, weighty: onBeat || ticks * 2 > beat || !steps, cadence };
  });
}

const topOf = ({ event }: Timed) => highestOf(event.pitches);
const highestOf = (pitches: readonly Pitch[]) => pitches.reduce((a, b) => (diatonic(b) > diatonic(a) ? b : a));
const lowestOf = (pitches: readonly Pitch[]) => pitches.reduce((a, b) => (diatonic(b) < diatonic(a) ? b : a));
