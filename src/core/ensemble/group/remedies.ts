import { ROLE_RULES } from "../../grading";
import { LEVELS } from "../../instruments";
import { type FitKind, type Misfit, toChange } from "./fit";
import type { Change, GroupPart } from "./model";

/** What helps against what, the likeliest first. */
const HELPS: Readonly<Record<FitKind, readonly Change[]>> = {
  clash: ["another note", "rest", "octave lower"],
  "held second": ["another note", "rest"],
  crowding: ["octave lower", "octave higher", "quieter", "rest"],
  mud: ["octave higher", "rest"],
  buried: ["quieter", "octave lower", "rest"],
};
/** What only a line of single notes can do. */
const LINES = new Set<Change>(["another note", "octave lower", "octave higher"]);

/** Who makes room where two are in each other's way, and how they can; undefined where both have the tune. */
export function remediesOf(
  parts: readonly GroupPart[],
  { a, b, kind }: Misfit,
): { part: GroupPart; changes: Change[] } | undefined {
  const fitted = (id: string) => {
    const part = parts.find((p) => p.id === id);
    return part && { ...part, level: LEVELS.indexOf(part.learner.level) };
  };
  const [one, other] = [fitted(a), fitted(b)];
  if (!one || !other) return undefined;
  const { id } = toChange(one, other);
  const part = parts.find((p) => p.id === id);
  if (!part || ROLE_RULES[part.role].group === "tune") return undefined;
  const line = ROLE_RULES[part.role].kind === "line";
  return { part, changes: HELPS[kind].filter((change) => line || !LINES.has(change)) };
}
