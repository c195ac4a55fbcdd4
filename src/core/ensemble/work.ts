import { z } from "zod";
import { ChordLock } from "../chords";
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
});
export type Work = z.infer<typeof Work>;

/** The work on a tune that has just come in. */
export const newWork = (tune: Tune): Work => ({
  version: 1, tune, style: "Three-chord", school: "Chord-fit", side: "below", locks: [],
  fileChords: tune.strains.some((s) => s.bars.some((b) => b.chords.length > 0)),
});

/** Settles a chord in one place; what was settled there before goes. */
export const lockChord = (work: Work, lock: ChordLock): Work => ({ ...work, locks: [...unlocked(work.locks, lock), { ...lock, by: "teacher" }] });

/** Frees a place again. */
export const unlockChord = (work: Work, place: Omit<ChordLock, "symbol">): Work => ({ ...work, locks: unlocked(work.locks, place) });

const unlocked = (locks: readonly ChordLock[], { bar, at, ticks }: Omit<ChordLock, "symbol">) =>
  locks.filter((l) => l.bar !== bar || l.at + l.ticks <= at || l.at >= at + ticks);

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
