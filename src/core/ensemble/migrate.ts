import { z } from "zod";
import { ChordLock } from "../chords";
import { HarmonyLock } from "../harmony";
import { Backing } from "../performance";
import { StoredTune } from "../score";
import { record } from "../theory";
import { harmonyRole, newLine, newPlayer, NO_FEEL, type Player, Work } from "./work";

const Side = z.enum(["below", "above"]);
const School = z.string().max(40);

/** Work as version 1 stored it: one harmony line with a second beside it, and three parts nobody was named for. */
const Work1 = record({
  version: z.literal(1),
  tune: StoredTune,
  style: z.string().max(40),
  school: School,
  side: Side,
  fileChords: z.boolean(),
  locks: z.array(ChordLock).max(4000),
  second: record({ school: School, side: Side }).nullable().default(null),
  barSchools: z
    .array(record({ bar: z.int().min(0), school: School }))
    .max(4000)
    .default([]),
  harmonyLocks: z.array(HarmonyLock).max(8000).default([]),
  backing: Backing.default("bass and chord"),
});

/** The three parts of version 1 as three players, its second line as a fourth. Parts keep the ids they had. */
function fromVersion1(stored: unknown): Work {
  const {
    version: _,
    tune,
    style,
    school,
    side,
    fileChords,
    locks,
    second,
    barSchools,
    harmonyLocks,
    backing,
    ...rest
  } = Work1.parse(stored);
  const first = { ...newLine("line-1", school, side), bars: barSchools, locks: harmonyLocks };
  const other = second && newLine("line-2", second.school, second.side);
  const players: Player[] = [
    newPlayer("melody", "melody"),
    newPlayer("moving", harmonyRole(side), first),
    ...(other ? [newPlayer("second", harmonyRole(other.side), other)] : []),
    newPlayer("first", "one-note harmony"),
  ];
  const lines = other ? [first, other] : [first];
  return { ...rest, version: 2, tune, style, fileChords, locks, backing, lines, players, feel: NO_FEEL, passes: [] };
}

/** Ways up from older versions, each to the newest. */
const FROM: ReadonlyMap<unknown, (stored: unknown) => unknown> = new Map([[1, fromVersion1]]);

/**
 * Reads stored work of any version as the newest. Throws a ZodError that names the field where it does not hold
 * together.
 */
export function readWork(stored: unknown): Work {
  const version = typeof stored === "object" && stored !== null && "version" in stored ? stored.version : undefined;
  const up = FROM.get(version);
  return Work.parse(up ? up(stored) : stored);
}
