import { beatTicks, type Place, strength, type Timed } from "../score";
import type { LocalCost, MoveCost } from "../search";
import { type Key, semitoneOf } from "../theory";
import type { Candidate } from "./candidate";
import { keyAt } from "./keys";
import type { Segment } from "./segments";
import { TASTE } from "./taste";

const FIFTH = 7;

/**
 * The root of the dominant where a beat at the end of a phrase leans into it: a note on the beat that falls by step to
 * a note of the dominant that lasts longer, outside both it and the tonic's chord; undefined elsewhere.
 */
function leansInto(cut: readonly Segment[], i: number, key: Key, ends: boolean): number | undefined {
  const { notes, place, at } = cut[i] as Segment;
  const first = notes[0];
  if (!ends || !first || (first.outside !== "appoggiatura" && first.outside !== "suspension")) return undefined;
  if (first.timed.at !== place.at + at || first.timed.event.ticks * 2 < beatTicks(place.metre)) return undefined;
  const next = notes[1] ?? cut[i + 1]?.notes[0];
  if (!next || next.timed.place !== place || next.timed.event.ticks < longer(first.timed, place)) return undefined;
  const tonic = semitoneOf(key.tonic);
  const root = (tonic + FIFTH) % 12;
  const above = (pitchClass: number, from: number) => (pitchClass - from + 12) % 12;
  const inDominant = (pitchClass: number) => [0, 4, 7].includes(above(pitchClass, root));
  const falls = [1, 2].includes(above(first.pitchClass, next.pitchClass));
  const home = [0, 3, 4].includes(above(next.pitchClass, tonic));
  return falls && inDominant(next.pitchClass) && !inDominant(first.pitchClass) && !home ? root : undefined;
}

/** What a leaning note falls to lasts longer than it does, a beat at least. */
const longer = ({ event }: Timed, place: Place) => Math.max(event.ticks + 1, beatTicks(place.metre));

/** A note that leans into the dominant at the end of a phrase is heard over that dominant. */
export function delaying(cut: readonly Segment[], keys: readonly Key[]): LocalCost<Candidate> {
  const ends = new Set(cut.filter((s) => s.phraseEnd).map((s) => s.place));
  const wanted = cut.map((segment, i) => leansInto(cut, i, keyAt(keys, segment), ends.has(segment.place)));
  return {
    name: "the dominant that a leaning note delays",
    at: (i, { root, chord }) => {
      const dominant = wanted[i];
      if (dominant === undefined) return 0;
      return root === dominant && chord.classes.includes((dominant + 4) % 12) ? 0 : TASTE.delayed;
    },
  };
}

/** The beats that hold nothing but a lead-in, after a phrase has ended on the beat before. */
export const leadIns = (cut: readonly Segment[]): boolean[] =>
  cut.map(
    ({ phraseEnd, start, place, at, notes }, i) =>
      phraseEnd &&
      start !== "bar" &&
      i + 1 < cut.length &&
      notes.length > 1 &&
      notes.every((n) => n.beats < 1) &&
      strength(place, place.at + at) < 2,
  );

/** A change under a lead-in needs a reason. */
export const leadingIn = (led: readonly boolean[]): MoveCost<Candidate> => ({
  name: "a change under a lead-in",
  into: (i, a, b) => (led[i] && a.root !== b.root ? TASTE.leadIn : 0),
});
