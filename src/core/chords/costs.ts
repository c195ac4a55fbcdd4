import type { LocalCost, MoveCost } from "../search";
import { type Chord, chord as chordOf, chordNoteName, degreeOf, type Key, parseClass, semitoneOf } from "../theory";
import type { Candidate, Dress } from "./candidate";
import { dressCost, dressMove } from "./colour";
import {
  type Beat,
  type Block,
  BLOCKS,
  gather,
  gatherMove,
  inTriad,
  LABELS,
  labelOf,
  moveId,
  POINTS,
  verdict,
} from "./hearing";
import type { NoteRole } from "./model";
import type { Heard, Segment } from "./segments";
import { TASTE } from "./taste";

/** The model knows major and minor thirds; a chord without a third is heard as the scale would fill it. */
export const candidate = (chord: Chord, key: Key, allowed: boolean): Candidate => {
  const root = semitoneOf(chord.root);
  const has = (above: number) => chord.classes.includes((root + above) % 12);
  const above = (root - semitoneOf(key.tonic) + 12) % 12;
  const filled =
    !has(3) && !has(4) && ["dorian", "minor", "phrygian", "locrian"].includes(key.mode) && [0, 5, 7].includes(above);
  return {
    chord,
    degree: degreeOf(parseClass(chord.root), key),
    label: labelOf(above, (has(3) && !has(4)) || filled),
    root,
    bass: semitoneOf(chord.bass ?? chord.root),
    allowed,
  };
};

/** A dressed chord is heard as its plain triad. */
export function dressed(dress: Dress, key: Key): Candidate {
  const chord = chordOf(dress.symbol);
  return { ...candidate(chordOf(dress.plain), key, true), chord, bass: semitoneOf(chord.bass ?? chord.root), dress };
}

/** What a melody note does in a chord: a chord note by name, or the kind of foreign note it is. */
export function roleOf(note: Heard, chord: Chord): NoteRole {
  const name = chordNoteName(chord, note.pitchClass);
  if (name === "root" || name === "third" || name === "fifth" || name === "seventh") return name;
  return name ? "third" : note.outside;
}

/** What each kind of evidence is called. */
const NAMES: Record<Block, string> = {
  note: "melody notes in the chord",
  lead: "melody notes in the chord",
  outside: "melody notes outside the chord",
  bar: "the notes around it",
  before: "the notes around it",
  after: "the notes around it",
  spelled: "how much of the chord is heard",
  spelledBar: "how much of the chord is heard",
  place: "habit of the mode",
  degree: "what players put under these notes",
  degreeDown: "what players put under these notes",
  spot: "place in the phrase",
  move: "progression",
  cadence: "cadence",
  change: "change of chord",
  changeSpot: "change of chord",
  phraseChange: "change of chord",
};
/** What the network says goes under one name, since it cannot give reasons. */
const NETWORK = "how such a phrase is heard";
const LOCAL = [
  NETWORK,
  ...new Set([...(["note", "outside", "bar", "spelled", "place", "degree", "spot"] as const).map((b) => NAMES[b])]),
];
const MOVES = [NAMES.move, NAMES.cadence, NAMES.change];
/** Where each block's name stands in the lists above, and the blocks whose notes go by two names. */
const PLACE = Object.fromEntries(
  (Object.keys(BLOCKS) as Block[]).map((block) => [
    block,
    Math.max(LOCAL.indexOf(NAMES[block]), MOVES.indexOf(NAMES[block])),
  ]),
) as Record<Block, number>;
const FOREIGN = PLACE.outside;
const HEARD = LOCAL.indexOf(NETWORK);
const BY_NOTE: ReadonlySet<Block> = new Set(["note", "lead"]);

/** What is known of the labels at a beat: a cost for each name in `LOCAL`. */
type Priced = (Float64Array | undefined)[];
const beatsKnown = new WeakMap<Beat, Priced>();

/** The list of a beat, filled label by label as chords come into play, and kept while the beat lives. */
function pricedAt(beat: Beat): Priced {
  const known = beatsKnown.get(beat) ?? [];
  beatsKnown.set(beat, known);
  return known;
}

/** Costs of a label at a beat: what the fitted model says, with its sign turned. */
function price(beat: Beat, label: number, known: Priced): Float64Array {
  const made = new Float64Array(LOCAL.length);
  known[label] = made;
  gather(beat, label, (block, index, value) => {
    const foreign = BY_NOTE.has(block) && !inTriad(label & 1, Math.floor(index / 3) % 12);
    made[foreign ? FOREIGN : PLACE[block]]! -= (POINTS[block][index] as number) * value;
  });
  made[HEARD] = -(verdict(beat.heard, label >> 1)[label & 1] as number);
  return made;
}

const movesKnown = new Map<number, Float64Array[]>();

/**
 * Costs of every move between labels into a beat, a table for each name. Beats of a kind share them, in every tune:
 * there are a few hundred kinds.
 */
function pricedMoves(beat: Beat): Float64Array[] {
  const found = movesKnown.get(moveId(beat));
  if (found) return found;
  const made = MOVES.map(() => new Float64Array(LABELS * LABELS));
  for (let a = 0; a < LABELS; a++)
    for (let b = 0; b < LABELS; b++)
      gatherMove(beat, a, b, (block, index, value) => {
        made[PLACE[block]]![a * LABELS + b]! -= (POINTS[block][index] as number) * value;
      });
  movesKnown.set(moveId(beat), made);
  return made;
}

/** Costs of one chord on one beat, each under the name a musician would give it. */
export function localCosts(
  cut: readonly Segment[],
  beats: readonly Beat[],
  keys: readonly Key[],
): LocalCost<Candidate>[] {
  const at = beats.map(pricedAt);
  const costs = (i: number, label: number) => at[i]?.[label] ?? price(beats[i] as Beat, label, at[i] as Priced);
  const heard = (i: number, { chord }: Candidate) =>
    cut[i]?.notes.some((n) => chordNoteName(chord, n.pitchClass) === "seventh") ?? false;
  const seventh = (i: number, s: Candidate) => {
    if (s.dress || !s.chord.suffix.includes("7")) return 0;
    return heard(i, s) ? TASTE.seventhSounded : TASTE.seventhUnsounded;
  };
  return [
    ...LOCAL.map((name, n): LocalCost<Candidate> => ({ name, at: (i, s) => costs(i, s.label)[n] as number })),
    { name: "a seventh the melody does not sound", at: seventh },
    dressCost(cut, keys),
    { name: "not a chord of the style", at: (_, s) => (s.allowed ? 0 : TASTE.outsideStyle) },
  ];
}

/** Costs of going from chord to chord. */
export function moveCosts(beats: readonly Beat[]): MoveCost<Candidate>[] {
  const moves = beats.map(pricedMoves);
  const into = (n: number) => (i: number, a: Candidate, b: Candidate) =>
    moves[i]?.[n]?.[a.label * LABELS + b.label] as number;
  return [
    ...MOVES.map((name, n): MoveCost<Candidate> => ({ name, into: into(n) })),
    dressMove,
    {
      name: "another form of the same chord",
      into: (_, a, b) => (a.label === b.label && a.chord.symbol !== b.chord.symbol ? TASTE.sameRoot : 0),
    },
  ];
}
