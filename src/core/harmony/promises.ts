import type { Instrument } from "../instruments";
import type { LocalLimit, MoveLimit } from "../search";
import { midi } from "../theory";
import type { Choice } from "./choice";
import type { Slot, Under } from "./slots";

/**
 * Semitones, folded into an octave, that may not meet the melody on a beat: the semitone either way, and the tritone.
 */
const HARSH = [1, 6, 11];

/** How far a note lies from a melody note on the line's own side, in semitones; below 0 it has crossed. */
const gapTo = ({ number }: Choice, under: Under, { side }: Slot) =>
  (number - under.number) * (side === "below" ? -1 : 1);

/** A promise about one note over its slot. */
type Promised = { name: string; kept: (choice: Choice, slot: Slot, on: Instrument) => boolean };

/** What every line promises about one note, beside what its school asks for. */
const PROMISES: readonly Promised[] = [
  {
    name: "in the range of the instrument",
    kept: ({ number }, _, on) => number >= midi(on.lowest) && number <= midi(on.highest),
  },
  {
    name: "in the key, the chord or the melody’s own form",
    kept: ({ chromatic, fits, sounded }) => !chromatic || fits || sounded,
  },
  {
    name: "a phrase ends on a note of its chord",
    kept: ({ fits }, { cadence, chord, school }) => !cadence || chord === null || school.plain === true || fits,
  },
  {
    name: "no tritone with a leading note at a close",
    kept: ({ gap }, { closing, leading }) => !closing || !leading || gap !== 6,
  },
  {
    name: "never across the melody",
    kept: (choice, slot) => slot.unders.every((under) => gapTo(choice, under, slot) >= 0),
  },
  {
    name: "no semitone or tritone with the melody on a beat",
    kept: (choice, slot) =>
      slot.unders.every((under) => !under.strong || !HARSH.includes(Math.abs(gapTo(choice, under, slot)) % 12)),
  },
  {
    name: "no semitone beside the melody's own step",
    kept: (choice, slot) =>
      slot.unders.every((under) => gapTo(choice, under, slot) % 12 !== 1 || choice.pitch?.step === under.pitch.step),
  },
  {
    name: "what the school asks for",
    kept: (choice, slot) => !slot.school.musts?.some((must) => must.broken(choice, slot)),
  },
];

/** Whether a note keeps every promise over its slot. */
export const isKept = (choice: Choice, slot: Slot, on: Instrument): boolean =>
  PROMISES.every((promise) => promise.kept(choice, slot, on));

/**
 * The promises about notes as limits of the search. A rest keeps them all, and so does every free choice, since
 * `choices` offers no other: only what is settled (by slot) can break one.
 */
export const noteLimits = (
  slots: readonly Slot[],
  on: Instrument,
  settled: (slot: number) => boolean,
): LocalLimit<Choice>[] =>
  PROMISES.map(({ name, kept }) => ({
    name,
    broken: (i, choice) => settled(i) && choice.pitch !== null && !kept(choice, slots[i] as Slot, on),
  }));

/** The promise about going on: no two fifths, octaves or unisons running, but for octaves in schools that want them. */
export const running = (slots: readonly Slot[]): MoveLimit<Choice> => ({
  name: "no running fifths or octaves",
  broken: (i, a, b) => runs(slots[i - 1] as Slot, a, slots[i] as Slot, b),
});

/** A note that passes or neighbours does so: reached by step its own way, and left as it says. */
export const stepwise = (slots: readonly Slot[]): MoveLimit<Choice> => ({
  name: "what passes goes on by step",
  broken: (i, a, b) => {
    if (!isFigure(a) && !isFigure(b)) return false;
    if (!adjoin(slots[i - 1], slots[i])) return true;
    return (isFigure(b) && !steps(a, b, b.way)) || (isFigure(a) && !steps(a, b, leaves(a)));
  },
});
/** Whether one slot follows another with no rest between. */
export const adjoin = (a: Slot | undefined, b: Slot | undefined): boolean =>
  a !== undefined && b !== undefined && a.at + a.ticks === b.at;
const isFigure = ({ figure }: Choice) => figure === "passing" || figure === "neighbour";
const steps = (a: Choice, b: Choice, way: number) => a.pitch !== null && b.pitch !== null && b.place - a.place === way;
const leaves = ({ figure, way }: Choice) => (figure === "passing" ? way : -way);

/** Fifths and octaves by their semitones folded into an octave; every other interval is none of our business. */
const perfect = (line: number, melody: number): 0 | 7 | undefined => {
  const gap = Math.abs(line - melody) % 12;
  return gap === 0 || gap === 7 ? gap : undefined;
};

/**
 * Whether two voices go from one fifth, octave or unison to another of the same kind: counted from note start to note
 * start, and where one note hands over to the next.
 */
function runs(before: Slot, a: Choice, after: Slot, b: Choice): boolean {
  const next = after.unders[0];
  if (!a.pitch || !b.pitch || !next) return false;
  const [first, last] = [before.unders[0], before.unders[before.unders.length - 1]];
  const lineMoves = a.number !== b.number;
  return [first, last].some((from) => {
    if (!from) return false;
    const gap = perfect(a.number, from.number);
    const melodyMoves = from.number !== next.number;
    // Over a held note of an independent line the melody may leap from octave to octave.
    const moves = after.school.pace === "melody" ? lineMoves || melodyMoves : lineMoves && melodyMoves;
    const wanted = gap === 0 && before.school.octaves === true && after.school.octaves === true;
    return gap !== undefined && !wanted && gap === perfect(b.number, next.number) && moves;
  });
}
