import { strength } from "../score";
import type { LocalCost } from "../search";
import { alterIn, type Chord, className, type Key, parseClass, type Pitch, semitoneOf, type Step } from "../theory";
import type { Candidate } from "./candidate";
import { keyAt } from "./keys";
import type { Heard, Segment } from "./segments";
import { TASTE } from "./taste";

const topOf = ({ timed }: Heard) => timed.event.pitches[timed.event.pitches.length - 1] as Pitch;

/** A note that is heard as harmony: on a beat, half a beat long or more, or going nowhere by step. */
export const isReal = (note: Heard, segment: Segment): boolean => note.beats >= 0.5 || isStruck(note, segment);

/** Names of a strain's melody notes, those left out that only pass by or neighbour off the beat. */
export const namesOf = (cut: readonly Segment[], strain: number): Set<string> =>
  new Set(
    cut
      .filter((s) => s.place.strain === strain)
      .flatMap((s) => s.notes.filter((n) => isStruck(n, s)).map((n) => className(topOf(n)))),
  );
const isStruck = (n: Heard, { place }: Segment) =>
  (n.outside !== "passing" && n.outside !== "neighbour") || strength(place, n.timed.at) > 0;

/** The leading note of a minor key, a semitone under its tonic; undefined where the key has it anyway. */
export function raisedSeventh({ tonic, mode }: Key): string | undefined {
  if (!["minor", "dorian", "phrygian"].includes(mode)) return undefined;
  const { step, alter } = parseClass(tonic);
  const below = (["C", "D", "E", "F", "G", "A", "B"] as const).at("CDEFGAB".indexOf(step) - 1) as Step;
  const natural = (semitoneOf(className({ step, alter })) - 1 - semitoneOf(below) + 12) % 12;
  return className({ step: below, alter: natural > 6 ? natural - 12 : natural });
}

/** Forms of letters: what each letter of the melody is in a stretch. */
type Forms = ReadonlyMap<Step, ReadonlySet<number>>;
function formsOf(notes: readonly Pitch[]): Forms {
  const forms = new Map<Step, Set<number>>();
  for (const { step, alter } of notes) forms.set(step, (forms.get(step) ?? new Set()).add(alter));
  return forms;
}

const spelling = new WeakMap<Chord, { step: Step; alter: number; third: boolean }[]>();
/** A chord's notes by letter, its third marked. */
function lettersOf(chord: Chord) {
  const known = spelling.get(chord);
  if (known) return known;
  const root = "CDEFGAB".indexOf(chord.root[0] as string);
  const made = chord.tones.map((name) => {
    const { step, alter } = parseClass(name);
    return { step, alter, third: ("CDEFGAB".indexOf(step) - root + 7) % 7 === 2 };
  });
  spelling.set(chord, made);
  return made;
}

/**
 * What the melody's own spelling says about a chord. A note of it that the melody has in another form at the same beat,
 * or a third whose letter the bar prints with another sign, is denied; a leading note asks for a chord that holds it.
 */
export function spellingCosts(cut: readonly Segment[], keys: readonly Key[]): LocalCost<Candidate>[] {
  const byBar = new Map<Segment["place"], Pitch[]>();
  const real = cut.map((segment) => {
    const notes = segment.notes.filter((n) => isReal(n, segment)).map(topOf);
    byBar.set(segment.place, [...(byBar.get(segment.place) ?? []), ...notes]);
    return notes;
  });
  const beats = real.map(formsOf);
  const bars = new Map(
    [...byBar].map(([place, notes]) => {
      const signed = formsOf(notes);
      const key = keys[place.strain] ?? place.key;
      return [place, new Map([...signed].filter(([step, forms]) => !forms.has(alterIn(key, step))))] as const;
    }),
  );
  const denies = (i: number, { chord }: Candidate) =>
    lettersOf(chord).some(({ step, alter, third }) => {
      const here = beats[i]?.get(step);
      if (here) return !here.has(alter);
      const signed = third ? bars.get((cut[i] as Segment).place)?.get(step) : undefined;
      return signed !== undefined && !signed.has(alter);
    });
  const asks = cut.map((segment, i) => {
    const leading = raisedSeventh(keyAt(keys, segment));
    const heard = leading !== undefined && real[i]?.some((p) => className(p) === leading);
    return heard ? semitoneOf(leading) : undefined;
  });
  return [
    { name: "a note the melody has in another form", at: (i, s) => (denies(i, s) ? TASTE.denied : 0) },
    {
      name: "the leading note asks for its dominant",
      at: (i, { chord }) => {
        const leading = asks[i];
        return leading !== undefined && !chord.classes.includes(leading) ? TASTE.leading : 0;
      },
    },
  ];
}
