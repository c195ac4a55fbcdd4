import { danced, type Groove, grooveOf, laidOver } from "../feel";
import { perform } from "../performance";
import { beatTicks, isCompound, type Performance, type Sheet, tempoOf, type Tune } from "../score";
import type { Derived } from "./derive";
import type { Work } from "./work";

/** What stands for playing everything as it is written, among the grooves a tune can be given. */
export const AS_WRITTEN = "as written";

/** The groove of a work: the one that was chosen, or its dance's own; undefined where it is played as written. */
export function grooveFor(work: Work, { analysis }: Pick<Derived, "analysis">): Groove | undefined {
  const name = work.feel.groove ?? analysis.dance.name;
  return name === AS_WRITTEN ? undefined : grooveOf(name, isCompound(work.tune.metre));
}

/** Felt beats a minute of a tune, at a share of its written tempo. */
export const feltBpm = (tune: Tune, percent = 100): number => {
  const tempo = tempoOf(tune);
  return (tempo.bpm * tempo.beat * percent) / 100 / beatTicks(tune.metre);
};

type Options = { percent?: number; chords?: boolean };

/** A sheet of a work as it is danced, at a share of the written tempo: swing and accents are those of that tempo. */
export function performed(
  work: Work,
  derived: Pick<Derived, "analysis">,
  sheet: Sheet,
  { percent = 100, chords = true }: Options = {},
): Performance {
  const { form } = derived.analysis;
  const straight = perform(work.tune, sheet, { straight: true, chords, backing: work.backing });
  const ends = new Set(form.phrases.map((p) => p.to));
  const laid = laidOver(grooveFor(work, derived), feltBpm(work.tune, percent), work.feel.strength ?? 100, ends);
  return danced(straight, sheet, laid);
}
