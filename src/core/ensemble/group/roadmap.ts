import { ROLE_RULES, type RoleName } from "../../grading";
import { LEVELS, type Level } from "../../instruments";

/** Who plays in one time through a strain: the part's ids. */
export type Pass = { strain: string; pass: number; plays: string[] };
type Played = { id: string; role: RoleName; level: Level };

/** Times through the whole that are planned. */
const TIMES = 3;

/** When a role comes in, by the time through: the pulse never drops; beginners wait sixteen bars at most. */
const ENTERS: Readonly<Record<RoleName, number>> = {
  melody: 1,
  "simple melody": 1,
  bass: 1,
  strum: 1,
  "off-beats": 1,
  "hand drum": 1,
  "one-note harmony": 1,
  drone: 1,
  "shuffle drone": 2,
  "low harmony": 2,
  "counter-figure": 2,
  "high harmony": 3,
};

/**
 * Who plays when, three times through: tune, bass, chords and drum first; harmony and shuffle in the second; all in the
 * third. Long notes come in with the second strain. The tune is carried every time.
 */
export function roadmapOf(strains: readonly string[], parts: readonly Played[]): Pass[] {
  const beginner = ({ level }: Played) => LEVELS.indexOf(level) === 0;
  return Array.from({ length: TIMES }, (_, t) => t + 1).flatMap((pass) =>
    strains.map((strain, order): Pass => {
      const plays = parts.filter((p) => {
        const waits = ROLE_RULES[p.role].group === "long notes" && pass === 1 && order === 0 && strains.length > 1;
        const enters = beginner(p) ? 1 : ENTERS[p.role];
        return pass >= enters && !waits;
      });
      return { strain, pass, plays: plays.map((p) => p.id) };
    }),
  );
}
