import { z } from "zod";
import { ChordLock, freed, settled } from "../chords";
import { Backing } from "../performance";
import { allBars, type Bar, lengthOf, Tune } from "../score";

/** All that a teacher has decided about one tune. Everything else is derived from it. */
export const Work = z.object({
  version: z.literal(1),
  tune: Tune,
  style: z.string().max(40),
  school: z.string().max(40),
  side: z.enum(["below", "above"]),
  /** Keep the chords printed in the file, where it has any. */
  fileChords: z.boolean(),
  locks: z.array(ChordLock).max(4000),
  /** How the chords are heard under the tune. */
  backing: Backing.default("bass and chord"),
});
export type Work = z.infer<typeof Work>;

/** The work on a tune that has just come in. */
export const newWork = (tune: Tune): Work => ({
  version: 1, tune, style: "Three-chord", school: "Chord-fit", side: "below", locks: [],
  backing: "bass and chord", fileChords: tune.strains.some((s) => s.bars.some((b) => b.chords.length > 0)),
});

/** The work with chords settled in their places; what was settled there before gives way. */
export const lockChords = (work: Work, locks: readonly ChordLock[]): Work => ({ ...work, locks: settled(work.locks, locks) });

/** Frees places again. */
export const unlockChords = (work: Work, places: readonly Omit<ChordLock, "symbol">[]): Work => ({ ...work, locks: places.reduce<ChordLock[]>(freed, work.locks) });

/**
 * The work with its tune edited. Locks go with the bars they stand in, wherever those come to lie; a lock whose bar was changed stays by
 * its order while the number of bars is the same, and is let go otherwise.
 */
export function withTune(work: Work, tune: Tune): Work {
  const [before, after] = [allBars(work.tune), allBars(tune)];
  const order = new Map(after.map((bar, i) => [bar, i]));
  const locks = work.locks.flatMap((lock): ChordLock[] => {
    const bar = order.get(before[lock.bar] as Bar) ?? (before.length === after.length ? lock.bar : undefined);
    return bar !== undefined && lock.at < lengthOf((after[bar] as Bar).events) ? [{ ...lock, bar }] : [];
  });
  return { ...work, tune, locks };
}
