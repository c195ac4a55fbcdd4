import { beatTicks, type Place } from "../score";
import { midi, parseChord } from "../theory";
import type { HarmonyNote } from "./model";

/** How harsh each interval sounds, in semitones folded into an octave, 0 to 1 (after Plomp and Levelt's roughness, rounded by ear). */
const HARSHNESS = [0, 1, 0.55, 0.05, 0, 0.15, 0.7, 0, 0.05, 0, 0.45, 0.85];
const FOREIGN = 0.25;

/** Clash of each bar by index: harshness against the melody and notes outside the chord, weighed by time and beat; 0 to 100. */
export function clashOf(line: readonly HarmonyNote[], places: readonly Place[]): number[] {
  const sums = places.map(() => ({ harsh: 0, weight: 0 }));
  for (const note of line) {
    const [place, sum] = [places[note.bar], sums[note.bar]];
    if (!place || !sum || !note.pitch || !note.melody) continue;
    const onBeat = (place.offset + note.at - place.at) % beatTicks(place.metre) === 0;
    const weight = note.ticks * (onBeat ? 1.5 : 1);
    const chord = note.chord ? parseChord(note.chord) : null;
    const foreign = chord && !chord.sounds.includes(midi(note.pitch) % 12) ? FOREIGN * (onBeat ? 1 : 0.4) : 0;
    sum.harsh += weight * Math.min(1, (HARSHNESS[Math.abs(midi(note.pitch) - midi(note.melody)) % 12] as number) + foreign);
    sum.weight += weight;
  }
  return sums.map((s) => (s.weight ? Math.round((100 * s.harsh) / s.weight) : 0));
}
