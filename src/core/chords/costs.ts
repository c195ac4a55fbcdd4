import type { LocalCost, MoveCost } from "../search";
import { type Chord, chord as chordOf, chordNoteName, degreeOf, type Key, parseClass, semitoneOf } from "../theory";
import { verdict } from "./ear";
import { type Beat, type Block, BLOCKS, gather, gatherMove, inTriad } from "./features";
import { LABELS, labelOf } from "./labels";
import { type Dress, dressCost, dressMove } from "./colour";
import type { NoteRole } from "./model";
import type { Heard, Segment } from "./segments";
import weights from "./weights.json";

/** A state of the search: a chord, the model's label for it in the key it is heard in, and whether the style allows it, and what it wears. */
export type Candidate = { chord: Chord; degree: number; label: number; /** Sounds of its root and of its bass. */ root: number; bass: number; allowed: boolean; dress?: Dress };

/** The model knows major and minor thirds; a chord without a third is heard as the scale would fill it. */
export const candidate = (chord: Chord, key: Key, allowed: boolean): Candidate => {
  const root = semitoneOf(chord.root);
  const has = (above: number) => chord.sounds.includes((root + above) % 12);
  const above = (root - semitoneOf(key.tonic) + 12) % 12;
  const filled = !has(3) && !has(4) && ["dorian", "minor", "phrygian", "locrian"].includes(key.mode) && [0, 5, 7].includes(above);
  return { chord, degree: degreeOf(parseClass(chord.root), key), label: labelOf(above, (has(3) && !has(4)) || filled), root, bass: semitoneOf(chord.bass ?? chord.root), allowed };
};

/** A dressed chord is heard as its plain triad. */
export function dressed(dress: Dress, key: Key): Candidate {
  const chord = chordOf(dress.symbol);
  return { ...candidate(chordOf(dress.plain), key, true), chord, bass: semitoneOf(chord.bass ?? chord.root), dress };
}

/** What a melody note does in a chord: a chord note by name, or the kind of foreign note it is. */
export function roleOf(note: Heard, chord: Chord): NoteRole {
  const name = chordNoteName(chord, note.sound);
  if (name === "root" || name === "third" || name === "fifth" || name === "seventh") return name;
  return name ? "third" : note.outside;
}

/** What each kind of evidence is called. */
const NAMES: Record<Block, string> = {
  note: "melody notes in the chord", lead: "melody notes in the chord", outside: "melody notes outside the chord", bar: "the notes around it", before: "the notes around it", after: "the notes around it",
  spelled: "how much of the chord is heard", spelledBar: "how much of the chord is heard", place: "habit of the mode", degree: "what players put under these notes", degreeDown: "what players put under these notes",
  spot: "place in the phrase", move: "progression", cadence: "cadence", change: "change of chord", changeSpot: "change of chord", phraseChange: "change of chord",
};
const LOCAL = [...new Set([...(["note", "outside", "bar", "spelled", "place", "degree", "spot"] as const).map((b) => NAMES[b])])];
const MOVES = [NAMES.move, NAMES.cadence, NAMES.change];
/** Where each block's name stands in the lists above, and the blocks whose notes go by two names. */
const PLACE = Object.fromEntries((Object.keys(BLOCKS) as Block[]).map((block) => [block, Math.max(LOCAL.indexOf(NAMES[block]), MOVES.indexOf(NAMES[block]))])) as Record<Block, number>;
const FOREIGN = PLACE.outside;
const BY_NOTE: ReadonlySet<Block> = new Set(["note", "lead"]);

const tables = Object.fromEntries((Object.keys(BLOCKS) as Block[]).map((block) => [block, Float64Array.from((weights.tables as Record<Block, number[]>)[block])])) as Record<Block, Float64Array>;

const beatsKnown = new WeakMap<Beat, Float64Array[]>();
const verdictsKnown = new WeakMap<Beat, (readonly [major: number, minor: number] | undefined)[]>();

/** What the ear charges for a label at a beat. It listens from the roots of the chords in play, and once from each. */
function heardCost(beat: Beat, label: number): number {
  const root = label >> 1;
  const known = verdictsKnown.get(beat) ?? [];
  const points = known[root] ?? verdict(beat.heard, root);
  known[root] = points;
  verdictsKnown.set(beat, known);
  return -(points[label & 1] as number);
}

/** Costs of all 24 labels at one beat, a list for each name: what the fitted model says, with its sign turned. */
function priced(beat: Beat): Float64Array[] {
  const found = beatsKnown.get(beat);
  if (found) return found;
  const made = LOCAL.map(() => new Float64Array(LABELS));
  for (let label = 0; label < LABELS; label++) {
    gather(beat, label, (block, index, value) => {
      const foreign = BY_NOTE.has(block) && !inTriad(label & 1, Math.floor(index / 3) % 12);
      made[foreign ? FOREIGN : PLACE[block]]![label]! -= (tables[block][index] as number) * value;
    });
  }
  beatsKnown.set(beat, made);
  return made;
}

const movesKnown = new Map<number, Float64Array[]>();

/** Costs of every move between labels into a beat, a table for each name. Beats of a kind share them, in every tune: there are a few hundred kinds. */
function pricedMoves(beat: Beat): Float64Array[] {
  const found = movesKnown.get(moveId(beat));
  if (found) return found;
  const made = MOVES.map(() => new Float64Array(LABELS * LABELS));
  for (let a = 0; a < LABELS; a++) for (let b = 0; b < LABELS; b++) gatherMove(beat, a, b, (block, index, value) => { made[PLACE[block]]![a * LABELS + b]! -= (tables[block][index] as number) * value; });
  movesKnown.set(moveId(beat), made);
  return made;
}

/** Costs of one chord on one beat, each under the name a musician would give it. */
export function localCosts(cut: readonly Segment[], beats: readonly Beat[], keys: readonly Key[]): LocalCost<Candidate>[] {
  const at = beats.map(priced);
  const heard = (i: number, { chord }: Candidate) => cut[i]?.notes.some((n) => chordNoteName(chord, n.sound) === "seventh") ?? false;
  return [
    { name: "how such a phrase is heard", at: (i, s) => heardCost(beats[i] as Beat, s.label) },
    ...LOCAL.map((name, n): LocalCost<Candidate> => ({ name, at: (i, s) => at[i]?.[n]?.[s.label] as number })),
    { name: "a seventh the melody does not sound", at: (i, s) => (!s.dress && s.chord.suffix.includes("7") ? (heard(i, s) ? weights.seventhSounded : weights.seventhUnsounded) : 0) },
    dressCost(cut, keys),
    { name: "not a chord of the style", at: (_, s) => (s.allowed ? 0 : weights.outsideStyle) },
  ];
}

/** What the cost of a move into a beat depends on, beside the two chords. */
export const moveId = (beat: Beat): number => (((Number(beat.table > 1) * 8 + beat.build) * 4 + beat.start) * 16 + beat.spot) * 2 + Number(beat.phrase);

/** Costs of going from chord to chord. */
export function moveCosts(beats: readonly Beat[]): MoveCost<Candidate>[] {
  const moves = beats.map(pricedMoves);
  return [
    ...MOVES.map((name, n): MoveCost<Candidate> => ({ name, into: (i, a, b) => moves[i]?.[n]?.[a.label * LABELS + b.label] as number })),
    dressMove,
    { name: "another form of the same chord", into: (_, a, b) => (a.label === b.label && a.chord.symbol !== b.chord.symbol ? weights.sameRoot : 0) },
  ];
}
