import { type Groove, grooveOf, movedGroove } from "../feel";
import { beatTicks, isCompound, tempoOf, type Tune } from "../score";
import type { Derived } from "./derive";
import type { Feel, PassFeel, Work } from "./work";

/** What stands for playing everything as it is written, among the grooves a tune can be given. */
export const AS_WRITTEN = "as written";

/**
 * The groove of a work as it has been moved: the one that was chosen, or its dance's own; undefined where it is played
 * as written. Another may be named for one time through.
 */
export function grooveFor(
  work: Work,
  { analysis }: Pick<Derived, "analysis">,
  other: string | null = null,
): Groove | undefined {
  const name = other ?? work.feel.groove ?? analysis.dance.name;
  const found = name === AS_WRITTEN ? undefined : grooveOf(name, isCompound(work.tune.metre));
  if (!found) return undefined;
  const { own, tight } = work.feel;
  const moved = own?.groove === found.name ? { accents: own.accents, lean: own.lean.map((l) => l / 1000) } : {};
  return movedGroove(found, { ...moved, ...(tight === undefined ? {} : { tight: tight / 10 }) });
}

/** Felt beats a minute of a tune, at a share of its written tempo. */
export const feltBpm = (tune: Tune, percent = 100): number => {
  const tempo = tempoOf(tune);
  return (tempo.bpm * tempo.beat * percent) / 100 / beatTicks(tune.metre);
};

/** The feel of one time through a strain, where it has its own. */
export const passFeel = ({ feel }: Pick<Work, "feel">, strain: number, pass: number): PassFeel | undefined =>
  feel.passes?.find((p) => p.strain === strain && p.pass === pass);

/** The work with what is said of its groove changed. */
export const changeGroove = (work: Work, change: Partial<Feel>): Work => ({
  ...work,
  feel: { ...work.feel, ...change },
});

/** The work with another feel for one time through a strain; all of it null is as the whole tune. */
export function changePass(work: Work, pass: PassFeel): Work {
  const others = (work.feel.passes ?? []).filter((p) => p.strain !== pass.strain || p.pass !== pass.pass);
  const plain = [pass.groove, pass.cell, pass.bowing, pass.strum].every((v) => v === null);
  return changeGroove(work, { passes: plain ? others : [...others, pass] });
}
