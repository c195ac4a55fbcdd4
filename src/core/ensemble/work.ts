import { z } from "zod";
import { ChordLock, freed, settled } from "../chords";
import { HarmonyLock } from "../harmony";
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
  /** A second harmony line beside the first. */
  second: z
    .object({ school: z.string().max(40), side: z.enum(["below", "above"]) })
    .nullable()
    .default(null),
  /** Bars (indexes) whose harmony follows another school, and harmony notes the teacher has settled. */
  barSchools: z
    .array(z.object({ bar: z.int().min(0), school: z.string().max(40) }))
    .max(4000)
    .default([]),
  harmonyLocks: z.array(HarmonyLock).max(8000).default([]),
  /** How the chords are heard under the tune. */
  backing: Backing.default("bass and chord"),
});
export type Work = z.infer<typeof Work>;

/** The work on a tune that has just come in. */
export const newWork = (tune: Tune): Work => ({
  version: 1,
  tune,
  style: "Three-chord",
  school: "Chord-fit",
  side: "below",
  locks: [],
  backing: "bass and chord",
  second: null,
  barSchools: [],
  harmonyLocks: [],
  fileChords: tune.strains.some((s) => s.bars.some((b) => b.chords.length > 0)),
});

/** The work with chords settled in their places; what was settled there before gives way. */
export const lockChords = (work: Work, locks: readonly ChordLock[]): Work => ({
  ...work,
  locks: settled(work.locks, locks),
});

/** Frees places again. */
export const unlockChords = (work: Work, places: readonly Omit<ChordLock, "symbol">[]): Work => ({
  ...work,
  locks: places.reduce<ChordLock[]>(freed, work.locks),
});

/** The work with a harmony note settled, or freed where no pitch is given (null settles a rest). */
export const lockNote = (work: Work, { bar, at }: Omit<HarmonyLock, "pitch">, pitch?: HarmonyLock["pitch"]): Work => ({
  ...work,
  harmonyLocks: [
    ...work.harmonyLocks.filter((l) => l.bar !== bar || l.at !== at),
    ...(pitch === undefined ? [] : [{ bar, at, pitch }]),
  ],
});

/** The work with some bars' harmony by another school; the tune's own school where none is named. */
export const schoolBars = (work: Work, from: number, to: number, school: string): Work => ({
  ...work,
  barSchools: [
    ...work.barSchools.filter((b) => b.bar < from || b.bar > to),
    ...(school === work.school ? [] : Array.from({ length: to - from + 1 }, (_, i) => ({ bar: from + i, school }))),
  ],
});

/**
 * The work with its tune edited. Locks go with the bars they stand in, wherever those come to lie; a lock whose bar was
 * changed stays by
 * its order while the number of bars is the same, and is let go otherwise.
 */
export function withTune(work: Work, tune: Tune): Work {
  const [before, after] = [allBars(work.tune), allBars(tune)];
  const order = new Map(after.map((bar, i) => [bar, i]));
  const moved = <T extends { bar: number; at: number }>(list: readonly T[]): T[] =>
    list.flatMap((own) => {
      const bar = order.get(before[own.bar] as Bar) ?? (before.length === after.length ? own.bar : undefined);
      return bar !== undefined && own.at < lengthOf((after[bar] as Bar).events) ? [{ ...own, bar }] : [];
    });
  const barSchools = moved(work.barSchools.map((b) => ({ ...b, at: 0 }))).map(({ bar, school }) => ({ bar, school }));
  return { ...work, tune, locks: moved(work.locks), harmonyLocks: moved(work.harmonyLocks), barSchools };
}
