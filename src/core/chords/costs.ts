import type { LocalCost, MoveCost } from "../search";
import { type Chord, chordNoteName, degreeOf, type Key, parseClass } from "../theory";
import type { NoteRole } from "./model";
import type { Heard, Segment } from "./segments";
import weights from "./weights.json";

/** A state of the search: a chord, the key it is heard in, and whether the style allows it. */
export type Candidate = { chord: Chord; degree: number; allowed: boolean };

export const candidate = (chord: Chord, key: Key, allowed: boolean): Candidate => ({ chord, degree: degreeOf(parseClass(chord.root), key), allowed });

/** What a melody note does in a chord: a chord note by name, or the kind of foreign note it is. */
export function roleOf(note: Heard, chord: Chord): NoteRole {
  const name = chordNoteName(chord, note.sound);
  if (name === "root" || name === "third" || name === "fifth" || name === "seventh") return name;
  return name ? "third" : note.outside;
}

const inside = weights.noteInside as Partial<Record<NoteRole, number>>;
const outside = weights.noteOutside as Partial<Record<NoteRole, number>>;

/** Costs of one chord on one beat, each under the name a musician would give it. */
export const localCosts = (cut: readonly Segment[]): LocalCost<Candidate>[] => [
  { name: "melody notes in the chord", at: (i, s) => total(cut[i], (n) => n.weight * (inside[roleOf(n, s.chord)] ?? 0)) },
  { name: "melody notes outside the chord", at: (i, s) => total(cut[i], (n) => n.weight * (outside[roleOf(n, s.chord)] ?? 0)) },
  { name: "a seventh the melody does not sound", at: (i, s) => (s.chord.suffix === "7" && !cut[i]?.notes.some((n) => roleOf(n, s.chord) === "seventh") ? weights.seventhUnsounded : 0) },
  { name: "home chord", at: (_, s) => (s.degree === 1 ? weights.home : 0) },
  { name: "not a chord of the style", at: (_, s) => (s.allowed ? 0 : weights.outsideStyle) },
  { name: "opening away from the tonic", at: (i, s) => (i === 0 && s.degree !== 1 ? weights.opening : 0) },
  { name: "ending away from the tonic", at: (i, s) => (i === cut.length - 1 && s.degree !== 1 ? weights.ending * (s.degree === 5 || s.degree === 7 ? 0.6 : 1) : 0) },
  { name: "phrase ending on neither tonic nor dominant", at: (i, s) => (cut[i]?.phraseEnd && i < cut.length - 1 && ![1, 5, 7].includes(s.degree) ? weights.phraseEnd : 0) },
];

const progression = weights.progression as Record<string, number>;

/** Costs of going from chord to chord. */
export const moveCosts = (cut: readonly Segment[]): MoveCost<Candidate>[] => [
  { name: "change of chord", into: (i, a, b) => (a.chord.symbol === b.chord.symbol ? 0 : weights.change[cut[i]?.start ?? "beat"] * (a.chord.root === b.chord.root ? weights.sameRoot : 1)) },
  { name: "progression", into: (_, a, b) => (a.chord.root === b.chord.root ? 0 : (progression[`${a.degree}-${b.degree}`] ?? progression.other ?? 0)) },
];

const total = (segment: Segment | undefined, pay: (note: Heard) => number) => {
  let sum = 0;
  for (const note of segment?.notes ?? []) sum += pay(note);
  return sum;
};
