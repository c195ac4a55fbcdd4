import { ROLE_RULES, ROLE_WORDS, type RoleName } from "../../grading";
import { LEVELS } from "../../instruments";
import type { Place } from "../../score";
import type { Candidate } from "./assign";

// What is said of an evening: bars by number, why someone has a role, and ways out.

/** Bars by number, in order. */
export const labels = (places: readonly Place[], bars: readonly number[]): string =>
  [...bars]
    .sort((a, b) => a - b)
    .map((b) => String(places[b]?.number ?? b + 1))
    .join(", ");

/** Why someone has the role they have. */
export function reasonOf(
  { learner, on, settled: hand }: Candidate,
  role: RoleName,
  all: readonly { candidate: Candidate; role: RoleName }[],
  before: readonly RoleName[],
): string {
  const words = ROLE_WORDS[role];
  if (hand === role) return `You set this: ${words}.`;
  const level = LEVELS.indexOf(learner.level);
  const beside = all.find(
    (o) =>
      o.candidate.learner !== learner &&
      ROLE_RULES[o.role].group === ROLE_RULES[role].group &&
      LEVELS.indexOf(o.candidate.learner.level) > level,
  );
  const [last] = before;
  const other = last && last !== role ? `; last time it was ${ROLE_WORDS[last]}` : "";
  const suits = `${words[0]?.toUpperCase()}${words.slice(1)} suits ${learner.level} on the ${on.name}${other}`;
  if (level < 2 && beside) return `${suits}; ${beside.candidate.learner.name} leads it.`;
  return ROLE_RULES[role].group === "tune" && level >= 2 ? `${suits}, and the tune needs carrying.` : `${suits}.`;
}

const WAYS: readonly (readonly [RegExp, string])[] = [
  [/tune is carried/, "Take the melody yourself, or an easier tune for tonight."],
  [/someone stronger/, "Play beside them yourself, or move someone stronger there by hand."],
];
/** The nearest way out where something could not be had. */
export const wayOutOf = (must: string): string =>
  WAYS.find(([test]) => test.test(must))?.[1] ?? "Change one role by hand.";
