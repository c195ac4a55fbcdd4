import { z } from "zod";
import { beatTicks, isCompound, type Line, type Place, type SheetChord, type PlayedNote } from "../score";
import { type Chord, parseChord, semitoneOf } from "../theory";

/**
 * How chords are heard: the bass on the strong beats with the chord after it, one held chord, the chord off the beat
 * alone, or as the tune's strum has them.
 */
export const BACKINGS = ["bass and chord", "block", "off-beats", "strum"] as const;
export const Backing = z.enum(BACKINGS);
export type Backing = z.infer<typeof Backing>;

/** The chords as a line of their own. */
export const CHORD_LINE: Line = { id: "chords", name: "Chords", program: 24 };

/**
 * Lowest bass note (E2) and the middle of the upper voices (C4 and a little below): clear of the tune, clear of mud.
 */
const LOWEST_BASS = 40;
const MIDDLE = 59;
const LOUD = { bass: 52, chord: 37, block: 40 };

const atOrAbove = (pitchClass: number, floor: number) => floor + ((((pitchClass - floor) % 12) + 12) % 12);

/** The bass of a chord within the octave from E2. */
export const bassOf = (chord: Chord): number => atOrAbove(semitoneOf(chord.bass ?? chord.root), LOWEST_BASS);
/**
 * The other bass note of an alternating bass: the chord's fifth below the root where it lies in range, above it
 * otherwise; the bass again where the chord has none.
 */
function fifthOf(chord: Chord): number {
  const fifth = [7, 8, 6].map((above) => (semitoneOf(chord.root) + above) % 12).find((s) => chord.classes.includes(s));
  if (fifth === undefined || chord.bass) return bassOf(chord);
  const below = bassOf(chord) - ((bassOf(chord) - fifth + 144) % 12);
  return below >= LOWEST_BASS - 2 ? below : below + 12;
}

/**
 * The upper notes of a chord in close position (MIDI numbers, low to high): of all inversions round C4 the one that
 * moves least from the chord before,
 * as a keyboard player keeps the hand still. Four notes at most; a fifth is left out before anything else.
 */
export function voicing(chord: Chord, before: readonly number[] = []): number[] {
  const fifth = (semitoneOf(chord.root) + 7) % 12;
  const all = [...new Set(chord.classes)];
  const classes = all.length > 3 ? all.filter((s) => s !== fifth).slice(0, 4) : all;
  const middle = before.length ? before.reduce((a, b) => a + b, 0) / before.length : MIDDLE;
  const shapes = classes.flatMap((lowest) =>
    [47, 59].map((floor) => {
      const first = atOrAbove(lowest, floor);
      return classes.map((s) => atOrAbove(s, first)).sort((a, b) => a - b);
    }),
  );
  const far = (shape: readonly number[]) => {
    const own = shape.reduce((a, b) => a + b, 0) / shape.length;
    return (
      Math.abs(own - middle) * 0.6 +
      Math.abs(own - MIDDLE) +
      shape.reduce((sum, n) => sum + (before.length ? Math.min(...before.map((b) => Math.abs(b - n))) : 0), 0) /
        shape.length
    );
  };
  return shapes.reduce((a, b) => (far(b) < far(a) - 1e-9 ? b : a));
}

/**
 * The chords of one bar as notes that start `at` ticks into the performance. `before` is the last voicing; the new one
 * comes back with the notes.
 */
export function backed(
  chords: readonly SheetChord[],
  place: Place,
  at: number,
  backing: Backing,
  before: readonly number[],
  /** Where off-beats fall: ticks into the full bar. */
  offBeats: readonly number[] = [],
): { notes: PlayedNote[]; voicing: readonly number[] } {
  const beat = beatTicks(place.metre);
  const short = isCompound(place.metre) ? Math.round(beat / 3) : Math.round(beat / 2);
  const own = chords.filter((c) => c.bar === place.index).sort((a, b) => a.at - b.at);
  const notes: PlayedNote[] = [];
  let last = before;
  own.forEach((c, i) => {
    const chord = parseChord(c.symbol);
    const end = own[i + 1]?.at ?? place.ticks;
    if (!chord) return;
    last = voicing(chord, last);
    const play = (noteNumber: number, from: number, ticks: number, velocity: number) =>
      notes.push({ line: CHORD_LINE.id, at: at + from, ticks, noteNumber, cents: 0, velocity });
    if (backing === "block") {
      play(bassOf(chord), c.at, end - c.at, LOUD.block);
      for (const noteNumber of last) play(noteNumber, c.at, end - c.at, LOUD.chord);
      return;
    }
    if (backing === "off-beats" && offBeats.length > 0) {
      for (const off of offBeats) {
        const t = off - place.offset;
        if (t < c.at || t >= end) continue;
        for (const noteNumber of last) play(noteNumber, t, Math.min(short, end - t), LOUD.chord);
      }
      return;
    }
    // In three the bass stands alone on the first beat; otherwise bass and chord take turns, root and fifth.
    const every = place.metre.beats % 3 === 0 && !isCompound(place.metre) ? 3 : 2;
    for (let t = c.at, stroke = 0; t < end; t += beat, stroke++) {
      const low = stroke % every === 0 || beat > end - c.at;
      if (low)
        play(stroke % (every * 2) === every ? fifthOf(chord) : bassOf(chord), t, Math.min(beat, end - t), LOUD.bass);
      if (!low || end - c.at <= beat)
        for (const noteNumber of last) play(noteNumber, t, Math.min(short, end - t), LOUD.chord);
    }
  });
  return { notes, voicing: last };
}
