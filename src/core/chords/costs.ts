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

/** What the melody of one beat says about one chord. */
type Fit = { inside: number; outside: number; sounds7: boolean };

/** Fits by beat and chord symbol, each worked out once however often the search asks. */
function fits(cut: readonly Segment[]): (step: number, chord: Chord) => Fit {
  const known = cut.map(() => new Map<string, Fit>());
  return (step, chord) => {
    const found = known[step]?.get(chord.symbol);
    if (found) return found;
    const fit: Fit = { inside: 0, outside: 0, sounds7: false };
    for (const note of cut[step]?.notes ?? []) {
      const role = roleOf(note, chord);
      fit.inside += note.weight * (inside[role] ?? 0);
      fit.outside += note.weight * (outside[role] ?? 0);
      fit.sounds7 ||= role === "seventh";
    }
    known[step]?.set(chord.symbol, fit);
    return fit;
  };
}

/** Costs of one chord on one beat, each under the name a musician would give it. */
export function localCosts(cut: readonly Segment[]): LocalCost<Candidate>[] {
  const fitOf = fits(cut);
  return [
    { name: "melody notes in the chord", at: (i, s) => fitOf(i, s.chord).inside },
    { name: "melody notes outside the chord", at: (i, s) => fitOf(i, s.chord).outside },
    { name: "a seventh the melody does not sound", at: (i, s) => (s.chord.suffix === "7" && !fitOf(i, s.chord).sounds7 ? weights.seventhUnsounded : 0) },
    { name: "home chord", at: (_, s) => (s.degree === 1 ? weights.home : 0) },
    { name: "not a chord of the style", at: (_, s) => (s.allowed ? 0 : weights.outsideStyle) },
    { name: "opening away from the tonic", at: (i, s) => (i === 0 && s.degree !== 1 ? weights.opening : 0) },
    { name: "ending away from the tonic", at: (i, s) => (i === cut.length - 1 && s.degree !== 1 ? weights.ending * (s.degree === 5 || s.degree === 7 ? 0.6 : 1) : 0) },
    { name: "phrase ending on neither tonic nor dominant", at: (i, s) => (cut[i]?.phraseEnd && i < cut.length - 1 && ![1, 5, 7].includes(s.degree) ? weights.phraseEnd : 0) },
  ];
}

const words = weights.progression as Record<string, number>;
/** Cost of going from degree to degree, both from 1. */
const progression = Array.from({ length: 8 }, (_, a) => Array.from({ length: 8 }, (_, b) => words[`${a}-${b}`] ?? words.other ?? 0));

/** Costs of going from chord to chord. */
export const moveCosts = (cut: readonly Segment[]): MoveCost<Candidate>[] => [
  { name: "change of chord", into: (i, a, b) => (a.chord.symbol === b.chord.symbol ? 0 : weights.change[cut[i]?.start ?? "beat"] * (a.chord.root === b.chord.root ? weights.sameRoot : 1)) },
  { name: "progression", into: (_, a, b) => (a.chord.root === b.chord.root ? 0 : (progression[a.degree]?.[b.degree] ?? 0)) },
];
