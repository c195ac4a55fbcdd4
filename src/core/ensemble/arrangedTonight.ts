import { ROLE_RULES, type RoleName } from "../grading";
import type { Performance, Sheet } from "../score";
import { midi } from "../theory";
import type { Derived } from "./derive";
import { type Evening, type GroupPart, loudnessOf } from "./group";
import { arranged, tonicClasses } from "./roadmap";
import { GROUP, groupPartId, performedTonight } from "./tonight";
import type { Work } from "./work";

type All = Pick<Derived, "analysis" | "plan" | "parts">;

/** Roles that begin before the tune, and go round in a vamp. */
const ACCOMPANY = new Set<RoleName>(["bass", "strum", "off-beats", "shuffle drone", "hand drum"]);
/** The parts that begin before the tune; where nobody accompanies, everybody leads in. */
export function leadIn(parts: readonly GroupPart[]): readonly GroupPart[] {
  const own = parts.filter((p) => ACCOMPANY.has(p.role));
  return own.length > 0 ? own : parts;
}
/** Loudness of the last chord beside the tune. */
const CLOSE = 88;

/**
 * Tonight as the roadmap has it, from the introduction to the last chord; as a learner hears it who plays along where
 * `without` names their part (by `groupPartId`).
 */
export function arrangedTonight(
  work: Work,
  derived: All,
  evening: Evening,
  sheet: Sheet,
  { percent = 100, without }: { percent?: number; without?: string } = {},
): Performance {
  const { roadmap, parts } = evening;
  const { places, key } = derived.analysis;
  const all = performedTonight(work, derived, evening, sheet, GROUP, percent);
  const named = {
    ...roadmap,
    columns: roadmap.columns.map((c) => ({
      ...c,
      plays: c.plays.map(groupPartId).filter((id) => id !== without),
      louder: c.louder.map(groupPartId),
    })),
  };
  const classes = tonicClasses(key.key, roadmap.ending === "slow, open chord");
  return arranged(all, places, named, {
    accompany: new Set(
      leadIn(parts)
        .map((p) => groupPartId(p.id))
        .filter((id) => id !== without),
    ),
    close: parts.map((p) => ({
      line: groupPartId(p.id),
      pitches: lastPitches(p, classes),
      velocity: Math.round(CLOSE * loudnessOf(p)),
    })),
  });
}

/** What a part sounds in the last chord: of its own notes the one of the chord that is nearest to its last. */
function lastPitches({ role, on, notes }: GroupPart, classes: readonly number[]): number[] {
  const last = notes.at(-1);
  if (!last) return [];
  if (on.family === "drum") return [midi(on.lowest)];
  if (ROLE_RULES[role].kind === "chords") {
    const shape = notes.findLast((n) => n.pitches.length > 0 && n.pitches.every((p) => classes.includes(p % 12)));
    return [...(shape ?? last).pitches].filter((p) => classes.includes(p % 12));
  }
  const from = last.pitches[0] ?? 0;
  const own = [...new Set(notes.flatMap((n) => n.pitches))].filter((p) => classes.includes(p % 12));
  const [nearest] = own.sort((a, b) => Math.abs(a - from) - Math.abs(b - from));
  return nearest === undefined ? [] : [nearest];
}
